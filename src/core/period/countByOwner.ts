import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import type { DealSeen } from "../dealSeen";
import { NONE } from "../history/columns";
import { amountsBase, categoryOf, type Inspected, rowOf } from "../inspect";
import { weightedPart } from "../money/rates";
import type { Day } from "../time/day";
import type { Period } from "../time/period";
import { add, addUp, type Counted, type Kind, kindIn, readCounts, type Tally, tally, WIDTH, writeCounts } from "./counted";

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
		const kind = seen && kindIn(period, seen.status, seen.close, seen.closedDay);
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

/** The counts of a part of the deals as numbers in a row, an owner after the other: thousands of them are added up at once. */
export interface PackedCounts {
	/** by index of the person; NONE: of deals that nobody has */
	readonly owners: Int32Array;
	/** WIDTH numbers an owner */
	readonly sums: Float64Array;
}

/** The counts by owner as numbers in a row. */
export function packCounts({ people, unowned }: CountedByOwner): PackedCounts {
	const all: [number, Counted][] = [...people, [NONE, unowned]];
	const sums = new Float64Array(all.length * WIDTH);
	all.forEach(([, counted], i) => {
		writeCounts(counted, sums, i * WIDTH);
	});
	return { owners: Int32Array.from(all, ([owner]) => owner), sums };
}

/** The counts of several parts of the deals together; `people` is how many there are. */
export function addUpByOwner(parts: readonly PackedCounts[], people: number): CountedByOwner {
	// What nobody has stands behind everybody.
	const whole = new Float64Array((people + 1) * WIDTH);
	const has = new Uint8Array(people + 1);
	for (const { owners, sums } of parts) {
		for (let i = 0; i < owners.length; i++) {
			const owner = owners[i] === NONE ? people : (owners[i] as number);
			has[owner] = 1;
			for (let k = 0; k < WIDTH; k++) whole[owner * WIDTH + k] = (whole[owner * WIDTH + k] as number) + (sums[i * WIDTH + k] as number);
		}
	}
	const found = new Map<number, Counted>();
	for (let owner = 0; owner < people; owner++) if (has[owner]) found.set(owner, readCounts(whole, owner * WIDTH));
	return { people: found, unowned: readCounts(whole, people * WIDTH) };
}

/** The sum over some people; everyone (null) includes what nobody has. */
export function countedOf({ people, unowned }: CountedByOwner, scope: Scope): Counted {
	const whole = tally();
	for (const [owner, own] of people) if (ownerIn(scope, owner)) addUp(whole, own);
	if (scope === null) addUp(whole, unowned);
	return whole;
}
