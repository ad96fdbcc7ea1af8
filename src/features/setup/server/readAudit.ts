import { desc, ilike, inArray, or, sql } from "drizzle-orm";
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
	/** what it is about, by id */
	readonly subject: string;
	readonly detail: string;
}

/** The first entries of a list, and how many there are in all. */
export interface AuditView {
	readonly entries: readonly AuditEntry[];
	readonly count: number;
}

export interface AuditLook {
	readonly limit: number;
	/** words that an entry holds: what was done, by whom, to what */
	readonly text?: string | undefined;
}

/** Entries in which some words stand. */
function found({ organisation }: Context, text: string) {
	const like = `%${text.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
	const small = text.toLowerCase();
	const people = organisation.people.filter((person) => person.name.toLowerCase().includes(small)).map((person) => person.id);
	const deals = organisation.deals.filter((deal) => deal.name.toLowerCase().includes(small)).map((deal) => deal.id);
	return or(
		ilike(audit.action, like),
		sql`${audit.detail}::text ilike ${like}`,
		ilike(audit.subject, like),
		people.length ? inArray(audit.personId, people) : undefined,
		deals.length ? sql`${audit.subject} = any(${sql.param(deals)})` : undefined,
	);
}

/** The last changes of anything by anybody, newest first. */
export const readAudit = query("setup.audit", "readAudit", async (context: Context, { limit, text }: AuditLook): Promise<AuditView> => {
	const { organisation } = context;
	const { db } = connection();
	const within = text?.trim() ? found(context, text.trim()) : undefined;
	const [rows, count] = await Promise.all([db.select().from(audit).where(within).orderBy(desc(audit.id)).limit(limit), db.$count(audit, within)]);
	const entries = rows.map((row) => {
		const index = organisation.dealIndex.get(row.subject ?? "");
		return {
			id: row.id,
			at: row.at.toISOString(),
			who: personName(organisation, row.personId) ?? row.personId ?? "the program",
			action: row.action,
			deal: index === undefined ? null : { id: row.subject ?? "", name: dealName(organisation, index) },
			subject: row.subject ?? "",
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
