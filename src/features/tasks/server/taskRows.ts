import { derive, keyOf } from "@/core/derive";
import { NONE } from "@/core/history/columns";
import { surveyOn } from "@/core/survey";
import type { TaskOfDeal } from "@/core/tasks/followThrough";
import { taskOn } from "@/core/tasks/task";
import { type Day, formatDay, isoOrNull } from "@/core/time/day";
import { connection } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { tasks } from "@/data/schema";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerName } from "@/platform/names";
import { outcomesOn } from "./outcomes";
import { tasksById } from "./standing";
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

/** Where the row of a task is kept: with the task, as long as all that it says beside it is the same. */
function keptRow(context: Context, { task, deal }: TaskOfDeal, day: Day): { row: TaskRow | null } {
	const { organisation, now } = context;
	const { company, people } = organisation;
	const { amountBase, close, status } = surveyOn(company, day).deals[deal] ?? {};
	const told = [dealName(organisation, deal), accountName(organisation, deal), amountBase, close, status, outcomesOn(context, { task, deal }, day)];
	// What is about no deal may be about an account.
	const says = keyOf(day, now.day, company.rules, people, deal === NONE && organisation.accounts, JSON.stringify(told));
	return derive(task, "task row", says, () => ({ row: null }), 2);
}

/** The rows of some tasks, in their order: what hasn't changed since it was shown last is in memory, the rest is read. */
export async function rowsOf(context: Context, some: readonly { readonly id: string }[], day: Day): Promise<TaskRow[]> {
	const known = new Map(tasksById(context, idsOf(some)).map((one) => [one.task.id, { task: one.task, kept: keptRow(context, one, day) }]));
	const rows = new Map([...known].flatMap(([id, { kept }]) => (kept.row ? [[id, kept.row]] : [])));
	for (const stored of await tasksByIds(idsOf(some).filter((id) => !rows.has(id)))) {
		const row = taskRow(context, stored, day);
		rows.set(stored.id, row);
		const one = known.get(stored.id);
		// Within the write that changes it, or where another has just changed it, what is stored is ahead of what is in memory.
		if (one && factsOf(context, stored).task === one.task) one.kept.row = row;
	}
	return some.flatMap(({ id }) => rows.get(id) ?? []);
}

const idsOf = (some: readonly { readonly id: string }[]): string[] => some.map(({ id }) => id);

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
