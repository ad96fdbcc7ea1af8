import { capability } from "@/platform/capability";
import { readAccountLog } from "./server/accountLog";
import { readAccountPage } from "./server/accountPage";
import { readActivity } from "./server/activity";
import { accountRoutes } from "./server/apiRoutes";
import { accountsFile } from "./server/files";
import { listAccounts } from "./server/listAccounts";
import { readAccountOfApi } from "./server/readAccount";
import { readAccounts } from "./server/readAccounts";
import { readActivities } from "./server/readActivities";
import { readTurns } from "./server/readTurns";
import { settleActivities } from "./server/settle";
import { listTurns } from "./server/turns";
import { endNoteAtAccount, logAtAccount, noteAtAccount, unlogAtAccount } from "./server/writeAtAccount";

/** Who wasn't spoken to, what they bought, and which lost deals are worth a second visit. */
export const accounts = capability({
	key: "accounts",
	files: [accountsFile],
	commands: [logAtAccount, unlogAtAccount, noteAtAccount, endNoteAtAccount, settleActivities],
	queries: [readAccounts, readAccountPage, listAccounts, readAccountOfApi, readAccountLog, listTurns, readActivity, readTurns, readActivities],
	api: accountRoutes,
	keys: [
		{ key: "J and K", label: "next and previous", on: "/accounts/turns", where: "In whose turn" },
		{ key: "L", label: "log what was said", on: "/accounts/turns", where: "In whose turn" },
		{ key: "A", label: "say when to ask again", on: "/accounts/turns", where: "In whose turn" },
		{ key: "O", label: "open the deal or the account", on: "/accounts/turns", where: "In whose turn" },
	],
	rail: { path: "/accounts", label: "Accounts", key: "a" },
});
