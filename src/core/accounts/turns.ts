import type { Calendar } from "../time/calendar";
import { type Day, NO_DAY } from "../time/day";

/** so many working days after we wrote it is time to ask again, where nothing of ours is planned */
const ASK_AFTER = 5;

/** Somebody waits, on a deal or at an account without an open one. */
export interface Waits {
	readonly id: string;
	readonly side: "they" | "we";
	readonly since: Day;
	/** the earliest day of an open task or planned activity of ours with them; NO_DAY: there is none */
	readonly planned: Day;
}

/** Whose turn it is, and when it is time to ask again. */
export interface Turn<T extends Waits = Waits> {
	readonly waits: T;
	readonly workingDays: number;
	/** null where they wait for us */
	readonly askAgain: Day | null;
	/** that day has come */
	readonly due: boolean;
}

/**
 * Whose turn it is, in this order: they wait for us, the longest first; we wait and the day to ask again has come; the rest
 * of *we wait*. Each the oldest first, then by id.
 */
export function turnsOf<T extends Waits>(waiting: Iterable<T>, seen: Day, calendar: Calendar): Turn<T>[] {
	const turns = [...waiting].map((waits): Turn<T> => {
		const workingDays = calendar.between(waits.since, seen);
		if (waits.side === "they") return { waits, workingDays, askAgain: null, due: true };
		const askAgain = waits.planned === NO_DAY ? calendar.add(waits.since, ASK_AFTER) : waits.planned;
		return { waits, workingDays, askAgain, due: askAgain <= seen };
	});
	const group = ({ waits, due }: Turn) => (waits.side === "they" ? 0 : due ? 1 : 2);
	return turns.sort((a, b) => group(a) - group(b) || a.waits.since - b.waits.since || (a.waits.id < b.waits.id ? -1 : 1));
}
