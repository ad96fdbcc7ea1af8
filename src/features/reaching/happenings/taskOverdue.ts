import { formatDay } from "@/core/time/day";
import { dayWords, dealAndAccount, happening, inBrackets, taskPath } from "./happening";

/** A task of somebody's wasn't done by its day; what was late before the last look was told then. */
export const taskOverdue = happening({
	kind: "task-overdue",
	label: "a task of mine is overdue",
	usual: { onScreen: true, mail: "now" },
	many: ({ length }) => `${length} tasks of yours are overdue`,
	find: ({ context: { organisation }, open, today, before }) =>
		open.flatMap(({ id, assigneeId, dueOn, dealId, title }) =>
			assigneeId && dueOn && dueOn < formatDay(today) && dueOn >= formatDay(before)
				? [
						{
							personId: assigneeId,
							key: `${id} ${dueOn}`,
							dealId,
							taskId: id,
							facts: { since: dueOn, title, deal: dealAndAccount(organisation, dealId) },
							path: taskPath(id, dealId),
						},
					]
				: [],
		),
	say: ({ since, title, deal }) => `Overdue since ${dayWords(since)}: ${title}${inBrackets(deal)}`,
});
