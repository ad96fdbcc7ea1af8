import { type Day, NO_DAY } from "../time/day";
import type { Activities } from "./activities";
import { DIRECTIONS } from "./activity";

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

const [IN, OUT, NONE] = [DIRECTIONS.indexOf("in"), DIRECTIONS.indexOf("out"), DIRECTIONS.indexOf("none")];

/** Contact on a deal seen on a day. Activities in any order. */
export function contactOf({ columns, from, end }: Activities, seen: Day): Contact {
	const { at, day, recorded, settled, plannedFor, planned: isPlanned, direction } = columns;
	let newest = -1;
	let lastTwoWay = NO_DAY;
	let planned = false;
	for (let row = from; row < end; row++) {
		if ((recorded[row] as number) > seen) continue;
		if ((settled[row] as number) > seen) {
			if ((plannedFor[row] as number) >= seen) planned = true;
			continue;
		}
		const on = day[row] as number;
		if (isPlanned[row] === 1) {
			if (on >= seen) planned = true;
			continue;
		}
		if (on > seen || direction[row] === NONE) continue;
		if (direction[row] !== OUT && on > lastTwoWay) lastTwoWay = on;
		// Of two at one instant the one with the higher id counts as the newer: it stands further down.
		if (newest < 0 || (at[row] as number) >= (at[newest] as number)) newest = row;
	}
	const side = newest < 0 ? null : direction[newest] === IN ? "they" : direction[newest] === OUT ? "we" : null;
	const lastTouch = newest < 0 ? NO_DAY : (day[newest] as number);
	return { lastTouch, lastTwoWay, waiting: side ? { side, since: lastTouch } : null, planned };
}
