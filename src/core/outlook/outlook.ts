import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { byId } from "../deal/order";
import type { DealSeen } from "../dealSeen";
import { amountsBase, type Inspected, rowOf } from "../inspect";
import { lastPeriods } from "../patterns/quarters";
import { percentileOf } from "../statistics/percentile";
import type { Day } from "../time/day";
import { monthOf, type Period, quarterOf } from "../time/period";
import { byCount } from "../words/grammar";
import type { Chance } from "./chance";
import { DRAWS, drawTotals } from "./draw";
import { dueKind, elsewhereKind, type Kind, PLACES, type Place, placeOf } from "./kind";
import { type Learnt, learn, type Sample } from "./learnt";
import { type Moments, momentsOf, type Stake, stretchOf } from "./moments";
import { type Past, type PastDeal, pastOf, sampleOf, wonIn } from "./past";
import { foretellPast, missesOf, type OwnRecord, recordOf } from "./record";
import { type Course, coursesOf } from "./shock";

/** A past period that the outlook rests on. */
export interface PastPeriod {
	readonly period: Period;
	readonly day: Day;
	/** the deals that were due in it on the day looked at, and how many of them were won */
	readonly comparables: number;
	readonly won: number;
}

/** An open deal with its chance of being won in the period. */
export interface OutlookDeal extends Chance {
	readonly deal: number;
	readonly kind: Kind;
	/** its close date lies in the period */
	readonly due: boolean;
	/** base minor units on the seen day */
	readonly amount: number;
	readonly swing: number;
	/** it is among those that together hold two thirds of all swing */
	readonly decides: boolean;
}

/** Past deals that were dated at one place elsewhere, and how many of them were won in time. */
export type PlaceRecord = Readonly<Record<Place, { readonly n: number; readonly won: number }>>;

export interface Outlook extends Pick<Moments, "mean" | "due" | "elsewhere" | "fresh" | "common"> {
	/** the first first */
	readonly periods: readonly PastPeriod[];
	readonly won: number;
	readonly low: number;
	readonly middle: number;
	readonly high: number;
	readonly chanceOfTarget: number | null;
	readonly amountRatio: number;
	/** how many wins that aren't there yet are expected */
	readonly freshCount: number;
	/** how far whole periods go up and down together, in log odds */
	readonly spread: number;
	/** by how much the band is widened */
	readonly stretch: number;
	/** of the open deals, by swing, the largest first */
	readonly deals: readonly OutlookDeal[];
	readonly places: PlaceRecord;
	readonly record: OwnRecord;
}

const PERIODS = 8;
const FEWEST = 2;
const FEWEST_DUE = 8;
const TWO_THIRDS = 2 / 3;

/** The kind of a fiscal period, or null where it is neither a quarter nor a month. */
export function kindOfPeriod(company: Company, period: Period): "quarter" | "month" | null {
	const is = (other: Period) => other.start === period.start && other.end === period.end;
	return is(quarterOf(period.start, company.rules.fiscal)) ? "quarter" : is(monthOf(period.start, company.rules.fiscal)) ? "month" : null;
}

/** The past periods that an outlook rests on, the first first. */
const lookedAt = (company: Company, period: Period, seen: Day) =>
	lastPeriods(company, kindOfPeriod(company, period) ?? "quarter", seen, PERIODS, leadOf(company, period, seen)).reverse();

const leadOf = ({ rules }: Company, { end }: Period, seen: Day) => Math.max(0, rules.calendar.between(seen, end));

/** Why there is no outlook for a period, in words; null where there is one. */
export function whyNone(company: Company, period: Period, seen: Day): string | null {
	const kind = kindOfPeriod(company, period);
	if (!kind) return "An outlook is given for a quarter or a month.";
	if (seen > period.end) return "The period is over.";
	const looked = lookedAt(company, period, seen);
	if (looked.length < FEWEST)
		return `It takes ${FEWEST} past ${kind}s with open deals on a day as far before their end; there ${byCount(looked.length, "is", "are")} ${looked.length}.`;
	const due = looked.reduce((sum, one) => sum + dueOf(pastOf(company, one, seen)).length, 0);
	return due < FEWEST_DUE ? `It takes ${FEWEST_DUE} past deals that were due at such a point of a ${kind}; there ${byCount(due, "is", "are")} ${due}.` : null;
}

const dueOf = ({ deals }: Past): readonly PastDeal[] => deals.filter(({ kind }) => kind.due);

/** What an outlook stands on before anything is drawn. */
export interface Ground extends Moments {
	readonly past: readonly Past[];
	readonly samples: readonly Sample[];
	readonly courses: readonly Course[];
	readonly learnt: Learnt;
	readonly won: number;
	/** by their ids */
	readonly deals: readonly (Omit<OutlookDeal, "decides"> & Stake)[];
}

/**
 * The open deals with their chances, what is won, what isn't there yet, and the mean of it all: base minor units at the
 * rates of the seen day. It pauses after each past period.
 *
 * @param survey all deals inspected on the seen day
 * @returns null where `whyNone` says why
 */
