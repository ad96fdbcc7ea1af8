import { type Day, NO_DAY } from "../time/day";

export const DIRECTIONS = ["in", "out", "both", "none"] as const;
/** `in`: they to us; `out`: we to them; `both`: a conversation; `none`: internal. */
export type Direction = (typeof DIRECTIONS)[number];

export interface Activity {
	readonly id: string;
	readonly kind: string;
	readonly direction: Direction;
	readonly state: "planned" | "done";
	/** ms since the epoch, and its day */
	readonly at: number;
	readonly day: Day;
	/** ids of the people of the buyer's who took part */
	readonly contacts: readonly string[];
	/** the day it was written down here, before which nobody knew of it; NO_DAY where that isn't known */
	readonly recorded: Day;
	/** of one that was planned before it was done: the day it was planned for, and the day that it was said to be done; else NO_DAY */
	readonly plannedFor: Day;
	readonly settled: Day;
}

/** Who waits: `they` wait for us, or `we` wait for them, since the day of the newest touch. */
export interface Waiting {
	readonly side: "they" | "we";
	readonly since: Day;
}

export interface Contact {
	readonly lastTouch: Day;
	readonly lastTwoWay: Day;
	readonly waiting: Waiting | null;
	/** a planned activity on or after the seen day */
	readonly planned: boolean;
}

/** A touch: done, and with somebody outside. A record edited is not a customer spoken to. */
export function isTouch(activity: Activity): boolean {
	return activity.state === "done" && activity.direction !== "none";
}

/** Order of activities in time; those of one instant by id, so that the order of input doesn't matter. */
export function inTime(a: Activity, b: Activity): number {
	return a.at - b.at || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
}

/** Contact on a deal seen on a day. Activities in any order. */
export function contactOf(activities: readonly Activity[], seen: Day): Contact {
	let newest: Activity | null = null;
	let lastTwoWay = NO_DAY;
	let planned = false;
	for (const activity of activities) {
		if (activity.recorded > seen) continue;
		if (activity.settled > seen) {
			if (activity.plannedFor >= seen) planned = true;
			continue;
		}
		if (activity.state === "planned") {
			if (activity.day >= seen) planned = true;
			continue;
		}
		if (activity.day > seen || !isTouch(activity)) continue;
		if (activity.direction !== "out") lastTwoWay = Math.max(lastTwoWay, activity.day);
		if (!newest || inTime(newest, activity) < 0) newest = activity;
	}
	const side = newest?.direction === "in" ? "they" : newest?.direction === "out" ? "we" : null;
	return {
		lastTouch: newest?.day ?? NO_DAY,
		lastTwoWay,
		waiting: newest && side ? { side, since: newest.day } : null,
		planned,
	};
}
