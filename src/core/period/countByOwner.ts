import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { NONE } from "../history/columns";
import { amountsBase, categoryOf, type DealSeen, type Inspected, rowOf } from "../inspect";
import { weightedPart } from "../money/rates";
import type { Day } from "../time/day";
import type { Period } from "../time/period";
import { add, addUp, type Counted, copied, type Kind, kindIn, type Tally, tally } from "./counted";

/** What is counted by owner; `unowned` of deals that nobody has. */
export interface CountedByOwner {
	/** by index of the person; only those with a deal of any kind */
	readonly people: ReadonlyMap<number, Counted>;
	readonly unowned: Counted;
}

/** Goes through the deals that a period holds as they were seen on a day: each with its kind and its amount at the rates of another. */
export function forEachOf(
	company: Company,
	survey: Pick<Inspected, "deals">,
	period: Period,
	ratesOn: Day,
	take: (seen: DealSeen, kind: Kind, amount: number) => void,
): void {
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
export function countByOwner(company: Company, survey: Pick<Inspected, "deals">, period: Period, ratesOn: Day): CountedByOwner {
	const people = new Map<number, Tally>();
	const unowned = tally();
	forEachOf(company, survey, period, ratesOn, (seen, kind, amount) => {
		const own = seen.owner === NONE ? unowned : (people.get(seen.owner) ?? tally());
		if (seen.owner !== NONE) people.set(seen.owner, own);
		count(company, own, seen, kind, amount);
	});
	return { people, unowned };
}

/** The counts of several parts of the deals together. */
export function addUpByOwner(parts: readonly CountedByOwner[]): CountedByOwner {
	const people = new Map<number, Tally>();
	const unowned = tally();
	for (const part of parts) {
		addUp(unowned, part.unowned);
		for (const [owner, counted] of part.people) {
			const own = people.get(owner);
			if (own) addUp(own, counted);
			else people.set(owner, copied(counted));
		}
	}
	return { people, unowned };
}
/** The sum over some people; everyone (null) includes what nobody has. */
export function countedOf({ people, unowned }: CountedByOwner, scope: Scope): Counted {
	const whole = tally();
	for (const [owner, own] of people) if (ownerIn(scope, owner)) addUp(whole, own);
	if (scope === null) addUp(whole, unowned);
	return whole;
}
