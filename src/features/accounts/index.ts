import { capability } from "@/platform/capability";
import { accountsFile } from "./server/files";
import { readAccounts } from "./server/readAccounts";

/** Who wasn't spoken to, what they bought, and which lost deals are worth a second visit. */
export const accounts = capability({
	key: "accounts",
	files: [accountsFile],
	queries: [readAccounts],
	rail: { path: "/accounts", label: "Accounts", key: "a" },
});
