import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { NONE } from "../history/columns";
import { amountsBase, categoryOf, type DealSeen, type Inspected, rowOf } from "../inspect";
import { weightedPart } from "../money/rates";
import type { Day } from "../time/day";
import type { Period } from "../time/period";
import { add, addUp, type Counted, copied, KINDS, type Kind, kindIn, type Tally, tally } from "./counted";

/** What is counted by owner; `unowned` of deals that nobody has. */
export interface CountedByOwner {
	/** by index of the person; only those with a deal of any kind */
	readonly people: ReadonlyMap<number, Counted>;
	readonly unowned: Counted;
}

/** Goes through the deals that a period holds as they were seen on a day: each with its kind and its amount at the rates of another. */
export function forEachOf(company: Company, survey: Inspected, period: Period, ratesOn: Day, take: (seen: DealSeen, kind: Kind, amount: number) => void): void {
	const amountOf = amountsBase(company, ratesOn);
	for (const seen of survey.deals) {
		const kind = seen && kindIn(period, seen.status, seen.close, seen.path.closedDay);
		if (seen && kind) take(seen, kind, amountOf(seen.deal, rowOf(company.history, seen)));
	}
}

/** Counts a deal, or takes it out again (−1). */
export function count(company: Company, own: Tally, seen: DealSeen, kind: Kind, amount: number, times: 1 | -1 = 1): void {
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
		if (own) count(company, own, was, kind, amountOf(was.deal, rowOf(company.history, was)), -1);
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
		if (seen && kind) count(company, tallyOf(seen.owner), seen, kind, amountOf(seen.deal, rowOf(company.history, seen)));
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

/** The sum over some people; everyone (null) includes what nobody has. */
export function countedOf({ people, unowned }: CountedByOwner, scope: Scope): Counted {
	const whole = tally();
	for (const [owner, own] of people) if (ownerIn(scope, owner)) addUp(whole, own);
	if (scope === null) addUp(whole, unowned);
	return whole;
}
