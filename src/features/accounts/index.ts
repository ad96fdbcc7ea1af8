import { capability } from "@/platform/capability";
import { readAccountLog } from "./server/accountLog";
import { readAccountPage } from "./server/accountPage";
import { readActivity } from "./server/activity";
import { accountRoutes } from "./server/apiRoutes";
import { describeDeal } from "./server/describeDeal";
import { changeAccount, giveAccounts, makeAccount } from "./server/editAccounts";
import { changeContact, listContacts, makeContact } from "./server/editContacts";
import { accountsFile } from "./server/files";
import { findAccounts } from "./server/findAccounts";
import { listAccounts } from "./server/listAccounts";
import { makeDeal, unmakeDeal } from "./server/makeDeal";
import { mergeAccounts, previewAccountMerge, unmergeAccounts } from "./server/mergeAccounts";
import { readAccountOfApi } from "./server/readAccount";
import { readAccounts } from "./server/readAccounts";
import { readActivities } from "./server/readActivities";
import { readCare } from "./server/readCare";
import { readTerritories } from "./server/readTerritories";
import { countWaiting, readTurns } from "./server/readTurns";
import { settleActivities } from "./server/settle";
import { listTurns } from "./server/turns";
import { endNoteAtAccount, logAtAccount, noteAtAccount, unlogAtAccount } from "./server/writeAtAccount";

export { readActivity } from "./server/activity";
export { readTurns, type TurnRow } from "./server/readTurns";
export { anybodyKnows } from "./server/touches";

/** Who wasn't spoken to, what they bought, and which lost deals are worth a second visit. */
export const accounts = capability({
	key: "accounts",
	files: [accountsFile],
	commands: [
		logAtAccount,
		unlogAtAccount,
		noteAtAccount,
		endNoteAtAccount,
		settleActivities,
		makeDeal,
		unmakeDeal,
		describeDeal,
		makeAccount,
		changeAccount,
		giveAccounts,
		makeContact,
		changeContact,
		mergeAccounts,
		unmergeAccounts,
	],
	lookups: [previewAccountMerge, findAccounts],
	queries: [
		readAccounts,
		readAccountPage,
		listAccounts,
		readAccountOfApi,
		readAccountLog,
		listTurns,
		readActivity,
		readTerritories,
		readCare,
		readTurns,
		countWaiting,
		readActivities,
		listContacts,
	],
	api: accountRoutes,
	keys: [
		{ key: "J and K", label: "next and previous", on: "/accounts/turns", where: "In whose turn" },
		{ key: "L", label: "log what was said", on: "/accounts/turns", where: "In whose turn" },
		{ key: "A", label: "say when to ask again", on: "/accounts/turns", where: "In whose turn" },
		{ key: "O", label: "open the deal or the account", on: "/accounts/turns", where: "In whose turn" },
	],
	rail: { path: "/accounts", label: "Accounts", key: "a", count: { label: "deals waiting for us", value: countWaiting } },
});
