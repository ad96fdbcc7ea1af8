import { formatDay, parseDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { happening, onDeal, taskPath } from "./happening";

/** The reminder of a task; one that is for silence only comes unless somebody of the other side has answered. */
export const reminder = happening({
	kind: "reminder",
	words: "a reminder is due",
	usual: { onScreen: true, mail: "now" },
	many: ({ length }) => `${length} reminders are due`,
	find: ({ context: { organisation }, open, today, answeredSince }) =>
		open.flatMap(({ id, assigneeId, remindOn, remindUnlessAnswered, dealId, title, dueOn, createdAt }) => {
			if (!assigneeId || !remindOn || remindOn > formatDay(today)) return [];
			if (remindUnlessAnswered && dealId && answeredSince(dealId, createdAt)) return [];
			const words = `${remindUnlessAnswered ? "No answer yet" : "Remember"}: ${title}${onDeal(organisation, dealId)}${dueOn ? `, due ${shortDay(parseDay(dueOn) ?? today)}` : ""}`;
			return [{ personId: assigneeId, key: `${id} ${remindOn}`, dealId, taskId: id, words, path: taskPath(id, dealId) }];
		}),
});
