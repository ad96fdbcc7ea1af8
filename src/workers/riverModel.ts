import type { StepKind } from "../core/bridge/steps";
import { ledgerOf, type RiverColumns, takeDeals } from "../core/river/columns";
import { type WeekLine, weekLines } from "../core/river/lines";
import { type Move, type River, type RiverWeek, river, type Week } from "../core/river/river";
import { pushesOf, type Standing, standing } from "../core/river/thread";
import type { Day } from "../core/time/day";
import type { Period } from "../core/time/period";

export interface RiverGround {
	readonly columns: RiverColumns;
	readonly weeks: readonly Week[];
	readonly period: Period;
	/** people by index; null for everyone */
	readonly scope: readonly number[] | null;
	/** for each field its parts, and of each deal the part's index */
	readonly slices: Readonly<Record<string, { readonly parts: readonly string[]; readonly of: readonly number[] }>>;
	readonly monthEnds: readonly Day[];
}

export interface Cut {
	readonly field: string;
	readonly part: string;
}

export interface PictureWeek extends Pick<RiverWeek, "start" | "end" | "bands" | "open" | "count"> {
	/** steps that have deals */
	readonly steps: readonly { readonly kind: StepKind; readonly amount: number; readonly count: number }[];
	readonly moves: readonly (Omit<Move, "deals"> & { readonly count: number })[];
	/** amount and count of what was pushed later and stayed in */
	readonly later: { readonly amount: number; readonly count: number };
	/** the week in words: "4 pushed out" */
	readonly words: readonly string[];
}

export interface Picture {
	readonly start: River["start"];
	readonly weeks: readonly PictureWeek[];
	/** indexes of the open stages, in order */
	readonly open: readonly number[];
}

/** Where a deal stood at the end of each week, the state before the first week first; null: not in. */
export type Thread = readonly (Standing | null)[];

/** What stood in a stage at the end of a day. */
export interface Stood {
	readonly stage: string;
	readonly count: number;
	readonly amount: number;
	/** the largest of them */
	readonly deals: readonly { readonly deal: number; readonly amount: number }[];
}

/** How many deals of a stage are named; more are in the list of deals of that day. */
const NAMED = 100;

/** One part of a slice over the whole span: base minor units and counts. */
export interface PartFigures {
	readonly part: string;
	readonly start: number;
	readonly end: number;
	readonly won: number;
	readonly lost: number;
	readonly pushes: number;
	readonly pushed: number;
	/** of the pushes, those in the last five working days of a month */
	readonly atMonthEnd: number;
}

/**
 * Keeps the columns of a river and answers what a picture of it asks, with deals named by their place in the
 * ground. It runs in a thread of its own, so that dragging a date never waits for a figure.
 */
export class RiverModel {
	private ground: RiverGround | null = null;
	private columns: RiverColumns | null = null;
	/** places in the ground of the deals that are looked at */
	private kept: number[] = [];
	private found: readonly RiverWeek[] = [];
	private boundaries: Standing[][] = [];
	private readonly figured = new Map<string, PartFigures[]>();

	/** Takes the whole river in and cuts it to one part of a slice, or to none. */
	open(ground: RiverGround, cut: Cut | null): Picture {
		this.ground = ground;
		this.figured.clear();
		return this.cut(cut);
	}

	cut(cut: Cut | null): Picture {
		const { columns, weeks, slices } = this.known();
		const slice = cut ? slices[cut.field] : undefined;
		const part = slice?.parts.indexOf(cut?.part ?? "");
		const all = Array.from({ length: columns.offsets.length - 1 }, (_, deal) => deal);
		this.kept = slice ? all.filter((deal) => slice.of[deal] === part) : all;
		this.columns = slice ? takeDeals(columns, this.kept) : columns;
		const ledger = ledgerOf(this.columns);
		const [period, scope] = this.reach();
		const { start, weeks: found } = river(ledger, weeks, period, scope);
		this.found = found;
		const days = weeks.length ? [(weeks[0] as Week).start - 1, ...weeks.map((week) => week.end)] : [];
		this.boundaries = days.map((day) => standing(ledger, day, period, scope));
		return {
			start,
			weeks: found.map((week) => ({
				start: week.start,
				end: week.end,
				bands: week.bands,
				open: week.open,
				count: week.count,
				steps: week.steps.filter((step) => step.deals.length).map(({ kind, amount, deals }) => ({ kind, amount, count: deals.length })),
				moves: week.moves.map(({ deals, ...move }) => ({ ...move, count: deals.length })),
				later: { amount: week.later.reduce((sum, deal) => sum + deal.after, 0), count: week.later.length },
				words: weekLines(week, columns.stages).map((line) => `${line.deals.length} ${line.label}`),
			})),
			open: columns.stages.flatMap((stage, i) => (stage.kind === "open" ? [i] : [])),
		};
	}

