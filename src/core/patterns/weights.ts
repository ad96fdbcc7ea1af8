import { attentionOf } from "../attention/attention";
import type { AttentionSettings } from "../attention/settings";
import type { Company } from "../company";
import type { Severity } from "../flags/settings";
import { normsOn } from "../norms";
import { shrunkLift } from "../statistics/lift";
import { DealTally, type ShareOfDeals } from "../statistics/wilson";
import { type Due, dueOver } from "./due";
import type { Looked } from "./quarters";

const SEVERITIES: readonly Severity[] = [1, 2, 3];

/** What the past says of flags of one severity: deals with one of them and deals without, and the weight that follows. */
export interface SeverityRecord {
	readonly severity: Severity;
	readonly with: ShareOfDeals;
	readonly without: ShareOfDeals;
	/** of both drawn towards the share of all; null where too few deals say anything */
	readonly lift: number | null;
	/** what it would weigh by its lift; null where too few deals say anything */
	readonly weight: number | null;
}

/**
 * The weight of a flag by its lift: the share of the misses among deals with it that would not have been there had they
 * been as deals without it, 1 − 1/lift (the attributable fraction among the exposed). What foretold nothing weighs nothing.
 *
 * @example weightOfLift(2) // 0.5
 * @example weightOfLift(0.8) // 0
 */
export const weightOfLift = (lift: number): number => Math.round(100 * Math.max(0, 1 - 1 / lift)) / 100;

/** What became of deals with a flag of each severity, by what the rules say today. */
export function severityRecords(company: Company, looked: readonly Looked[]): SeverityRecord[] {
	const due = dueOver(company, looked);
	return SEVERITIES.map((severity) => {
		const arms = { with: new DealTally(), without: new DealTally() };
		for (const { seen, won } of due) arms[seen.flags.some((flag) => flag.severity === severity) ? "with" : "without"].add(seen.deal, !won);
		const [has, hasNot] = [arms.with.share, arms.without.share];
		const lift = has.share !== null && hasNot.share !== null ? shrunkLift(has.k, has.n, hasNot.k, hasNot.n) : null;
		return { severity, with: has, without: hasNot, lift, weight: lift === null ? null : weightOfLift(lift) };
	});
}

/**
 * How well attention would have sorted the deals of some periods: the chance that one that wasn't won in time stood above
 * one that was, ties counted half (the area under the receiver operating characteristic). Null without one of each.
 */
export function sortingOf(company: Company, looked: readonly Looked[], attention: AttentionSettings): { chance: number | null; missed: number; won: number } {
	const medians = new Map(looked.map(({ day }) => [day, normsOn(company, day).medianAmount]));
	const score = ({ seen, day }: Due) =>
		attentionOf(seen.flags, seen.amountBase, medians.get(day) ?? 0, seen.close, day, company.rules.calendar, attention).score;
	const scored = dueOver(company, looked).map((one) => ({ won: one.won, score: score(one) }));
	const won = scored.filter((one) => one.won).length;
	return { chance: chanceAbove(scored), missed: scored.length - won, won };
}

/** The weights that records say, of those severities of which they say one. */
export const weightsOf = (records: readonly SeverityRecord[]): AttentionSettings =>
	Object.fromEntries(records.flatMap(({ severity, weight }) => (weight === null ? [] : [[`weight${severity}`, weight]])));

/** How well a past period would have been sorted by the weights of now, and by those that are judged; the chances of `sortingOf`. */
export interface JudgedPeriod extends Looked {
	readonly now: number | null;
	readonly tried: number | null;
}

/**
 * How well weights would have sorted each past period. Those that are learnt from the past are learnt from the other
 * periods alone: what a period taught says nothing of how well it is sorted by that.
 *
 * @param tried what is to hold, given the periods that it may be learnt from
 */
export const judgedBy = (
	company: Company,
	looked: readonly Looked[],
	now: AttentionSettings,
	tried: (others: readonly Looked[]) => AttentionSettings,
): JudgedPeriod[] =>
	looked.map((one, i) => ({
		...one,
		now: sortingOf(company, [one], now).chance,
		tried: sortingOf(company, [one], tried(looked.filter((_, j) => j !== i))).chance,
	}));

/** of so many periods and this part of them it takes a rise */
const [FEWEST_RISES, PART_RISING] = [3, 3 / 4];

/**
 * Whether weights sort better than those of now: the chance rises in at least three of four past periods.
 *
 * @example isBetter([{ now: 0.6, tried: 0.7 }, { now: 0.6, tried: 0.7 }, { now: 0.6, tried: 0.7 }, { now: 0.6, tried: 0.5 }]) // true
 * @example isBetter([{ now: 0.6, tried: 0.9 }, { now: 0.6, tried: 0.9 }, { now: 0.6, tried: 0.6 }, { now: 0.6, tried: 0.5 }]) // false
 */
export function isBetter(periods: readonly Pick<JudgedPeriod, "now" | "tried">[]): boolean {
	const rises = periods.filter(({ now, tried }) => now !== null && tried !== null && tried > now).length;
	return rises >= FEWEST_RISES && rises >= PART_RISING * periods.length;
}

/**
 * The chance that one that wasn't won has a higher score than one that was; ties count half.
 *
 * @example chanceAbove([{ won: false, score: 9 }, { won: true, score: 9 }, { won: true, score: 2 }]) // 0.75
 */
export function chanceAbove(scored: readonly { readonly won: boolean; readonly score: number }[]): number | null {
	const sorted = [...scored].sort((a, b) => a.score - b.score);
	let [below, above, wonSoFar] = [0, 0, 0];
	for (let i = 0; i < sorted.length; ) {
		let [won, missed] = [0, 0];
		const { score } = sorted[i] as { score: number };
		for (; sorted[i]?.score === score; i++) sorted[i]?.won ? won++ : missed++;
		above += missed * (wonSoFar + won / 2);
		wonSoFar += won;
		below += missed;
	}
	return below && wonSoFar ? above / (below * wonSoFar) : null;
}
