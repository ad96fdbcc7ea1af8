import { desc, ilike, inArray, or, sql } from "drizzle-orm";
import { connection } from "@/data/db";
import { audit } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dealName, personName } from "@/platform/names";
import { detailWords } from "./auditWords";

export interface AuditEntry {
	readonly id: number;
	readonly at: string;
	readonly who: string;
	readonly action: string;
	/** the deal it is about, by name and id */
	readonly deal: { readonly id: string; readonly name: string } | null;
	/** the person it is about, by name */
	readonly about: string | null;
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
			about: index === undefined ? personName(organisation, row.subject) : null,
			detail: detailWords(row.detail, (id) => (organisation.personIndex.has(id) ? personName(organisation, id) : null)),
		};
	});
	return { entries, count };
});
