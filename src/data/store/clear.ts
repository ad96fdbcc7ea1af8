import { getTableColumns, getTableName, inArray, is, notInArray, sql } from "drizzle-orm";
import { PgTable } from "drizzle-orm/pg-core";
import type { Tx } from "../db";
import * as schema from "../schema";

const { apiKeys, audit, idempotencyKeys, organisationSettings, passwordLinks, people, revision, sessions, signInAttempts, changeLog, teams } = schema;

/** What isn't data of deals: who is here, how they come in, what was done, and the company's own row. */
const KEPT: ReadonlySet<unknown> = new Set([
	apiKeys,
	audit,
	idempotencyKeys,
	organisationSettings,
	passwordLinks,
	people,
	revision,
	sessions,
	signInAttempts,
	changeLog,
	teams,
]);

const EMPTIED = Object.values(schema as Record<string, unknown>).flatMap((table) => (is(table, PgTable) && !KEPT.has(table) ? [getTableName(table)] : []));

/** Takes everything away but the company's row and the people who aren't named, with the teams they are in. */
export async function clearData(tx: Tx, personIds: readonly string[]): Promise<void> {
	await tx.execute(
		sql`truncate ${sql.join(
			EMPTIED.map((name) => sql.identifier(name)),
			sql`, `,
		)}`,
	);
	if (personIds.length) await tx.delete(people).where(inArray(people.id, [...personIds]));
	const left = await tx.selectDistinct({ team: people.team }).from(people);
	const all = await tx.select().from(teams);
	const needed = new Set<string>();
	for (let { team } of left.map(({ team }) => ({ team }))) {
		while (team !== null && !needed.has(team)) {
			needed.add(team);
			const name: string = team;
			team = all.find((other) => other.name === name)?.parent ?? null;
		}
	}
	await (needed.size ? tx.delete(teams).where(notInArray(teams.name, [...needed])) : tx.delete(teams));
}

/** The company's row as it is before anything is said: the standard of each column but its own key. */
export const blankCompany = () =>
	Object.fromEntries(
		Object.entries(getTableColumns(organisationSettings))
			.filter(([key]) => key !== "id")
			.map(([key, column]) => [key, column.hasDefault ? column.default : null]),
	);
