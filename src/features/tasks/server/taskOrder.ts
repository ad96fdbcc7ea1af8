import { byText } from "@/core/deal/order";
import { derived } from "@/core/derive";
import { merged } from "@/core/merged";
import { NO_DAY } from "@/core/time/day";
import type { Standing } from "./standing";

const dueOf = ({ task }: Standing) => (task.due === NO_DAY ? Number.POSITIVE_INFINITY : task.due);

/** By due date; those without one last. */
export const byDue = (a: Standing, b: Standing) => (dueOf(a) === dueOf(b) ? byText(a.id, b.id) : dueOf(a) - dueOf(b));

/** The last done first. */
export const byDone = (a: Standing, b: Standing) => (b.task.doneAt || 0) - (a.task.doneAt || 0) || byText(a.id, b.id);

/** Open ones by due date, then the others, the last done first. */
const openFirst = (a: Standing, b: Standing) => {
	const [openA, openB] = [a.state === "open", b.state === "open"];
	return openA === openB ? (openA ? byDue(a, b) : byDone(a, b)) : openA ? -1 : 1;
};

const sorted = derived("tasks sorted", (part: readonly Standing[]): readonly Standing[] => [...part].sort(openFirst));

/** The tasks of some parts in one order: open ones by due date, then the others, the last done first. What a write didn't touch stays sorted. */
export const inOrder = (parts: readonly (readonly Standing[])[]): readonly Standing[] =>
	merged(
		parts.map((part) => sorted(part)),
		"tasks in order",
		openFirst,
		Number.POSITIVE_INFINITY,
	);
