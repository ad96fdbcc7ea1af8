import { byText } from "@/core/deal/order";
import { NO_DAY } from "@/core/time/day";
import type { Standing } from "./standing";

const dueOf = ({ task }: Standing) => (task.due === NO_DAY ? Number.POSITIVE_INFINITY : task.due);

/** By due date; those without one last. */
export const byDue = (a: Standing, b: Standing) => (dueOf(a) === dueOf(b) ? byText(a.id, b.id) : dueOf(a) - dueOf(b));

/** The last done first. */
export const byDone = (a: Standing, b: Standing) => (b.task.doneAt || 0) - (a.task.doneAt || 0) || byText(a.id, b.id);

/** Open ones by due date, then the others, the last done first. */
export function inOrder(list: readonly Standing[]): Standing[] {
	const open = list.filter(({ state }) => state === "open").sort(byDue);
	return [...open, ...list.filter(({ state }) => state !== "open").sort(byDone)];
}
