import { bridge, type Step } from "../bridge/bridge";
import type { StepDeal } from "../bridge/parts";
import type { Scope } from "../bridge/scope";
import { type Entry, type Exit, isEntry, isExit } from "../bridge/steps";
import type { Ledger } from "../company";
import { blockOf } from "../history/columns";
import { type Day, NO_DAY, weekday } from "../time/day";
import type { Period } from "../time/period";

/** Days `start` to `end`, both within. */
export interface Week {
	readonly start: Day;
	readonly end: Day;
}

/** The weeks from Monday to Sunday that hold the days from `first` to `last`; the outer ones are cut to them. */
export function weeksOf(first: Day, last: Day): Week[] {
	const weeks: Week[] = [];
	for (let start = first; start <= last; ) {
		const end = Math.min(last, start + ((7 - weekday(start)) % 7));
		weeks.push({ start, end });
		start = end + 1;
	}
	return weeks;
}

/** What went in a week from one place to another: an open stage by index, or the way in or out. */
export interface Move {
	readonly from: number | Entry;
	readonly to: number | Exit;
	/** base minor units before and after the week */
	readonly before: number;
	readonly after: number;
	readonly deals: readonly StepDeal[];
}

export interface RiverWeek extends Week {
	/** by index of stage at the week's end; only open stages hold anything */
	readonly bands: readonly number[];
	readonly open: number;
	readonly count: number;
	/** the bridge of the week */
	readonly steps: readonly Step[];
	/** deals that stayed in their stage too */
	readonly moves: readonly Move[];
	/** in at both ends with a later close date */
	readonly later: readonly StepDeal[];
}

export interface River {
	/** bands, amount and count before the first week */
	readonly start: Pick<RiverWeek, "bands" | "open" | "count">;
	readonly weeks: readonly RiverWeek[];
}

/** The pipeline of a period and scope through weeks that follow each other: each week is a bridge, so that everything adds up. */
export function river(ledger: Ledger, weeks: readonly Week[], period: Period, scope: Scope): River {
	let start: River["start"] | null = null;
	const passed = weeks.map(({ start: first, end }): RiverWeek => {
		const { opening, steps, closing } = bridge(ledger, first - 1, end, period, scope);
		const moves = new Moves(ledger, steps);
		for (const deal of opening.deals) moves.stood(deal);
		for (const step of steps) if (isEntry(step.kind)) for (const deal of step.deals) moves.came(step.kind, deal);
		start ??= { bands: bandsOf(ledger, opening.deals, "before"), open: opening.amount, count: opening.deals.length };
		return {
			start: first,
			end,
			bands: bandsOf(ledger, closing.deals, "after"),
			open: closing.amount,
			count: closing.deals.length,
			steps,
			moves: moves.all(),
			later: moves.later,
		};
	});
	return { start: start ?? { bands: ledger.rules.stages.map(() => 0), open: 0, count: 0 }, weeks: passed };
}

function bandsOf({ rules, history }: Ledger, deals: Iterable<StepDeal>, end: "before" | "after"): number[] {
	const bands = rules.stages.map(() => 0);
	for (const deal of deals) {
		const stage = blockOf(history, deal.deal).stage[end === "before" ? deal.rowA : deal.rowB] as number;
		bands[stage] = (bands[stage] as number) + deal[end];
	}
	return bands;
}

/** Gathers the deals of a week by the place they came from and the place they went to. */
class Moves {
	private readonly exits = new Map<number, Exit>();
	private readonly found = new Map<string, { from: number | Entry; to: number | Exit; before: number; after: number; deals: StepDeal[] }>();
	readonly later: StepDeal[] = [];

	constructor(
		private readonly ledger: Ledger,
		steps: readonly Step[],
	) {
		for (const step of steps) if (isExit(step.kind)) for (const deal of step.deals) this.exits.set(deal.deal, step.kind);
	}

	stood(deal: StepDeal): void {
		const { stage, close } = blockOf(this.ledger.history, deal.deal);
		const exit = this.exits.get(deal.deal);
		this.put(stage[deal.rowA] as number, exit ?? (stage[deal.rowB] as number), deal);
		const [before, after] = [close[deal.rowA] as number, close[deal.rowB] as number];
		if (!exit && after !== NO_DAY && after > before) this.later.push(deal);
	}

	came(from: Entry, deal: StepDeal): void {
		this.put(from, this.exits.get(deal.deal) ?? (blockOf(this.ledger.history, deal.deal).stage[deal.rowB] as number), deal);
	}

	private put(from: number | Entry, to: number | Exit, deal: StepDeal): void {
		const key = `${from}>${to}`;
		const move = this.found.get(key) ?? { from, to, before: 0, after: 0, deals: [] };
		move.before += deal.before;
		move.after += deal.after;
		move.deals.push(deal);
		this.found.set(key, move);
	}

	all(): Move[] {
		return [...this.found.values()];
	}
}
