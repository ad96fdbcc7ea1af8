import { NONE } from "@/core/history/columns";
import { surveyOn } from "@/core/survey";
import type { TaskOfDeal } from "@/core/tasks/followThrough";
import { type TaskFacts, taskOn } from "@/core/tasks/task";
import { type Day, formatDay, isoOrNull } from "@/core/time/day";
import { connection } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { tasks } from "@/data/schema";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerName } from "@/platform/names";
import { outcomesOn } from "./outcomes";
import { taskById } from "./standing";
import type { StoredTask } from "./storedTask";
import { factsOf, type TaskJson, taskJson } from "./taskJson";

/** A task with the names a list shows. */
export interface TaskRow extends TaskJson {
	readonly deal: string;
	readonly account: string;
	readonly amount: number;
	readonly close: string | null;
	readonly assignee: string;
	readonly givenBy: string | null;
	readonly givenOn: string;
	readonly doneOn: string | null;
	/** the deal is won or lost, or was gone on the seen day */
	readonly dealClosed: boolean;
}

/** A row as it was put together, and what it was made of: as long as that is the same, so is the row. */
interface Made {
	readonly of: readonly unknown[];
	readonly row: TaskRow;
}
/** of each task as it is in memory the row of the day that was asked for last */
const made = new WeakMap<TaskFacts, Made>();

const sourcesOf = (context: Context, { task, deal }: TaskOfDeal, day: Day): readonly unknown[] => {
	const { organisation, now } = context;
	const { company, people } = organisation;
	// What is about no deal may be about an account.
	const names = deal === NONE ? [organisation.accounts] : [dealName(organisation, deal), accountName(organisation, deal)];
	return [day, now.day, company.rules, people, ...names, surveyOn(company, day).deals[deal], ...outcomesOn(context, { task, deal }, day)];
};
const same = (a: readonly unknown[], b: readonly unknown[]) => a.length === b.length && a.every((value, i) => value === b[i]);

/** The rows of some tasks, in their order: what hasn't changed since it was shown last is in memory, the rest is read. */
export async function rowsOf(context: Context, some: readonly { readonly id: string }[], day: Day): Promise<TaskRow[]> {
	const rows = new Map<string, TaskRow>();
	const sources = new Map<string, readonly unknown[]>();
	for (const { id } of some) {
		const known = taskById(context.organisation, id);
		if (!known) continue;
		const of = sourcesOf(context, known, day);
		const before = made.get(known.task);
		if (before && same(before.of, of)) rows.set(id, before.row);
		else sources.set(id, of);
	}
	const missing = some.filter(({ id }) => !rows.has(id)).map(({ id }) => id);
	for (const stored of await tasksByIds(missing)) {
		const row = taskRow(context, stored, day);
		rows.set(stored.id, row);
		const known = taskById(context.organisation, stored.id);
		const of = sources.get(stored.id);
		// Within the write that changes it, or where another has just changed it, what is stored is ahead of what is in memory.
		if (known && of && factsOf(context, stored).task === known.task) made.set(known.task, { of, row });
	}
	return some.flatMap(({ id }) => rows.get(id) ?? []);
}

/** Tasks by their ids as their table has them, in no order; unknown ids are left out. */
export async function tasksByIds(ids: readonly string[]): Promise<StoredTask[]> {
	return ids.length
		? connection()
				.db.select()
				.from(tasks)
				.where(isOneOf(tasks.id, [...ids]))
		: [];
}

/** The account of a task that is about no deal; empty where it is about none either. */
const accountOf = ({ accounts }: Context["organisation"], { accountId }: StoredTask) => (accountId ? accounts.get(accountId)?.name || "No name" : "");

function taskRow(context: Context, task: StoredTask, day: Day): TaskRow {
	const { organisation } = context;
	const json = taskJson(context, task, day);
	const { task: facts } = factsOf(context, task);
	const then = taskOn(facts, day);
	const deal = organisation.dealIndex.get(task.dealId ?? "");
	const seen = deal === undefined ? null : surveyOn(organisation.company, day).deals[deal];
	const name = (id: string | null) => ownerName(organisation, organisation.personIndex.get(id ?? "") ?? NONE);
	return {
		...json,
		deal: deal === undefined ? "No deal" : dealName(organisation, deal),
		account: deal === undefined ? accountOf(organisation, task) : accountName(organisation, deal),
		amount: seen?.amountBase ?? 0,
		close: seen ? isoOrNull(seen.close) : null,
		assignee: json.assigneeId === null && json.team !== null ? `anyone of ${json.team}` : name(json.assigneeId),
		givenBy: task.createdById ? name(task.createdById) : null,
		givenOn: formatDay(facts.createdDay),
		doneOn: json.doneAt ? isoOrNull(then.doneDay) : null,
		dealClosed: seen?.status !== "open",
	};
}
