import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { byId } from "../deal/order";
import { amountsBase, type Inspected, rowOf } from "../inspect";
import { type Due, dueIn } from "../patterns/due";
import { type Looked, lastPeriods } from "../patterns/quarters";
import { percentileOf } from "../statistics/percentile";
import type { Day } from "../time/day";
import { monthOf, type Period, quarterOf } from "../time/period";
import { byCount } from "../words/grammar";
import { type Chance, Comparables, type Kind } from "./chance";
import { kindOf, type Past } from "./past";
import { type AmountOf, meanOf, type OwnRecord, type PastPeriod, pastPeriod, ratioOf, wonIn } from "./pastPeriod";
import { draw, seedOf } from "./random";

export interface OutlookDeal extends Chance {
	readonly deal: number;
	/** base minor units on the seen day */
	readonly amount: number;
	readonly swing: number;
	/** it is among those that together hold two thirds of all swing */
	readonly decides: boolean;
}

export interface Outlook {
	readonly periods: readonly PastPeriod[];
	readonly won: number;
	readonly mean: number;
	readonly low: number;
	readonly middle: number;
	readonly high: number;
	readonly chanceOfTarget: number | null;
	readonly amountRatio: number;
	/** the mean of what came from deals that were not in sight */
	readonly rest: number;
	/** of the open deals in the period, by swing, the largest first */
	readonly deals: readonly OutlookDeal[];
	readonly record: OwnRecord;
}

const PERIODS = 8;
const FEWEST = 3;
const DRAWS = 10_000;
const TWO_THIRDS = 2 / 3;

/** The kind of a fiscal period, or null where it is neither a quarter nor a month. */
export function kindOfPeriod(company: Company, period: Period): "quarter" | "month" | null {
	const is = (other: Period) => other.start === period.start && other.end === period.end;
	return is(quarterOf(period.start, company.rules.fiscalStart)) ? "quarter" : is(monthOf(period.start)) ? "month" : null;
}

/** Why there is no outlook for a period, in words; null where there is one. */
export function whyNone(company: Company, period: Period, seen: Day): string | null {
	const kind = kindOfPeriod(company, period);
	if (!kind) return "An outlook is given for a quarter or a month.";
	if (seen > period.end) return "The period is over.";
	const past = pastOf(company, period, seen).length;
	return past < FEWEST ? `It takes ${FEWEST} past ${kind}s with deals on a day as far before their end; there ${byCount(past, "is", "are")} ${past}.` : null;
}

const pastOf = (company: Company, period: Period, seen: Day): Looked[] =>
	lastPeriods(company, kindOfPeriod(company, period) ?? "quarter", seen, PERIODS, Math.max(0, company.rules.calendar.between(seen, period.end)));

/** What an outlook stands on before anything is drawn. */
export interface Ground {
	readonly past: readonly Past[];
	readonly won: number;
	readonly deals: readonly Omit<OutlookDeal, "decides">[];
	readonly amountRatio: number;
	readonly rest: number;
	readonly mean: number;
}

/**
 * The open deals of a period with their chances, what is won, what comes besides, and the mean of it all: base minor units
 * at the rates of the seen day. It pauses after each past period.
 *
 * @param survey all deals inspected on the seen day
 * @returns null where `whyNone` says why
 */
export function* groundSteps(company: Company, survey: Inspected, period: Period, scope: Scope, seen: Day): Generator<undefined, Ground | null> {
	if (whyNone(company, period, seen) !== null) return null;
	const amountOf = amountsBase(company, seen);
	const past: Past[] = [];
	for (const looked of pastOf(company, period, seen)) {
		past.push(pastPeriod(company, looked, scope, amountOf));
		yield;
	}
	const comparables = new Comparables(past.flatMap(({ due }) => due));
	const amountRatio = ratioOf(past);
	const won = wonIn(company, period, scope, seen, amountOf);
	const deals = survey.deals.flatMap((one) => {
		if (one?.status !== "open" || one.close < period.start || one.close > period.end || !ownerIn(scope, one.owner)) return [];
		const amount = amountOf(one.deal, rowOf(company.history, one));
		const chance = comparables.chanceOf(kindOf(company, one));
		return [{ deal: one.deal, amount, ...chance, swing: chance.chance * (1 - chance.chance) * (amount * amountRatio) ** 2 }];
	});
	// What is drawn and added up by them is the same wherever deals stand.
	const order = byId(company);
	deals.sort((a, b) => order(a.deal, b.deal));
	const rest = meanOf(past.map((one) => one.rest));
	return { past, won, deals, amountRatio, rest, mean: won + deals.reduce((sum, { chance, amount }) => sum + chance * amount * amountRatio, 0) + rest };
}

/** The past deals that agree with a kind in its first values, so many of them, over all periods that an outlook rests on. */
export function comparablesOf(company: Company, period: Period, seen: Day, kind: Kind, depth: number): Due[] {
	const agrees = (one: Due) => kindOf(company, one.seen).every((value, i) => i >= depth || value === kind[i]);
	return pastOf(company, period, seen).flatMap((looked) => dueIn(company, looked).filter(agrees));
}

