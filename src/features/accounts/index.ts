import { capability } from "@/platform/capability";
import { readAccountLog } from "./server/accountLog";
import { readActivity } from "./server/activity";
import { accountRoutes } from "./server/apiRoutes";
import { accountsFile } from "./server/files";
import { listAccounts } from "./server/listAccounts";
import { readAccountOfApi } from "./server/readAccount";
import { readAccounts } from "./server/readAccounts";
import { listTurns } from "./server/turns";

/** Who wasn't spoken to, what they bought, and which lost deals are worth a second visit. */
export const accounts = capability({
	key: "accounts",
	files: [accountsFile],
	queries: [readAccounts, listAccounts, readAccountOfApi, readAccountLog, listTurns, readActivity],
	api: accountRoutes,
	rail: { path: "/accounts", label: "Accounts", key: "a" },
});