export function* groundSteps(company: Company, survey: Inspected, period: Period, scope: Scope, seen: Day): Generator<undefined, Ground | null> {
	const past: Past[] = [];
	for (const looked of kindOfPeriod(company, period) && seen <= period.end ? lookedAt(company, period, seen) : []) {
		past.push(pastOf(company, looked, seen));
		yield;
	}
	if (whyNone(company, period, seen) !== null) return null;
	const samples = past.map((one) => sampleOf(one, scope));
	const courses = coursesOf(samples.map(({ tally }) => tally));
	const learnt = learn(samples, courses);
	const won = wonIn(company, period, scope, seen, seen);
	const deals = openDeals(company, survey, period, scope, seen, learnt);
	return { past, samples, courses, learnt, won, deals, ...momentsOf(won, deals, learnt) };
}

function openDeals(company: Company, survey: Inspected, period: Period, scope: Scope, seen: Day, { comparables, ratio }: Learnt): Ground["deals"] {
	const amountOf = amountsBase(company, seen);
	const kindOf = kindsOn(company, survey, period, seen);
	const order = byId(company);
	return survey.deals
		.flatMap((one) => {
			if (one?.status !== "open" || !ownerIn(scope, one.owner)) return [];
			const amount = amountOf(one.deal, rowOf(company.history, one));
			const kind = kindOf(one);
			const chance = comparables.chanceOf(kind);
			const worth = amount * ratio;
			return [{ deal: one.deal, kind, due: kind.due, amount, worth, ...chance, swing: chance.chance * (1 - chance.chance) * worth ** 2 }];
		})
		.sort((a, b) => order(a.deal, b.deal));
}

/** Gives the kind of an open deal as it was seen. */
export function kindsOn(company: Company, { norms }: Pick<Inspected, "norms">, period: Period, seen: Day): (deal: DealSeen) => Kind {
	const lead = leadOf(company, period, seen);
	return (deal) =>
		deal.close >= period.start && deal.close <= period.end
			? dueKind(company, deal)
			: elsewhereKind(placeOf(company.rules, deal.close, seen, period, lead), deal.stageIndex, deal.amountBase > norms.medianAmount);
}

/** The past deals that agree with a kind in its first values, so many of them, over all periods that an outlook rests on. */
export function comparablesOf(company: Company, period: Period, seen: Day, kind: Kind, depth: number): (PastDeal & Pick<Past, "period" | "day">)[] {
	const key = kind.keys[depth];
	return lookedAt(company, period, seen).flatMap((looked) =>
		pastOf(company, looked, seen).deals.flatMap((one) => (one.kind.keys[depth] === key ? [{ ...one, ...looked }] : [])),
	);
}

/**
 * The chance of each total by the period's end, from what came of comparable deals of this organisation. All amounts in
 * base minor units at the rates of the seen day. It pauses between its steps, so that others may have their turn.
 *
 * @param survey all deals inspected on the seen day
 * @param seed names the question: the same has the same answer
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
	const { past, samples, courses, learnt, won, deals, mean, due, elsewhere, fresh, common } = ground;
	const foretold = foretellPast(company, past, samples, courses, scope, seen);
	const stretch = stretchOf(missesOf(foretold));
	const draws = yield* drawTotals(won, deals, learnt, ground, stretch, seed);
	const [low, middle, high] = [0.1, 0.5, 0.9].map((p) => percentileOf(draws, p)) as [number, number, number];
	return {
		periods: past.map((one) => ({ period: one.period, day: one.day, comparables: dueOf(one).length, won: dueOf(one).filter((deal) => deal.won).length })),
		won,
		mean,
		due,
		elsewhere,
		fresh,
		common,
		low,
		middle,
		high,
		chanceOfTarget: target === null ? null : draws.filter((total) => total >= target).length / DRAWS,
		amountRatio: learnt.ratio,
		freshCount: learnt.fresh.amounts.length ? learnt.fresh.rate : 0,
		spread: learnt.spread,
		stretch,
		deals: withDeciding(deals),
		places: placesOf(past),
		record: yield* recordOf(company, foretold, seed),
	};
}

function placesOf(past: readonly Past[]): PlaceRecord {
	const counts = Object.fromEntries(PLACES.map((place) => [place, { n: 0, won: 0 }])) as Record<Place, { n: number; won: number }>;
	for (const { tally } of past) {
		for (const [{ due, values }, { n, won }] of tally) {
			if (due) continue;
			const own = counts[values[0] as Place];
			own.n += n;
			own.won += won;
		}
	}
	return counts;
}

/** By swing, the largest first, with those that together hold two thirds of it; deals of the same swing as they come, by their ids. */
function withDeciding(deals: Ground["deals"]): OutlookDeal[] {
	const all = deals.reduce((sum, { swing }) => sum + swing, 0);
	let held = 0;
	return [...deals]
		.sort((a, b) => b.swing - a.swing)
		.map(({ worth: _, ...deal }) => {
			const decides = deal.swing > 0 && held < all * TWO_THIRDS;
			held += deal.swing;
			return { ...deal, decides };
		});
}
