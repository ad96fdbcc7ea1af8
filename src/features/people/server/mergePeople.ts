import { count, eq, getTableColumns, getTableName, is, sql } from "drizzle-orm";
import { getTableConfig, PgTable, type PgTable as Table } from "drizzle-orm/pg-core";
import { z } from "zod";
import { formatDay } from "@/core/time/day";
import { connection, type Sql, type Tx } from "@/data/db";
import * as schema from "@/data/schema";
import { command, lookup } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { endWays } from "./endWays";
import { demandOps } from "./managePeople";

const { people, sessions, apiKeys, passwordLinks, feeds, weeklyFiles, rounds, roundPlans } = schema;

/** Whether a column holds a person's id, by its name in the tables. */
const holdsAPerson = (name: string): boolean => /^(owner_id|assignee_id|person_id|shown_by|decided_by)$|(^|_)by_id$/.test(name);
/** Of these each person has their own: they end with whoever is merged into another. */
const OWN: ReadonlySet<Table> = new Set<Table>([sessions, apiKeys, passwordLinks, feeds]);

/** Every place that names a person, of all tables. */
const PLACES = Object.values(schema as Record<string, unknown>).flatMap((table) => {
	if (!is(table, PgTable) || OWN.has(table)) return [];
	return Object.values(getTableColumns(table)).flatMap((column) => (holdsAPerson(column.name) ? [{ table, name: getTableName(table), column }] : []));
});

/** What the rows of a table are called when they are counted. */
const WORDS: Readonly<Record<string, readonly [string, string]>> = {
	deal_versions: ["version of a deal", "versions of deals"],
	weekly_rows: ["line of weekly files", "lines of weekly files"],
	tasks: ["task", "tasks"],
	activities: ["activity", "activities"],
	notes: ["note", "notes"],
	answers: ["answer", "answers"],
	accounts: ["account", "accounts"],
	targets: ["target", "targets"],
	views: ["view", "views"],
};

const pair = z.object({ from: z.string(), into: z.string() });

function bothOf({ organisation }: Context, { from, into }: z.infer<typeof pair>) {
	const named = (id: string) => {
		const person = organisation.people[organisation.personIndex.get(id) ?? -1];
		if (!person) throw notFound("person", id);
		return person;
	};
	if (from === into) throw new Fault(422, "The same person", "Choose two different people: one to keep, and one to merge into it.");
	return { gone: named(from), stays: named(into) };
}

async function countsOf(db: Sql, id: string): Promise<ReadonlyMap<string, number>> {
	const counts = new Map<string, number>();
	for (const { table, name, column } of PLACES) {
		const [row] = await db.select({ n: count() }).from(table).where(eq(column, id));
		counts.set(name, (counts.get(name) ?? 0) + (row?.n ?? 0));
	}
	return counts;
}

/** What merging one person into another would move, in words. */
export const previewMerge = lookup({
	name: "people.previewMerge",
	right: "managePeople",
	input: pair,
	async run({ context, input }) {
		const { gone, stays } = bothOf(context, input);
		const counts = await countsOf(connection().db, gone.id);
		const parts = [...counts].flatMap(([name, n]) => {
			const words = WORDS[name];
			return n && words ? [`${n} ${words[n === 1 ? 0 : 1]}`] : [];
		});
		return { gone: gone.name, stays: stays.name, parts, email: stays.email ?? gone.email };
	},
});

/**
 * Two entries of one person become one: whatever names the first names the second afterwards, and files that use the old
 * name, address or id mean the one who stays. Their way to sign in is the staying one's, or the other's where that has none.
 */
export const mergePeople = command({
	name: "people.merge",
	right: "managePeople",
	input: pair,
	alone: true,
	async run({ context, input, tx }) {
		const { gone, stays } = bothOf(context, input);
		const [was] = await tx.select().from(people).where(eq(people.id, gone.id));
		const [kept] = await tx.select().from(people).where(eq(people.id, stays.id));
		if (!was || !kept) throw notFound("person", gone.id);
		const counts = await countsOf(tx, gone.id);
		const ended = await endWays(tx, [gone.id]);
		await dropDoubles(tx, gone.id, stays.id);
		for (const { table, column } of PLACES)
			await tx.execute(sql`update ${table} set ${sql.identifier(column.name)} = ${stays.id} where ${sql.identifier(column.name)} = ${gone.id}`);
		// Whose deals something is over is said as an address says it.
		for (const table of [rounds, roundPlans])
			await tx
				.update(table)
				.set({ whose: `person:${stays.id}` })
				.where(eq(table.whose, `person:${gone.id}`));
		await tx.execute(sql`update data_feeds set tell = array_replace(tell, ${gone.id}, ${stays.id}) where ${gone.id} = any(tell)`);
		await tx.execute(sql`update notes set mentions = array_replace(mentions, ${gone.id}, ${stays.id}) where ${gone.id} = any(mentions)`);
		await tx.execute(
			sql`update ${weeklyFiles} set plan = jsonb_set(plan, '{people}', (select jsonb_object_agg(key, case when value = to_jsonb(${gone.id}::text) then to_jsonb(${stays.id}::text) else value end) from jsonb_each(plan->'people'))) where plan->'people' is not null and plan->'people' <> '{}'`,
		);
		await tx.delete(people).where(eq(people.id, gone.id));
		const also = new Set([...kept.also, ...was.also, was.id, was.name, ...(was.email ? [was.email] : [])]);
		for (const own of [kept.id, kept.name, kept.email]) if (own) also.delete(own);
		const signIn = kept.passwordHash
			? {}
			: { email: kept.email ?? was.email, passwordHash: was.passwordHash, codeSecret: was.codeSecret, lastCode: was.lastCode };
		await tx
			.update(people)
			.set({ also: [...also], team: kept.team ?? was.team, ...signIn })
			.where(eq(people.id, stays.id));
		if (was.role === "ops") await demandOps(tx, formatDay(context.now.day));
		const detail = { into: stays.id, before: { name: was.name, email: was.email, role: was.role, team: was.team }, moved: Object.fromEntries(counts), ended };
		return { result: {}, touched: "everything", audit: { action: "people merged", subject: gone.id, detail } };
	},
});

/** Where both have a line of which one person has one only, the staying one's counts; asked of every place, as its table says. */
async function dropDoubles(tx: Tx, gone: string, stays: string): Promise<void> {
	for (const { table, column } of PLACES) {
		const own = sql.identifier(column.name);
		for (const names of onlyOnce(table)) {
			if (!names.includes(column.name)) continue;
			const others = names.filter((name) => name !== column.name).map((name) => sql.identifier(name));
			const theirs = sql`select from ${table} other where other.${own} = ${stays}`;
			const same = others.map((name) => sql`other.${name} = ${table}.${name}`);
			await tx.execute(sql`delete from ${table} where ${own} = ${gone} and exists (${sql.join([theirs, ...same], sql` and `)})`);
		}
	}
}

/** The sets of columns, by name, of which a table has each combination once. */
function onlyOnce(table: Table): string[][] {
	const { columns, primaryKeys, indexes, uniqueConstraints } = getTableConfig(table);
	const named = (list: readonly object[]) => list.flatMap((column) => ("name" in column && typeof column.name === "string" ? [column.name] : []));
	return [
		...columns.filter(({ primary, isUnique }) => primary || isUnique).map(({ name }) => [name]),
		...primaryKeys.map((key) => named(key.columns)),
		...uniqueConstraints.map((constraint) => named(constraint.columns)),
		...indexes.filter(({ config }) => config.unique).map(({ config }) => named(config.columns)),
	];
}
