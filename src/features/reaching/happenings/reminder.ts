import { formatDay } from "@/core/time/day";
import { dayWords, dealAndAccount, happening, inBrackets, taskPath } from "./happening";

/** The reminder of a task; one that is for silence only comes unless somebody of the other side has answered. */
export const reminder = happening({
	kind: "reminder",
	label: "a reminder is due",
	usual: { onScreen: true, mail: "now" },
	many: ({ length }) => `${length} reminders are due`,
	find: ({ context: { organisation }, open, today, answeredSince }) =>
		open.flatMap(({ id, assigneeId, remindOn, remindUnlessAnswered, dealId, title, dueOn, createdAt }) => {
			if (!assigneeId || !remindOn || remindOn > formatDay(today)) return [];
			if (remindUnlessAnswered && dealId && answeredSince(dealId, createdAt)) return [];
			const facts = { title, deal: dealAndAccount(organisation, dealId), due: dueOn, silent: remindUnlessAnswered };
			return [{ personId: assigneeId, key: `${id} ${remindOn}`, dealId, taskId: id, facts, path: taskPath(id, dealId) }];
		}),
	say: ({ title, deal, due, silent }) => `${silent ? "No answer yet" : "Remember"}: ${title}${inBrackets(deal)}${due ? `, due ${dayWords(due)}` : ""}`,
});
