import type { Light } from "../attention/attention";
import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { CATEGORIES, type Category, NONE } from "../history/columns";
import { amountsBase, categoryOf, type DealSeen, type Inspected, rowOf } from "../inspect";
import { divideRounded, roundHalfAway } from "../money/decimal";
import { weightedPart } from "../money/rates";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";

/** How many deals, and their amounts in base minor units. */
export interface Sum {
	readonly count: number;
	readonly amount: number;
}

/** The kinds of deals that a period tells apart: each deal of its people is in one of them at the most. */
export const KINDS = ["won", "lost", "open", "leftBehind", "later", "undated"] as const;
export type Kind = (typeof KINDS)[number];

/** What is counted of some people's deals; it adds up over people. Base minor units. */
export interface Counted extends Readonly<Record<Kind, Sum>> {
	/** of what is open */
	readonly categories: Readonly<Record<Category, Sum>>;
	readonly weighted: number;
	readonly attention: Readonly<Record<Light, number>>;
	/** the deal ages of what was won, together, in working days */
	readonly wonAge: number;
}

/** The figures of a period; rates are plain numbers, null where their divisor is nothing. */
export interface PeriodFigures extends Omit<Counted, "wonAge"> {
	/** null where nobody has a target that touches the period */
	readonly target: number | null;
	readonly gap: number | null;
	readonly cover: number | null;
	readonly commitCover: number | null;
	/** the share of what is open that has to be won */
	readonly needed: number | null;
	readonly winRate: { readonly count: number | null; readonly amount: number | null };
	readonly averageWon: number | null;
	/** mean deal age of the deals won, in working days, to one decimal */
	readonly averageCycle: number | null;
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] extends object ? Mutable<T[K]> : T[K] };
type Tally = Mutable<Counted>;

const none = () => ({ count: 0, amount: 0 });
const tally = (): Tally => ({
	won: none(),
	lost: none(),
	open: none(),
	leftBehind: none(),
	later: none(),
	undated: none(),
	categories: { commit: none(), best_case: none(), pipeline: none(), left_out: none() },
	weighted: 0,
	attention: { act: 0, watch: 0, calm: 0 },
	wonAge: 0,
});

/** Which kind a deal is of in a period, by its status, its close date and the day it was closed; null: none. */
export function kindIn(period: Period, status: "open" | "won" | "lost", close: Day, closedDay: Day): Kind | null {
	if (status !== "open") return closedDay >= period.start && closedDay <= period.end ? status : null;
	if (close === NO_DAY) return "undated";
	return close < period.start ? "leftBehind" : close > period.end ? "later" : "open";
}

/** What is counted by owner; `unowned` of deals that nobody has. */
export interface CountedByOwner {
	/** by index of the person; only those with a deal of any kind */
	readonly people: ReadonlyMap<number, Counted>;
	readonly unowned: Counted;
}

/** Goes through the deals that a period holds as they were seen on a day: each with its kind and its amount at the rates of another. */
function forEachOf(company: Company, survey: Inspected, period: Period, ratesOn: Day, take: (seen: DealSeen, kind: Kind, amount: number) => void): void {
	const amountOf = amountsBase(company, ratesOn);
	for (const seen of survey.deals) {
		const kind = seen && kindIn(period, seen.status, seen.close, seen.path.closedDay);
		if (seen && kind) take(seen, kind, amountOf(rowOf(company.history, seen)));
	}
}

/** Counts a deal, or takes it out again (−1). */
function count(company: Company, own: Tally, seen: DealSeen, kind: Kind, amount: number, times: 1 | -1 = 1): void {
	add(own[kind], amount, times);
	if (kind === "won") own.wonAge += times * seen.dealAge;
	if (kind !== "open") return;
	add(own.categories[categoryOf(company, seen) ?? "pipeline"], amount, times);
	const stage = company.rules.stages[seen.stageIndex];
	if (stage) own.weighted += times * weightedPart(amount, stage.probability);
	own.attention[seen.attention.level] += times;
}

/**
 * What a period holds, owner by owner, as the deals were seen on a day.
 *
 * @param survey all deals inspected on that day
 * @param ratesOn the day whose rates all amounts are taken at
 */
