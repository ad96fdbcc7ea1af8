import type { Company, DealBlock, Rules } from "../company";
import { derived, keyOf, toldApart } from "../derive";
import type { Day } from "../time/day";
import { dayEndsIn } from "./columns";
import { type Path, pathOf } from "./path";

/** Working days by stage, of one win after another: win i owns those from `ends[i − 1]` up to `ends[i]`. */
export interface StageDays {
	readonly ends: Int32Array;
	readonly stage: Int32Array;
	readonly days: Int32Array;
}

/**
 * The wins of a block’s deals as columns, since there are many: spans of days in which a deal stood won, with what it
 * needed to get there.
 */
export interface Wins {
	/** index in the company */
	readonly deal: Int32Array;
	readonly closed: Int32Array;
	/** the first day on which it no longer stands won; STILL while it does */
	readonly until: Int32Array;
	/** of the deal on the day it was won, in working days */
	readonly age: Int32Array;
	/** finished visits */
	readonly visits: StageDays;
	/** from first entering a stage to won */
	readonly left: StageDays;
}

/** Block by block. The same object as long as no deal's wins change, so that what was measured on it is kept with it. */
export type Spans = readonly Wins[];

/** Later than any day. */
export const STILL = 2 ** 31 - 1;

/** A span of days in which a deal stood won. */
interface WonSpan {
	readonly place: number;
	readonly closed: Day;
	readonly until: Day;
	readonly path: Path;
}

type StageLength = readonly [stage: number, days: number];

/** The wins of a block’s deals; the same object while another block in its place says the same of them. */
const winsIn = derived("wins", (block: DealBlock, { stages, calendar }: Rules): Wins => {
	const spans = block.facts.flatMap((_, place) => spansOf(block, stages, calendar, place));
	const column = (of: (span: WonSpan) => number) => Int32Array.from(spans, of);
	const wins = {
		deal: column(({ place }) => block.first + place),
		closed: column(({ closed }) => closed),
		until: column(({ until }) => until),
		age: column(({ place, closed }) => calendar.between(block.facts[place]?.createdDay ?? closed, closed)),
		visits: stageDays(spans.map(({ path }) => path.visits.flatMap(({ stage, length, finished }): StageLength[] => (finished ? [[stage, length]] : [])))),
		left: stageDays(spans.map(({ path, closed }) => leftOf(path, (from) => calendar.between(from, closed)))),
	};
	const { deal, closed, until, age, visits, left } = wins;
	const says = [deal, closed, until, age, ...[visits, left].flatMap(({ ends, stage, days }) => [ends, stage, days])].join(" ");
	return toldApart(block.place, "wins told apart", says, wins);
});

function stageDays(lists: readonly (readonly StageLength[])[]): StageDays {
	const [ends, stages, all]: [number[], number[], number[]] = [[], [], []];
	for (const list of lists) {
		for (const [stage, days] of list) {
			stages.push(stage);
			all.push(days);
		}
		ends.push(all.length);
	}
	return { ends: Int32Array.from(ends), stage: Int32Array.from(stages), days: Int32Array.from(all) };
}

/** Every time a deal was won, over the whole history. */
export const wonSpans = derived("won spans", ({ blocks, rules }: Company): Spans => {
	const spans = blocks.map((block) => winsIn(block, rules));
	return toldApart(rules, "won spans told apart", keyOf(...spans), spans);
});

function spansOf({ versions }: DealBlock, stages: Rules["stages"], calendar: Rules["calendar"], place: number): WonSpan[] {
	const spans: WonSpan[] = [];
	const kindAt = (row: number) => stages[versions.stage[row] as number]?.kind;
	const ends = dayEndsIn(versions, place, Number.MAX_SAFE_INTEGER);
	for (let i = 0; i < ends.length; i++) {
		if (kindAt(ends[i] as number) !== "won") continue;
		let last = i;
		while (last + 1 < ends.length && kindAt(ends[last + 1] as number) === "won") last++;
		const closed = versions.day[ends[i] as number] as Day;
		const next = ends[last + 1];
		const until = next === undefined ? STILL : (versions.day[next] as Day);
		spans.push({ place, closed, until, path: pathOf(versions, ends.slice(0, i + 1), stages, calendar, closed) });
		i = last;
	}
	return spans;
}

/** How long it was from first entering each stage to the end of a path. */
function leftOf({ visits }: Path, toEnd: (from: Day) => number): StageLength[] {
	const entered = new Map<number, number>();
	for (const { stage, from } of visits) if (!entered.has(stage)) entered.set(stage, toEnd(from));
	return [...entered];
}

/** Each win of the deals that stand won on a day and were closed after another, by its place among those of its block. */
export function eachWonBetween(company: Company, after: Day, seen: Day, take: (wins: Wins, at: number) => void): void {
	for (const wins of wonSpans(company)) {
		const { closed, until } = wins;
		for (let at = 0; at < closed.length; at++) {
			const on = closed[at] as number;
			if (on > after && on <= seen && (until[at] as number) > seen) take(wins, at);
		}
	}
}

/** The deals that stand won on a day and were closed after another, with the day on which they were. */
export function wonBetween(company: Company, after: Day, seen: Day): { readonly deal: number; readonly closed: Day }[] {
	const between: { deal: number; closed: Day }[] = [];
	eachWonBetween(company, after, seen, ({ deal, closed }, at) => between.push({ deal: deal[at] as number, closed: closed[at] as Day }));
	return between;
}