/**
 * The chance of each total by the period's end, from what came of comparable deals of this organisation. All amounts in
 * base minor units at the rates of the seen day.
 *
 * @param survey all deals inspected on the seen day
 * @param seed names the question: the same has the same answer
 * It pauses between its steps, so that whoever runs it may let others have their turn.
 *
 * @returns null where `whyNone` says why
 */
export function* outlookSteps(
	company: Company,
	survey: Inspected,
	period: Period,
	scope: Scope,
	seen: Day,
	target: number | null,
	seed: string,
): Generator<undefined, Outlook | null> {
	const ground = yield* groundSteps(company, survey, period, scope, seen);
	if (!ground) return null;
	const { past, won, deals, amountRatio, rest, mean } = ground;
	const draws = yield* drawTotals(
		won,
		deals,
		amountRatio,
		past.map((one) => one.rest),
		seed,
	);
	const [low, middle, high] = [0.1, 0.5, 0.9].map((p) => percentileOf(draws, p)) as [number, number, number];
	return {
		periods: past.map(({ period: own, day, due }) => ({ period: own, day, comparables: due.length, won: due.filter((one) => one.won).length })),
		won,
		mean,
		low,
		middle,
		high,
		chanceOfTarget: target === null ? null : draws.filter((total) => total >= target).length / draws.length,
		amountRatio,
		rest,
		deals: withDeciding(deals),
		record: yield* recordOf(company, past, scope, amountsBase(company, seen), seed),
	};
}

/** Totals that may come, the smallest first: each deal won or not with its chance, and what comes besides as in one of the past periods. */
function* drawTotals(
	won: number,
	deals: readonly { chance: number; amount: number }[],
	ratio: number,
	rests: readonly number[],
	seed: string,
): Generator<undefined, Float64Array> {
	const parts = deals.map(({ chance, amount }) => ({ chance, amount: amount * ratio }));
	return (yield* draw({ base: won, parts, besides: rests }, seedOf(seed), DRAWS)).sort();
}

/** By swing, the largest first, with those that together hold two thirds of it. */
function withDeciding<D extends { readonly swing: number }>(deals: readonly D[]): (D & { decides: boolean })[] {
	const all = deals.reduce((sum, { swing }) => sum + swing, 0);
	let held = 0;
	return [...deals]
		.sort((a, b) => b.swing - a.swing)
		.map((deal) => {
			const decides = deal.swing > 0 && held < all * TWO_THIRDS;
			held += deal.swing;
			return { ...deal, decides };
		});
}

const FIFTHS = 5;

/** How it would have foretold each past period from the others alone, against what came. */
function* recordOf(company: Company, past: readonly Past[], scope: Scope, amountOf: AmountOf, seed: string): Generator<undefined, OwnRecord> {
	const { history, rules } = company;
	const all = new Comparables(past.flatMap(({ due }) => due));
	let [brier, baseline, n] = [0, 0, 0];
	const fifths = Array.from({ length: FIFTHS }, () => ({ n: 0, chance: 0, won: 0 }));
	const periods: OwnRecord["periods"][number][] = [];
	for (const [i, one] of past.entries()) {
		for (const comparable of one.due) all.add(comparable, -1);
		const others = past.filter((_, j) => j !== i);
		const ratio = ratioOf(others);
		const deals: { chance: number; amount: number }[] = [];
		for (const { seen, kind, won } of one.due) {
			const { chance } = all.chanceOf(kind);
			const stage = rules.stages[seen.stageIndex];
			const probability = stage ? stage.probability.units / 10 ** stage.probability.scale : 0;
			brier += (chance - Number(won)) ** 2;
			baseline += (probability - Number(won)) ** 2;
			n++;
			const fifth = fifths[Math.min(FIFTHS - 1, Math.floor(chance * FIFTHS))] as (typeof fifths)[number];
			fifth.n++;
			fifth.chance += chance;
			fifth.won += Number(won);
			if (ownerIn(scope, seen.owner)) deals.push({ chance, amount: amountOf(seen.deal, rowOf(history, seen)) });
		}
		for (const comparable of one.due) all.add(comparable, 1);
		const draws = yield* drawTotals(
			one.wonBefore,
			deals,
			ratio,
			others.map(({ rest }) => rest),
			`${seed} ${one.period.start}`,
		);
		const [low, high] = [percentileOf(draws, 0.1), percentileOf(draws, 0.9)];
		periods.push({ period: one.period, low, high, total: one.wonAfter, inside: one.wonAfter >= low && one.wonAfter <= high });
	}
	return {
		brier: n ? brier / n : null,
		baseline: n ? baseline / n : null,
		periods,
		calibration: fifths.map((fifth, i) => ({
			from: i / FIFTHS,
			to: (i + 1) / FIFTHS,
			n: fifth.n,
			chance: fifth.n ? fifth.chance / fifth.n : null,
			share: fifth.n ? fifth.won / fifth.n : null,
		})),
	};
}
