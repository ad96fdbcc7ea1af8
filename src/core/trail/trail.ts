import { fitted } from "../fitted";
import type { Block } from "../history/columns";
import { type Day, NO_DAY } from "../time/day";
import type { Fiscal } from "../time/fiscal";
import { quarterIndex } from "../time/period";

export interface TrailPoint {
	/** the day-end on which this close date was first in force */
	readonly set: Day;
	readonly close: Day;
}

/** The path of a deal's close date from its first value, built from day-end states. */
export interface Trail {
	readonly points: readonly TrailPoint[];
	readonly first: Day;
	readonly current: Day;
	readonly pushes: number;
	readonly pulls: number;
	/** calendar days of all pushes together */
	readonly pushedDays: number;
	/** calendar days from the first close date to the current one */
	readonly netDays: number;
	/** pushes into a later fiscal quarter */
	readonly crossings: number;
}

/** `ends` are the rows of `dayEnds`; `first` is NO_DAY if none was ever set. */
export function trailOf(block: Block, ends: readonly number[], fiscal: Fiscal): Trail {
	const points: TrailPoint[] = [];
	let pushes = 0;
	let pulls = 0;
	let pushedDays = 0;
	let crossings = 0;
	let before = NO_DAY;
	for (const row of ends) {
		const close = block.close[row] as number;
		if (close === NO_DAY || close === before) continue;
		points.push({ set: block.day[row] as number, close });
		if (before !== NO_DAY && close > before) {
			pushes++;
			pushedDays += close - before;
			if (quarterIndex(close, fiscal) > quarterIndex(before, fiscal)) crossings++;
		} else if (before !== NO_DAY) pulls++;
		before = close;
	}
	const first = points[0]?.close ?? NO_DAY;
	const last = ends.at(-1);
	return {
		points: fitted(points),
		first,
		current: last === undefined ? NO_DAY : (block.close[last] as number),
		pushes,
		pulls,
		pushedDays,
		netDays: first === NO_DAY ? 0 : before - first,
		crossings,
	};
}