export function countByOwner(company: Company, survey: Inspected, period: Period, ratesOn: Day): CountedByOwner {
	const people = new Map<number, Tally>();
	const unowned = tally();
	forEachOf(company, survey, period, ratesOn, (seen, kind, amount) => {
		const own = seen.owner === NONE ? unowned : (people.get(seen.owner) ?? tally());
		if (seen.owner !== NONE) people.set(seen.owner, own);
		count(company, own, seen, kind, amount);
	});
	return { people, unowned };
}

const copyOf = ({ people, unowned }: CountedByOwner) => ({
	people: new Map([...people].map(([owner, own]) => [owner, copied(own)])),
	unowned: copied(unowned),
});

/**
 * The counts less some deals as they stand in a company, which a survey has seen (there, or in a company before it in
 * which those deals were the same): what is left when they change.
 */
export function countedWithout(
	company: Company,
	survey: Inspected,
	period: Period,
	ratesOn: Day,
	whole: CountedByOwner,
	deals: Iterable<number>,
): CountedByOwner {
	const amountOf = amountsBase(company, ratesOn);
	const { people, unowned } = copyOf(whole);
	for (const deal of deals) {
		const was = survey.deals[deal];
		const kind = was && kindIn(period, was.status, was.close, was.path.closedDay);
		if (!was || !kind) continue;
		const own = was.owner === NONE ? unowned : people.get(was.owner);
		if (own) count(company, own, was, kind, amountOf(rowOf(company.history, was)), -1);
	}
	return { people, unowned };
}

/** The deals whose level of attention two surveys see differently. */
export function relitBetween(earlier: Inspected, survey: Inspected): number[] {
	const found: number[] = [];
	for (let deal = 0; deal < survey.deals.length; deal++) {
		const [was, seen] = [earlier.deals[deal], survey.deals[deal]];
		if (was && seen && was !== seen && was.attention.level !== seen.attention.level) found.push(deal);
	}
	return found;
}

/**
 * The counts of a survey, made of those without the deals that changed since an earlier one: the same as counting all
 * of it. Of the others only their attention may differ.
 */
export function countedAgain(
	company: Company,
	{ earlier, survey, relit }: { earlier: Inspected; survey: Inspected; relit: readonly number[] },
	period: Period,
	ratesOn: Day,
	rest: CountedByOwner,
	changed: ReadonlySet<number>,
): CountedByOwner {
	const amountOf = amountsBase(company, ratesOn);
	const { people, unowned } = copyOf(rest);
	const tallyOf = (owner: number) => {
		const own = owner === NONE ? unowned : (people.get(owner) ?? tally());
		if (owner !== NONE) people.set(owner, own);
		return own;
	};
	for (const deal of changed) {
		const seen = survey.deals[deal];
		const kind = seen && kindIn(period, seen.status, seen.close, seen.path.closedDay);
		if (seen && kind) count(company, tallyOf(seen.owner), seen, kind, amountOf(rowOf(company.history, seen)));
	}
	for (const deal of relit) {
		const [was, seen] = [earlier.deals[deal], survey.deals[deal]];
		if (!was || !seen || changed.has(deal) || kindIn(period, seen.status, seen.close, seen.path.closedDay) !== "open") continue;
		const { attention } = tallyOf(seen.owner);
		attention[was.attention.level]--;
		attention[seen.attention.level]++;
	}
	for (const [owner, own] of people) if (KINDS.every((kind) => own[kind].count === 0)) people.delete(owner);
	return { people, unowned };
}

/** A part that a deal belongs to, with its weight among the deal's parts; alone it has all of the deal. */
export interface Share<K> {
	readonly part: K;
	readonly weight: number;
}

/**
 * The same by other parts, of the deals of some people. A deal of several parts counts in each of them, with its share
 * of the amount: the shares of a deal add up to its amount exactly.
 */
