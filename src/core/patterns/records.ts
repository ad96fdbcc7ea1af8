import { LIGHTS, type Light } from "../attention/attention";
import type { Scope } from "../bridge/scope";
import type { Company } from "../company";
import { byId } from "../deal/order";
import { RULES } from "../flags/list";
import { asOf, blockOf, type Category } from "../history/columns";
import { amountBaseOf, categoryOf, rowOf } from "../inspect";
import { LEVELS, type Level } from "../qualification/answer";
import { showsNothing, shrunkLift } from "../statistics/lift";
import { pOfShares, toldApart } from "../statistics/toldApart";
import { DealTally, type ShareOfDeals } from "../statistics/wilson";
import type { Day } from "../time/day";
import { quarterAt, quarterIndex } from "../time/period";
import { type Due, dueOver } from "./due";
import type { Looked } from "./quarters";

/** The share not won in time among deals with something, and among those without; lift is the first by the second. */
export interface TrackRecord {
	readonly with: ShareOfDeals;
	readonly without: ShareOfDeals;
	readonly lift: number | null;
	/** the same with both drawn towards the share of all, by which rows are sorted and weighed */
	readonly shrunkLift: number | null;
	/** of Fisher’s exact test; null of fewer than eight in an arm, which isn’t tested */
	readonly p: number | null;
	/** told apart from chance, among all rows that were tested */
	readonly apart: boolean;
	/** shown to make no difference */
	readonly nothing: boolean;
	/** of those with it that weren't won in time, how many were won within the two periods after; null of few */
	readonly laterWon: number | null;
}

function recordOf(own: ShareOfDeals, others: ShareOfDeals, later: number): Omit<TrackRecord, "apart"> {
	const said = own.share !== null && others.share !== null;
	return {
		with: own,
		without: others,
		lift: own.share !== null && others.share ? own.share / others.share : null,
		shrunkLift: said ? shrunkLift(own.k, own.n, others.k, others.n) : null,
		p: pOfShares(own, others),
		nothing: showsNothing(own.k, own.n, others.k, others.n),
		laterWon: own.share === null ? null : later,
	};
}

/** Says of records which are told apart from chance, by all of them that were tested. */
function withApart<R extends { readonly p: number | null }>(records: readonly R[]): (R & { readonly apart: boolean })[] {
	const verdicts = toldApart(records.map(({ p }) => p));
	return records.map((one, i) => ({ ...one, apart: verdicts[i] as boolean }));
}

/**
 * The track record of each flag over some quarters: what became of the deals that had it, beside those that didn't.
 *
 * @param known the last day of which anything is known
 */
export function flagRecords(company: Company, looked: readonly Looked[], known: Day, scope: Scope = null): (TrackRecord & { readonly code: string })[] {
	const arms = RULES.map(({ code }) => ({ code, with: new DealTally(), without: new DealTally(), later: 0 }));
	for (const due of dueOver(company, looked, scope)) {
		const { deal, flags } = due.seen;
		const has = new Set(flags.map(({ code }) => code));
		const later = !due.won && has.size > 0 && wonLater(company, due, known);
		for (const arm of arms) {
			const own = has.has(arm.code);
			arm[own ? "with" : "without"].add(deal, !due.won);
			if (own && later) arm.later++;
		}
	}
	return withApart(arms.map(({ code, with: own, without, later }) => ({ code, ...recordOf(own.share, without.share, later) })));
}

/** Whether a deal that wasn't won in its quarter was won by the end of the second after it, as far as is known. */
function wonLater({ history, rules }: Company, { seen, period }: Due, known: Day): boolean {
	const end = quarterAt(quarterIndex(period.start, rules.fiscal) + 2, rules.fiscal).end;
	const row = asOf(history, seen.deal, Math.min(end, known));
	return row >= 0 && rules.stages[blockOf(history, seen.deal).stage[row] as number]?.kind === "won";
}

/** The share not won in time at each level of attention; a deal at rest stands at the level of its own score. */
export function lightRecords(company: Company, looked: readonly Looked[], scope: Scope = null): (ShareOfDeals & { readonly level: Light })[] {
	const tallies = new Map(LIGHTS.map((level) => [level, new DealTally()]));
	for (const { seen, won } of dueOver(company, looked, scope)) tallies.get(seen.ownLevel)?.add(seen.deal, !won);
	return [...tallies].map(([level, tally]) => ({ level, ...tally.share }));
}

