import type { BundleFile } from "@/formats/bundle/spec";

/** What another system may push: its rows are those of a bundle’s files, columns named as the API names things. */
export interface PushKind {
	readonly key: string;
	readonly one: string;
	/** the file its own row stands in, with its columns but the id */
	readonly file: BundleFile;
	readonly columns: readonly string[];
	/** what of it is kept through time: a row of another file where it differs from what is in force */
	readonly state?: { readonly file: BundleFile; readonly columns: readonly string[] };
}

/** A new kind is one line here. */
export const PUSHED: readonly PushKind[] = [
	{
		key: "deals",
		one: "deal",
		file: "deals.csv",
		columns: ["account_id", "name", "source", "created_at", "competitor", "outcome_reason", "tags"],
		state: { file: "deal_versions.csv", columns: ["stage", "amount", "currency", "close_date", "owner_id", "category", "next_step", "next_step_date"] },
	},
	{
		key: "activities",
		one: "activity",
		file: "activities.csv",
		columns: ["deal_id", "account_id", "contact_ids", "kind", "direction", "state", "at", "by_id", "subject", "body"],
	},
	{ key: "accounts", one: "account", file: "accounts.csv", columns: ["name", "kind", "industry", "territory", "owner_id"] },
	{ key: "contacts", one: "contact", file: "contacts.csv", columns: ["account_id", "name", "title", "email", "buying_role", "reports_to_id"] },
];

/** A column as the API names it: `close_date` is `closeDate`. */
export const apiName = (column: string): string => column.replace(/_(\w)/g, (_, letter: string) => letter.toUpperCase());
