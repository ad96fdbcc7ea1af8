import { ownerIn, type Scope } from "../bridge/scope";
import type { Company, DealBlock, Rules } from "../company";
import { byId } from "../deal/order";
import { derive, derived, keyOf } from "../derive";
import { asOf, type Block, blockOf, endRow, firstRow, lastOn } from "../history/columns";
import { closedDayOf } from "../history/path";
import { wonBetween } from "../history/won";
import { amountsBase, blockAmounts, rowOf } from "../inspect";
import { normsOn } from "../norms";
import { dueIn, endRowOf } from "../patterns/due";
import type { Looked } from "../patterns/quarters";
import type { Day } from "../time/day";
import type { Period } from "../time/period";
import { type Tally, tallied } from "./chance";
import { dueKind, elsewhereKind, type Kind, placeOf } from "./kind";
import type { Sample } from "./learnt";

/** A deal that was open on the day a past period is looked at. */
export interface PastDeal {
	readonly deal: number;
	readonly kind: Kind;
	/** won by the period’s end, and in the period */
	readonly won: boolean;
	/** index of the owner on the day looked at, or NONE */
	readonly owner: number;
	/** base minor units: on the day looked at, and at the period’s end */
	readonly amount: number;
	readonly endAmount: number;
	readonly stage: number;
}

/** A past period: everyone’s deals that were open on the day looked at, and what was won in it that wasn’t there yet. */
export interface Past extends Looked {
	/** by their ids */
	readonly deals: readonly PastDeal[];
	readonly tally: Tally;
	/** owner and amount as at the period’s end */
	readonly fresh: readonly { readonly owner: number; readonly amount: number }[];
}

/** so many are kept: eight periods, for some days at whose rates amounts are taken */
const KEPT = 60;

/** A past period, amounts at the rates of a day. */
export const pastOf = (company: Company, { period, day }: Looked, ratesOn: Day): Past => gathered(company, period.start, period.end, day, ratesOn);

const gathered = derived(
	"past period",
	(company: Company, start: Day, end: Day, day: Day, ratesOn: Day): Past => {
		const period = { start, end };
		const amountOf = amountsBase(company, ratesOn);
		const order = byId(company);
		const found = [...dueOpen(company, { period, day }), ...company.blocks.flatMap((block) => elsewhereIn(company, block, period, day))];
		const deals = found
			.map(
				({ deal, kind, won, owner, stage, row, last }): PastDeal => ({
					deal,
					kind,
					won,
					owner,
					stage,
					amount: amountOf(deal, row),
					endAmount: won ? amountOf(deal, last) : 0,
				}),
			)
			.sort((a, b) => order(a.deal, b.deal));
		return { period, day, deals, tally: tallied(deals), fresh: freshIn(company, period, day, new Set(deals.map(({ deal }) => deal)), amountOf) };
	},
	KEPT,
);

/** A deal as it stood, named by its rows: in force on the day looked at, and at the period's end (−1: gone). */
interface Open extends Omit<PastDeal, "amount" | "endAmount"> {
	readonly row: number;
	readonly last: number;
}

const dueOpen = (company: Company, looked: Looked): Open[] =>
	dueIn(company, looked).map((one) => {
		const { deal, owner, stageIndex: stage } = one.seen;
		const last = endRowOf(company, one);
		const won = wonWithin(company.rules, blockOf(company.history, deal), deal, last, looked.period);
		return { deal, kind: dueKind(company, one.seen), won, owner, stage, row: rowOf(company.history, one.seen), last };
	});

/** The deals of a block that were open on a day and dated elsewhere, or not at all; kept with it. */
function elsewhereIn(company: Company, block: DealBlock, period: Period, day: Day): readonly Open[] {
	const { medianAmount } = normsOn(company, day);
	const { rules } = company;
	return derive(
		block,
		"dated elsewhere",
		keyOf(rules, period.start, period.end, day, medianAmount),
		() => {
			const { versions, first } = block;
			const amountOf = blockAmounts({ rules }, day);
			const lead = Math.max(0, rules.calendar.between(day, period.end));
			const found: Open[] = [];
			for (let place = 0; place < versions.offsets.length - 1; place++) {
				const [from, end] = [firstRow(versions, place), endRow(versions, place)];
				const row = lastOn(versions.day, from, end, day);
				if (row < 0 || rules.stages[versions.stage[row] as number]?.kind !== "open") continue;
				const close = versions.close[row] as number;
				if (close >= period.start && close <= period.end) continue;
				const stage = versions.stage[row] as number;
				const last = lastOn(versions.day, from, end, period.end);
				const kind = elsewhereKind(placeOf(rules, close, day, period, lead), stage, amountOf(versions, row) > medianAmount);
				found.push({ deal: first + place, kind, won: wonWithin(rules, versions, place, last, period), owner: versions.owner[row] as number, stage, row, last });
			}
			return found;
		},
		KEPT,
	);
}

/** Whether a deal stands won at a row, closed within a period. */
function wonWithin({ stages }: Pick<Rules, "stages">, versions: Block, deal: number, row: number, { start, end }: Period): boolean {
	if (row < 0 || stages[versions.stage[row] as number]?.kind !== "won") return false;
	const closed = closedDayOf(versions, stages, firstRow(versions, deal), row);
	return closed >= start && closed <= end;
}

/** The amount of a version, named by its deal and row, in base minor units. */
type AmountOf = (deal: number, row: number) => number;

/** Wins of a period as seen on a day, each with its owner and amount as it stood then. */
function winsIn(
	company: Company,
	{ start, end }: Period,
	day: Day,
	amountOf: AmountOf,
): { readonly deal: number; readonly owner: number; readonly amount: number }[] {
	const { history } = company;
	return wonBetween(company, start - 1, day).flatMap(({ deal, closed }) => {
		if (closed > end) return [];
		const row = asOf(history, deal, day);
		return [{ deal, owner: blockOf(history, deal).owner[row] as number, amount: amountOf(deal, row) }];
	});
}

/** What was won in a period that was neither open nor won in it on the day looked at; by their ids. */
function freshIn(company: Company, period: Period, day: Day, open: ReadonlySet<number>, amountOf: AmountOf): Past["fresh"] {
	const known = new Set(winsIn(company, period, day, amountOf).map(({ deal }) => deal));
	const order = byId(company);
	return winsIn(company, period, period.end, amountOf)
		.filter(({ deal }) => !open.has(deal) && !known.has(deal))
		.sort((a, b) => order(a.deal, b.deal))
		.map(({ owner, amount }) => ({ owner, amount }));
}

/** What was won by some people in a period, as seen on a day: by the owner of the version that stood then. */
export function wonIn(company: Company, period: Period, scope: Scope, day: Day, ratesOn: Day): number {
	const wins = winsIn(company, period, day, amountsBase(company, ratesOn));
	return wins.reduce((sum, { owner, amount }) => sum + (ownerIn(scope, owner) ? amount : 0), 0);
}

/** What a past period says of a scope. */
export function sampleOf({ deals, tally, fresh }: Past, scope: Scope): Sample {
	const won = deals.filter((one) => one.won && one.kind.due);
	return {
		tally,
		comparables: deals.length,
		ours: deals.filter(({ owner }) => ownerIn(scope, owner)).length,
		whenWon: won.reduce((sum, { endAmount }) => sum + endAmount, 0),
		whenSeen: won.reduce((sum, { amount }) => sum + amount, 0),
		fresh: fresh.map(({ owner, amount }) => ({ amount, ours: ownerIn(scope, owner) })),
	};
}
