import { and, desc, eq, ilike, inArray, isNull, or, count as rowCount, sql } from "drizzle-orm";
import { connection } from "@/data/db";
import { audit } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dealName, personName } from "@/platform/names";
import { namesIn } from "./auditNames";
import { detailWords } from "./auditWords";

export interface AuditEntry {
	readonly id: number;
	readonly at: string;
	readonly who: string;
	readonly action: string;
	/** the deal it is about, by name and id */
	readonly deal: { readonly id: string; readonly name: string } | null;
	/** whom or what else it is about, by name */
	readonly about: string | null;
	/** what it is about, by id */
	readonly subject: string;
	readonly detail: string;
}

/** The first entries of a list, and how many there are in all. */
export interface AuditView {
	readonly entries: readonly AuditEntry[];
	readonly count: number;
	/** what can be chosen: every kind of entry that there is, and everybody who did something */
	readonly kinds: readonly { readonly key: string; readonly count: number }[];
	readonly people: readonly { readonly id: string; readonly name: string; readonly count: number }[];
	/** the one thing whose entries are shown, by name */
	readonly of: { readonly id: string; readonly name: string } | null;
}

export interface AuditLook {
	readonly limit: number;
	/** words that an entry holds: what was done, by whom, to what */
	readonly text?: string | undefined;
	/** what was done, as the entries call it */
	readonly kind?: string | undefined;
	/** the id of who did it, or PROGRAM */
	readonly by?: string | undefined;
	/** the id of what it was done to */
	readonly of?: string | undefined;
}

/** chooses what nobody did: what the program does by itself */
export const PROGRAM = "program";

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

/** The last changes of anything by anybody, newest first: all, or those of a kind, by somebody, to one thing. */
export const readAudit = query("setup.audit", "readAudit", async (context: Context, { limit, text, kind, by, of }: AuditLook): Promise<AuditView> => {
	const { organisation } = context;
	const { db } = connection();
	const within = and(
		text?.trim() ? found(context, text.trim()) : undefined,
		kind ? eq(audit.action, kind) : undefined,
		by ? (by === PROGRAM ? isNull(audit.personId) : eq(audit.personId, by)) : undefined,
		of ? or(eq(audit.subject, of), sql`${audit.detail}::text like ${`%${JSON.stringify(of).replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`}`) : undefined,
	);
	const [rows, count, kinds, people] = await Promise.all([
		db.select().from(audit).where(within).orderBy(desc(audit.id)).limit(limit),
		db.$count(audit, within),
		db.select({ key: audit.action, count: rowCount() }).from(audit).groupBy(audit.action).orderBy(audit.action),
		db.select({ id: audit.personId, count: rowCount() }).from(audit).groupBy(audit.personId),
	]);
	const names = await namesIn(db, organisation, [...rows.flatMap(({ subject, detail }) => [subject, detail]), of]);
	const nameOf = (id: string) => names.get(id) ?? null;
	const entries = rows.map((row) => {
		const index = organisation.dealIndex.get(row.subject ?? "");
		return {
			id: row.id,
			at: row.at.toISOString(),
			who: personName(organisation, row.personId) ?? row.personId ?? "the program",
			action: row.action,
			deal: index === undefined ? null : { id: row.subject ?? "", name: dealName(organisation, index) },
			subject: row.subject ?? "",
			about: index === undefined && row.subject ? nameOf(row.subject) : null,
			detail: detailWords(row.detail, nameOf),
		};
	});
	return {
		entries,
		count,
		kinds,
		people: people
			.map((row) => ({ id: row.id ?? PROGRAM, name: row.id === null ? "the program" : (personName(organisation, row.id) ?? row.id), count: row.count }))
			.sort((a, b) => a.name.localeCompare(b.name)),
		of: of ? { id: of, name: nameOf(of) ?? of } : null,
	};
});
