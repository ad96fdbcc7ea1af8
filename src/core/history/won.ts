import type { Company } from "../company";
import type { Day } from "../time/day";
import { dayEnds, type History } from "./columns";
import { type Path, pathOf } from "./path";

/** A span of days in which a deal stood won, with the walk that led there. */
interface WonSpan {
	readonly deal: number;
	readonly closed: Day;
	/** the first day on which it no longer stands won; Infinity while it does */
	readonly until: Day;
	readonly path: Path;
}

const kept = new WeakMap<History, readonly WonSpan[]>();

/** Every time a deal was won, over the whole history. Kept with the columns, so that each day needn't walk them anew. */
function wonSpans({ history, rules, deals }: Company): readonly WonSpan[] {
	const known = kept.get(history);
	if (known) return known;
	const spans: WonSpan[] = [];
	const kindAt = (row: number) => rules.stages[history.stage[row] as number]?.kind;
	for (let deal = 0; deal < deals.length; deal++) {
		const ends = dayEnds(history, deal, Number.MAX_SAFE_INTEGER);
		for (let i = 0; i < ends.length; i++) {
			if (kindAt(ends[i] as number) !== "won") continue;
			let last = i;
			while (last + 1 < ends.length && kindAt(ends[last + 1] as number) === "won") last++;
			const closed = history.day[ends[i] as number] as Day;
			const next = ends[last + 1];
			spans.push({
				deal,
				closed,
				until: next === undefined ? Number.POSITIVE_INFINITY : (history.day[next] as Day),
				path: pathOf(history, ends.slice(0, i + 1), rules.stages, rules.calendar, closed),
			});
			i = last;
		}
	}
	kept.set(history, spans);
	return spans;
}

/** The deals that stand won on a day and were closed after another, each with its walk up to the closed day. */
export function wonBetween(company: Company, after: Day, seen: Day): readonly WonSpan[] {
	return wonSpans(company).filter((span) => span.closed > after && span.closed <= seen && span.until > seen);
}
