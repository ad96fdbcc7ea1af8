import type { Company, DealBlock, Rules } from "../company";
import { derived } from "../derive";
import type { Day } from "../time/day";
import { dayEndsIn } from "./columns";
import { type Path, pathOf } from "./path";

/** A length in working days that belongs to a stage, by index. */
export type StageLength = readonly [stage: number, length: number];

/** A span of days in which a deal stood won, with what it needed to get there. */
export interface WonSpan {
	readonly deal: number;
	readonly closed: Day;
	/** the first day on which it no longer stands won; null while it does */
	readonly until: Day | null;
	/** of the deal on the day it was won, in working days */
	readonly age: number;
	/** finished visits, by stage */
	readonly visits: readonly StageLength[];
	/** from first entering a stage to won */
	readonly left: readonly StageLength[];
}

/** Block by block. The same object as long as no deal's wins change, so that what was measured on it is kept with it. */
export type Spans = readonly (readonly WonSpan[])[];

/** The wins of a block’s deals. */
const spansIn = derived("wins", (block: DealBlock, rules: Rules): readonly WonSpan[] => {
	const spans: WonSpan[] = [];
	block.facts.forEach(({ createdDay }, place) => {
		spans.push(...spansOf(block, rules, place, createdDay));
	});
	return spans;
});

/** Every time a deal was won, over the whole history. */
export const wonSpans = derived("won spans", (company: Company): Spans => {
	const last = lastSpans(company.rules);
	const spans = company.blocks.map((block, i) => {
		const [now, before] = [spansIn(block, company.rules), last.spans[i]];
		return before && (before === now || JSON.stringify(before) === JSON.stringify(now)) ? before : now;
	});
	if (spans.length !== last.spans.length || spans.some((own, i) => own !== last.spans[i])) last.spans = spans;
	return last.spans;
});

/** The wins that were asked for last under some rules. */
const lastSpans = derived("last won spans", (_: Rules): { spans: Spans } => ({ spans: [] }));

function spansOf({ first, versions }: DealBlock, { stages, calendar }: Rules, place: number, createdDay: Day): WonSpan[] {
	const spans: WonSpan[] = [];
	const kindAt = (row: number) => stages[versions.stage[row] as number]?.kind;
	const ends = dayEndsIn(versions, place, Number.MAX_SAFE_INTEGER);
	for (let i = 0; i < ends.length; i++) {
		if (kindAt(ends[i] as number) !== "won") continue;
		let last = i;
		while (last + 1 < ends.length && kindAt(ends[last + 1] as number) === "won") last++;
		const closed = versions.day[ends[i] as number] as Day;
		const next = ends[last + 1];
		const path = pathOf(versions, ends.slice(0, i + 1), stages, calendar, closed);
		const until = next === undefined ? null : (versions.day[next] as Day);
		spans.push({ deal: first + place, closed, until, age: calendar.between(createdDay, closed), ...needsOf(path, closed, calendar) });
		i = last;
	}
	return spans;
}

/** What a deal needed that was won at the end of a path. */
function needsOf({ visits }: Path, closed: Day, { between }: Rules["calendar"]): Pick<WonSpan, "visits" | "left"> {
	const entered = new Map<number, number>();
	for (const { stage, from } of visits) if (!entered.has(stage)) entered.set(stage, between(from, closed));
	return { visits: visits.flatMap(({ stage, length, finished }): StageLength[] => (finished ? [[stage, length]] : [])), left: [...entered] };
}

/** The deals that stand won on a day and were closed after another. */
export function wonBetween(company: Company, after: Day, seen: Day): readonly WonSpan[] {
	const between: WonSpan[] = [];
	for (const own of wonSpans(company)) for (const span of own) if (span.closed > after && standsWon(span, seen)) between.push(span);
	return between;
}

const standsWon = ({ closed, until }: WonSpan, day: Day): boolean => closed <= day && (until === null || until > day);