export function countByPart<K>(
	company: Company,
	survey: Inspected,
	period: Period,
	ratesOn: Day,
	scope: Scope,
	partsOf: (seen: DealSeen) => readonly Share<K>[],
): ReadonlyMap<K, Counted> {
	const parts = new Map<K, Tally>();
	forEachOf(company, survey, period, ratesOn, (seen, kind, amount) => {
		if (!ownerIn(scope, seen.owner)) return;
		const shares = partsOf(seen);
		const amounts = splitBy(
			amount,
			shares.map(({ weight }) => weight),
		);
		shares.forEach(({ part }, i) => {
			const own = parts.get(part) ?? tally();
			parts.set(part, own);
			count(company, own, seen, kind, amounts[i] ?? 0);
		});
	});
	return parts;
}

/**
 * Splits an amount of minor units by weights (≥ 0), equally where all are 0; the parts add up to it. What rounding
 * leaves over goes to the largest remainders.
 *
 * @example splitBy(100, [1, 1, 1]) // [34, 33, 33]
 */
export function splitBy(amount: number, weights: readonly number[]): number[] {
	if (weights.length === 1) return [amount];
	const sum = weights.reduce((total, weight) => total + weight, 0);
	const exact = weights.map((weight) => (sum > 0 ? (amount * weight) / sum : amount / weights.length));
	const parts = exact.map(Math.floor);
	let left = amount - parts.reduce((total, part) => total + part, 0);
	const order = exact.map((value, i) => ({ i, rest: value - Math.floor(value) })).sort((a, b) => b.rest - a.rest || a.i - b.i);
	for (const { i } of order) {
		if (left <= 0) break;
		parts[i] = (parts[i] ?? 0) + 1;
		left--;
	}
	return parts;
}

function add(sum: { count: number; amount: number }, amount: number, times: 1 | -1): void {
	sum.count += times;
	sum.amount += times * amount;
}

function copied(one: Counted): Tally {
	const copy = tally();
	addUp(copy, one);
	return copy;
}

/** The sum over some people; everyone (null) includes what nobody has. */
export function countedOf({ people, unowned }: CountedByOwner, scope: Scope): Counted {
	const whole = tally();
	for (const [owner, own] of people) if (ownerIn(scope, owner)) addUp(whole, own);
	if (scope === null) addUp(whole, unowned);
	return whole;
}

function addUp(whole: Tally, part: Counted): void {
	const sum = (to: { count: number; amount: number }, from: Sum) => {
		to.count += from.count;
		to.amount += from.amount;
	};
	for (const kind of KINDS) sum(whole[kind], part[kind]);
	for (const category of CATEGORIES) sum(whole.categories[category], part.categories[category]);
	for (const level of ["act", "watch", "calm"] as const) whole.attention[level] += part.attention[level];
	whole.weighted += part.weighted;
	whole.wonAge += part.wonAge;
}

/** Nothing at all. */
export const nothingCounted = (): Counted => tally();

/** The figures that follow from what is counted and from a target (base minor units, or null where there is none). */
export function figuresOf({ wonAge, ...counted }: Counted, target: number | null): PeriodFigures {
	const { won, lost, open, categories } = counted;
	const gap = target === null ? null : Math.max(0, target - won.amount);
	const over = (part: number, whole: number | null) => (whole ? part / whole : null);
	return {
		...counted,
		target,
		gap,
		cover: over(open.amount, gap),
		commitCover: over(categories.commit.amount, gap),
		needed: gap === null ? null : over(gap, open.amount),
		winRate: { count: over(won.count, won.count + lost.count), amount: over(won.amount, won.amount + lost.amount) },
		averageWon: won.count ? divideRounded(won.amount, won.count) : null,
		averageCycle: won.count ? roundHalfAway((wonAge * 10) / won.count) / 10 : null,
	};
}

/** The differences of figures, later less earlier, in the same shape; null where either is. */
export type Differences<T> = { readonly [K in keyof T]: T[K] extends object ? Differences<T[K]> : number | null };

/** Later figures less earlier ones, figure by figure. */
export function differencesOf<T extends object>(later: T, earlier: T): Differences<T> {
	const entries = Object.entries(later).map(([name, value]) => {
		const before = (earlier as Record<string, unknown>)[name];
		if (typeof value === "object" && value !== null && typeof before === "object" && before !== null) return [name, differencesOf(value, before)];
		return [name, typeof value === "number" && typeof before === "number" ? value - before : null];
	});
	return Object.fromEntries(entries);
}
