import { tableFile } from "@/platform/tableFile";
import { readAudit } from "./readAudit";

/** The audit, or what of it some words are found in. */
export const auditFile = tableFile({
	key: "audit",
	async read(context, _, ask) {
		const { entries } = await readAudit(context, { limit: 100_000, text: ask("text"), kind: ask("kind"), by: ask("by"), of: ask("of") });
		return {
			currency: context.organisation.company.rules.rates.base,
			columns: [
				{ label: "Number", kind: "count" },
				{ label: "When (UTC)", kind: "text" },
				{ label: "Who", kind: "text" },
				{ label: "What", kind: "text" },
				{ label: "Thing", kind: "text" },
				{ label: "Its name", kind: "text" },
				{ label: "Details", kind: "text" },
			],
			rows: entries.map((entry) => [entry.id, entry.at, entry.who, entry.action, entry.subject, entry.deal?.name ?? entry.about, entry.detail]),
		};
	},
});
