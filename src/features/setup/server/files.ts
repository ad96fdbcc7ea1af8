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
				{ words: "Number", kind: "count" },
				{ words: "When (UTC)", kind: "text" },
				{ words: "Who", kind: "text" },
				{ words: "What", kind: "text" },
				{ words: "Thing", kind: "text" },
				{ words: "Its name", kind: "text" },
				{ words: "Details", kind: "text" },
			],
			rows: entries.map((entry) => [entry.id, entry.at, entry.who, entry.action, entry.subject, entry.deal?.name ?? entry.about, entry.detail]),
		};
	},
});