/** The share not won in time for each question at each level at which any deal had it, by the id of the question. */
export function answerRecords(
	company: Company,
	looked: readonly Looked[],
	scope: Scope = null,
): (ShareOfDeals & { readonly question: string; readonly level: Level })[] {
	const tallies = new Map<string, Map<Level, DealTally>>();
	for (const { seen, won } of dueOver(company, looked, scope)) {
		seen.qualification.questions.forEach(({ id }, i) => {
			const level = seen.qualification.standings[i]?.level ?? "unknown";
			const own = tallies.get(id) ?? new Map<Level, DealTally>();
			tallies.set(id, own);
			const at = own.get(level) ?? new DealTally();
			own.set(level, at);
			at.add(seen.deal, !won);
		});
	}
	return [...tallies].flatMap(([question, own]) =>
		LEVELS.flatMap((level) => {
			const at = own.get(level);
			return at ? [{ question, level, ...at.share }] : [];
		}),
	);
}

/** A share of an amount, in base minor units; of few deals nothing is said, the amounts themselves included: a share could be read off them. */
export interface AmountShare {
	readonly k: number | null;
	readonly n: number | null;
	readonly share: number | null;
	/** the deal that holds more than a third of it, by index, and its part; null where none does */
	readonly largest: { readonly deal: number; readonly part: number } | null;
}

/** by amount a single large deal decides more, so it takes more of them */
const LEAST_BY_AMOUNT = 10;

export interface Accuracy {
	readonly count: ShareOfDeals;
	readonly amount: AmountShare;
	/** by index of the owner on the day looked at */
	readonly people: readonly { readonly owner: number; readonly count: ShareOfDeals; readonly amount: AmountShare }[];
}

/** a deal that holds more than this of all amounts is named: the share is mostly its own */
const LARGE_PART = 1 / 3;
const UNSAID: AmountShare = { k: null, n: null, share: null, largest: null };

/**
 * A share by amount, with the deal that is mostly what it says.
 *
 * @param amounts by deal; of one that counts in several periods, in all of them together
 */
function amountShare(company: Company, k: number, amounts: ReadonlyMap<number, number>): AmountShare {
	const all = [...amounts.values()].reduce((sum, amount) => sum + amount, 0);
	const order = byId(company);
	const [first = null] = [...amounts].sort(([a, one], [b, other]) => other - one || order(a, b));
	const largest = first && all > 0 && first[1] > all * LARGE_PART ? { deal: first[0], part: first[1] / all } : null;
	return { k, n: all, share: all !== 0 ? k / all : null, largest };
}

/** How many of the deals in a category came true, by count and by amount (at the rates of the day looked at), and by owner. */
export function accuracyOf(company: Company, looked: readonly Looked[], category: Category, scope: Scope): Accuracy {
	const { history } = company;
	const tally = () => ({ deals: new DealTally(), n: 0, amountK: 0, amounts: new Map<number, number>() });
	const whole = tally();
	const people = new Map<number, ReturnType<typeof tally>>();
	for (const { seen, won, day } of dueOver(company, looked, scope)) {
		if (categoryOf(company, seen) !== category) continue;
		const amount = amountBaseOf(company, blockOf(history, seen.deal), rowOf(history, seen), day);
		const own = people.get(seen.owner) ?? tally();
		people.set(seen.owner, own);
		for (const into of [whole, own]) {
			into.deals.add(seen.deal, won);
			into.n++;
			into.amounts.set(seen.deal, (into.amounts.get(seen.deal) ?? 0) + amount);
			if (won) into.amountK += amount;
		}
	}
	const shares = ({ deals, n, amountK, amounts }: ReturnType<typeof tally>) => ({
		count: deals.share,
		amount: n >= LEAST_BY_AMOUNT ? amountShare(company, amountK, amounts) : UNSAID,
	});
	return { ...shares(whole), people: [...people].map(([owner, own]) => ({ owner, ...shares(own) })).sort((a, b) => a.owner - b.owner) };
}
