import { and, gte, isNotNull, type SQL } from "drizzle-orm";
import { NONE } from "@/core/history/columns";
import { type Fate, fateOn, promisedFor } from "@/core/rounds/promise";
import { type Day, formatDay, isoOrNull, NO_DAY } from "@/core/time/day";
import { connection } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { tasks } from "@/data/schema";
import { outcomesOn } from "@/features/tasks";
import type { Context } from "@/platform/context";
import { ownerName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import { reachesToday } from "@/platform/reachDeal";

const DAY = 86_400_000;

/** A promise against what happened. */
export interface PromiseView {
	readonly id: string;
	readonly roundId: string;
	readonly dealId: string | null;
	readonly title: string;
	readonly who: string;
	readonly whoId: string | null;
	readonly given: string;
	/** the day it was given for */
	readonly due: string | null;
	readonly fate: Fate;
	readonly doneOn: string | null;
	readonly note: string | null;
	/** what became of each flag it was to put out */
	readonly flags: readonly { readonly code: string; readonly state: string; readonly on: string | null }[];
}

type Which = { readonly rounds: readonly string[] } | { readonly deals: readonly string[] };

/** The promises of some rounds, or of some deals in any round, as they stand on a day; in the order in which they were given. */
export async function promisesOf(context: Context, which: Which, day: Day): Promise<PromiseView[]> {
	const ids = "rounds" in which ? which.rounds : which.deals;
	return ids.length ? promisesWhere(context, isOneOf("rounds" in which ? tasks.roundId : tasks.dealId, [...ids]), day) : [];
}

/** The promises given within a period, in any round, as they stand on its last day: those on deals that the asker reaches, and those about no deal of people they reach. */
export async function promisesGiven(context: Context, { from, to }: { readonly from: Day; readonly to: Day }): Promise<PromiseView[]> {
	const { organisation, actor } = context;
	const reach = reachOf(organisation, actor);
	const found = await promisesWhere(context, gte(tasks.createdAt, new Date((from - 1) * DAY)), to);
	return found.filter(({ given, dealId, whoId }) => {
		if (given < formatDay(from)) return false;
		return dealId === null ? reaches(reach, organisation.personIndex.get(whoId ?? "") ?? NONE) : reachesToday(context, dealId);
	});
}

async function promisesWhere(context: Context, which: SQL, day: Day): Promise<PromiseView[]> {
	const rows = await connection()
		.db.select()
		.from(tasks)
		.where(and(isNotNull(tasks.roundId), which))
		.orderBy(tasks.id);
	const { organisation } = context;
	return rows.flatMap((row) => {
		// Found with its deal, without going through all tasks there are.
		const deal = row.dealId === null ? NONE : (organisation.dealIndex.get(row.dealId) ?? NONE);
		const task = (deal === NONE ? organisation.looseTasks : (organisation.company.deals[deal]?.tasks ?? [])).find(({ id }) => id === row.id);
		if (!task || task.createdDay > day) return [];
		return [
			{
				id: row.id,
				roundId: row.roundId as string,
				dealId: row.dealId,
				title: row.title,
				who: row.assigneeId === null && row.team ? `anyone of ${row.team}` : ownerName(organisation, task.assignee),
				whoId: row.assigneeId,
				given: formatDay(task.createdDay),
				due: isoOrNull(promisedFor(task)),
				fate: fateOn(task, day),
				doneOn: task.doneDay === NO_DAY || task.doneDay > day ? null : isoOrNull(task.doneDay),
				note: row.note,
				flags: outcomesOn(context, { task, deal }, day).map(({ flag, state, on }) => ({ code: flag, state, on: isoOrNull(on) })),
			},
		];
	});
}
