import { fitted } from "../fitted";
import type { Calendar } from "../time/calendar";
import { type Day, NO_DAY } from "../time/day";
import { type Block, REMOVED } from "./columns";
import type { Stage } from "./stage";

/** A maximal run of day-end states in one open stage. */
export interface Visit {
	readonly stage: number;
	readonly from: Day;
	/** the first day whose day-end state is elsewhere, or the seen day for the current visit */
	readonly to: Day;
	readonly finished: boolean;
	/** working days from `from` to `to` */
	readonly length: number;
}

/** How a deal walked through the stages up to a seen day. */
export interface Path {
	readonly visits: readonly Visit[];
	/** day of the last step to a higher open stage, or NO_DAY */
	readonly lastForward: Day;
	readonly lastBack: Day;
	/** the day it entered the won or lost kind it is in, or NO_DAY while open */
	readonly closedDay: Day;
}

/** Builds the path from day-end states (rows of `dayEnds`), so a correction on the same day leaves no trace. */
export function pathOf(block: Block, ends: readonly number[], stages: readonly Stage[], calendar: Calendar, seen: Day): Path {
	const visits: Visit[] = [];
	let lastForward = NO_DAY;
	let lastBack = NO_DAY;
	let closedDay = NO_DAY;
	let place = REMOVED;
	let from = NO_DAY;
	let previous: Stage | undefined;

	for (let i = 0; i < ends.length; i++) {
		const row = ends[i] as number;
		const index = block.stage[row] as number;
		const stage = stages[index];
		const day = block.day[row] as number;
		const open = stage !== undefined && stage.kind === "open";
		if (open && previous !== undefined && previous.kind === "open") {
			if (stage.rank > previous.rank) lastForward = day;
			if (stage.rank < previous.rank) lastBack = day;
		}
		if (!stage || open) closedDay = NO_DAY;
		else if (previous === undefined || previous.kind !== stage.kind) closedDay = day;
		const next = open ? index : REMOVED;
		if (next !== place) {
			if (place !== REMOVED) visits.push({ stage: place, from, to: day, finished: true, length: calendar.between(from, day) });
			place = next;
			from = day;
		}
		previous = stage;
	}
	if (place !== REMOVED) visits.push({ stage: place, from, to: seen, finished: false, length: calendar.between(from, seen) });
	return { visits: fitted(visits), lastForward, lastBack, closedDay };
}

/**
 * The closed day alone, from the versions `first` to `last` of a deal, of which the last is in force: the first
 * day of the run of day-ends that are won, or lost, as it is. NO_DAY while it is open or gone.
 */
export function closedDayOf({ stage, day }: Pick<Block, "stage" | "day">, stages: readonly Stage[], first: number, last: number): Day {
	const kind = stages[stage[last] as number]?.kind;
	if (!kind || kind === "open") return NO_DAY;
	let closed = day[last] as number;
	for (let row = last - 1; row >= first; row--) {
		// Only the last version of a day counts.
		if (day[row] === day[row + 1]) continue;
		if (stages[stage[row] as number]?.kind !== kind) break;
		closed = day[row] as number;
	}
	return closed;
}

/** Working days spent in a stage over all visits to it. */
export function stageTotal(path: Path, stage: number): number {
	return path.visits.reduce((sum, visit) => sum + (visit.stage === stage ? visit.length : 0), 0);
}
