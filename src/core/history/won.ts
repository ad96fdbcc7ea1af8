import type { Company } from "../company";
import { keeper } from "../keep";
import type { Day } from "../time/day";
import { blockOf, dayEnds, type History } from "./columns";
import { type Path, pathOf } from "./path";

/** A span of days in which a deal stood won, with the walk that led there. */
export interface WonSpan {
	readonly deal: number;
	readonly closed: Day;
	/** the first day on which it no longer stands won; Infinity while it does */
	readonly until: Day;
	readonly path: Path;
}
/** By deal. The same object as long as no deal's wins change, so that what was measured on it may be kept with it. */
export type Spans = ReadonlyMap<number, readonly WonSpan[]>;

/** Spans that were found in a history, kept with it: a holder, so that what is found later can be put into it. */
const found = keeper((_: History): { spans: Spans | null; stale: { spans: Spans; changed: ReadonlySet<number> } | null } => ({ spans: null, stale: null }));

/**
 * Lets a history begin with what was found in the one it was made from, of which some deals changed. Nothing of the
 * earlier history itself is held on to.
 */
export function carryWon(from: History, to: History, changed: ReadonlySet<number>): void {
	const { spans, stale } = found(from);
	if (spans) found(to).stale = { spans, changed };
	else if (stale) found(to).stale = { spans: stale.spans, changed: new Set([...stale.changed, ...changed]) };
}

/** Every time a deal was won, over the whole history. Kept with the columns, so that each day needn't walk them anew. */
export function wonSpans(company: Company): Spans {
	const kept = found(company.history);
	kept.spans ??= kept.stale ? spansAgain(company, kept.stale.spans, kept.stale.changed) : new Map(spansAmong(company, company.deals.keys()));
	kept.stale = null;
	return kept.spans;
}

function spansAgain(company: Company, before: Spans, changed: ReadonlySet<number>): Spans {
	const now = new Map(spansAmong(company, changed));
	const were = [...changed].some((deal) => before.has(deal));
	if (!were && !now.size) return before;
	return new Map([...[...before].filter(([deal]) => !changed.has(deal)), ...now]);
}

function* spansAmong(company: Company, deals: Iterable<number>): Iterable<[number, readonly WonSpan[]]> {
	for (const deal of deals) {
		const own = spansOf(company, deal);
		if (own.length) yield [deal, own];
	}
}

function spansOf({ history, rules }: Company, deal: number): WonSpan[] {
	const spans: WonSpan[] = [];
	const block = blockOf(history, deal);
	const kindAt = (row: number) => rules.stages[block.stage[row] as number]?.kind;
	const ends = dayEnds(history, deal, Number.MAX_SAFE_INTEGER);
	for (let i = 0; i < ends.length; i++) {
		if (kindAt(ends[i] as number) !== "won") continue;
		let last = i;
		while (last + 1 < ends.length && kindAt(ends[last + 1] as number) === "won") last++;
		const closed = block.day[ends[i] as number] as Day;
		const next = ends[last + 1];
		const until = next === undefined ? Number.POSITIVE_INFINITY : (block.day[next] as Day);
		spans.push({ deal, closed, until, path: pathOf(block, ends.slice(0, i + 1), rules.stages, rules.calendar, closed) });
		i = last;
	}
	return spans;
}

/** The deals that stand won on a day and were closed after another, each with its walk up to the closed day. */
export function wonBetween(company: Company, after: Day, seen: Day): readonly WonSpan[] {
	const between: WonSpan[] = [];
	for (const own of wonSpans(company).values()) {
		for (const span of own) if (span.closed > after && span.closed <= seen && span.until > seen) between.push(span);
	}
	return between;
}
