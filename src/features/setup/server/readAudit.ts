import { desc } from "drizzle-orm";
import { connection } from "@/data/db";
import { audit } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dealName, personName } from "@/platform/names";

export interface AuditEntry {
	readonly id: number;
	readonly at: string;
	readonly who: string;
	readonly action: string;
	/** the deal it is about, by name and id */
	readonly deal: { readonly id: string; readonly name: string } | null;
	readonly detail: string;
}

/** The first entries of a list, and how many there are in all. */
export interface AuditView {
	readonly entries: readonly AuditEntry[];
	readonly count: number;
}

/** The last changes of anything by anybody, newest first. */
export const readAudit = query("setup.audit", "readAudit", async (context: Context, limit: number): Promise<AuditView> => {
	const { organisation } = context;
	const { db } = connection();
	const [rows, count] = await Promise.all([db.select().from(audit).orderBy(desc(audit.id)).limit(limit), db.$count(audit)]);
	const entries = rows.map((row) => {
		const index = organisation.dealIndex.get(row.subject ?? "");
		return {
			id: row.id,
			at: row.at.toISOString(),
			who: personName(organisation, row.personId) ?? row.personId ?? "the program",
			action: row.action,
			deal: index === undefined ? null : { id: row.subject ?? "", name: dealName(organisation, index) },
			detail: wordsOf(row.detail),
		};
	});
	return { entries, count };
});

/** The gist of an entry: what was changed from what to what, or its plain values. */
function wordsOf(detail: Record<string, unknown>): string {
	if (Array.isArray(detail.changed)) {
		const changed = detail.changed as { field: string; before: string; after: string }[];
		return changed.map((c) => `${c.field} ${c.before} → ${c.after}`).join("; ") + (detail.reason ? `: “${String(detail.reason)}”` : "");
	}
	const isPlain = (value: unknown) => ["string", "number", "boolean"].includes(typeof value);
	return Object.entries(detail)
		.filter(([, value]) => isPlain(value) || (Array.isArray(value) && value.every(isPlain)))
		.map(
			([name, value]) =>
				`${name} ${Array.isArray(value) ? value.slice(0, 5).join(", ") + (value.length > 5 ? ` and ${value.length - 5} more` : "") : String(value)}`,
		)
		.join(", ");
}