	/** A week line by line, the largest deal of each line first. */
	week(index: number): WeekLine[] {
		const week = this.found[index];
		if (!week) return [];
		const named = (deals: WeekLine["deals"]) => deals.map(({ deal, amount }) => ({ deal: this.kept[deal] as number, amount }));
		return weekLines(week, this.known().columns.stages).map((line) => ({ ...line, deals: named(line.deals).sort((a, b) => b.amount - a.amount) }));
	}

	/** Where every deal stood at the end of a day, by stage from the last to the first; of each the largest deals. */
	on(day: Day): Stood[] {
		const [period, scope] = this.reach();
		const { columns } = this.known();
		const all = standing(ledgerOf(this.columns ?? columns), day, period, scope);
		return columns.stages
			.flatMap((stage, index): Stood[] => {
				if (stage.kind !== "open") return [];
				const here = all.filter((one) => one.stage === index).sort((a, b) => b.amount - a.amount);
				return [
					{
						stage: stage.name,
						count: here.length,
						amount: here.reduce((sum, one) => sum + one.amount, 0),
						deals: here.slice(0, NAMED).map(({ deal, amount }) => ({ deal: this.kept[deal] as number, amount })),
					},
				];
			})
			.reverse();
	}

	/** The deal that lies at a height of a band at a boundary of weeks; null where none does. */
	dealAt(boundary: number, stage: number, height: number): number | null {
		const found = this.boundaries[boundary]?.find((one) => one.stage === stage && height >= one.below && height < one.below + one.amount);
		return found ? (this.kept[found.deal] as number) : null;
	}

	thread(deal: number): Thread {
		const place = this.kept.indexOf(deal);
		return this.boundaries.map((threads) => threads.find((one) => one.deal === place) ?? null);
	}

	/** The parts of a field side by side over the whole span, those with the most pushes first. */
	parts(field: string): PartFigures[] {
		const found = this.figured.get(field) ?? this.partsOf(field);
		this.figured.set(field, found);
		return found;
	}

	private partsOf(field: string): PartFigures[] {
		const { columns, weeks, slices } = this.known();
		const slice = slices[field];
		const [first, last] = [weeks[0]?.start, weeks.at(-1)?.end];
		if (!slice || first === undefined || last === undefined) return [];
		return slice.parts
			.map((part, index) => {
				const deals = slice.of.flatMap((of, deal) => (of === index ? [deal] : []));
				return this.figures(part, takeDeals(columns, deals), { start: first, end: last });
			})
			.sort((a, b) => b.pushes - a.pushes || b.end - a.end || (a.part < b.part ? -1 : 1));
	}

	private figures(part: string, columns: RiverColumns, span: Week): PartFigures {
		const ledger = ledgerOf(columns);
		const [period, scope] = this.reach();
		const { start, weeks } = river(ledger, [span], period, scope);
		const amountOf = (kind: StepKind) => weeks[0]?.steps.find((step) => step.kind === kind)?.amount ?? 0;
		const pushes = pushesOf(ledger, span.start, span.end, period, scope);
		const late = new Set(this.known().monthEnds);
		return {
			part,
			start: start.open,
			end: weeks[0]?.open ?? 0,
			won: amountOf("won"),
			lost: amountOf("lost"),
			pushes: pushes.length,
			pushed: pushes.reduce((sum, push) => sum + push.amount, 0),
			atMonthEnd: pushes.filter((push) => late.has(push.day)).length,
		};
	}

	private known(): RiverGround {
		if (!this.ground) throw new Error("the river isn’t open yet");
		return this.ground;
	}

	private reach(): [Period, ReadonlySet<number> | null] {
		const { period, scope } = this.known();
		return [period, scope && new Set(scope)];
	}
}
