import { sql } from "drizzle-orm";
import type { AnyPgColumn, PgTable } from "drizzle-orm/pg-core";
import type { Db } from "@/data/db";
import type { OrganisationState } from "@/data/organisation/state";
import {
	accounts,
	activities,
	apiKeys,
	boards,
	closePlanSteps,
	contacts,
	imports,
	kits,
	notes,
	outbox,
	questions,
	quotes,
	rests,
	roundPlans,
	rounds,
	tasks,
	tries,
	views,
	webhooks,
	weeklyFiles,
} from "@/data/schema";

/** What stands among an entry's values by its id, and what people call it. */
const NAMED: readonly { readonly table: PgTable & { id: AnyPgColumn }; readonly name: AnyPgColumn }[] = [
	{ table: accounts, name: accounts.name },
	{ table: activities, name: activities.subject },
	{ table: apiKeys, name: apiKeys.name },
	{ table: boards, name: boards.name },
	{ table: closePlanSteps, name: closePlanSteps.title },
	{ table: contacts, name: contacts.name },
	{ table: imports, name: imports.name },
	{ table: kits, name: kits.name },
	{ table: notes, name: notes.body },
	{ table: outbox, name: outbox.subject },
	{ table: questions, name: questions.prompt },
	{ table: quotes, name: quotes.number },
	{ table: rests, name: rests.reason },
	{ table: roundPlans, name: roundPlans.name },
	{ table: rounds, name: rounds.name },
	{ table: tasks, name: tasks.title },
	{ table: tries, name: tries.name },
	{ table: views, name: views.name },
	{ table: webhooks, name: webhooks.url },
	{ table: weeklyFiles, name: weeklyFiles.name },
];

/** All words that stand among some values, however deep: one of them may be an id. */
function wordsIn(value: unknown, into: Set<string>): void {
	if (typeof value === "string") into.add(value);
	else if (Array.isArray(value)) for (const one of value) wordsIn(one, into);
	else if (typeof value === "object" && value !== null) for (const one of Object.values(value)) wordsIn(one, into);
}

/** Names by id of all that some values name: people and deals from memory, the rest read at once. */
export async function namesIn(db: Db, { people, deals, dealIndex, personIndex }: OrganisationState, values: readonly unknown[]): Promise<Map<string, string>> {
	const found = new Set<string>();
	for (const value of values) wordsIn(value, found);
	const names = new Map<string, string>();
	const unknown: string[] = [];
	for (const word of found) {
		const name = people[personIndex.get(word) ?? -1]?.name ?? deals[dealIndex.get(word) ?? -1]?.name;
		if (name) names.set(word, name);
		else unknown.push(word);
	}
	if (!unknown.length) return names;
	const rows = await Promise.all(
		NAMED.map(({ table, name }) =>
			db
				.select({ id: table.id, name })
				.from(table)
				.where(sql`${table.id} = any(${sql.param(unknown)})`),
		),
	);
	for (const { id, name } of rows.flat()) if (name) names.set(String(id), String(name));
	return names;
}
