import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { byId } from "../deal/order";
import type { Norms } from "../flags/rule";
import { asOf, blockOf, firstRow } from "../history/columns";
import { type DealSeen, inspect, normsAgain, normsOn } from "../inspect";
import { keeper } from "../keep";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";
import type { Looked } from "./quarters";

/** A deal that was open and due in a period on the day looked at, as it was seen then, and whether it was won in time. */
export interface Due {
	readonly seen: DealSeen;
	readonly won: boolean;
	/** which of the deal's own versions stood at the period's end, from 0; −1 where it was gone */
	readonly endNth: number;
	/** the day looked at, and the period it was due in */
	readonly day: Day;
	readonly period: Period;
}

/** The row, in the deal’s block, of its version at the period's end; −1 where it was gone. */
export const endRowOf = ({ history }: Company, { seen, endNth }: Due): number => (endNth < 0 ? -1 : firstRow(blockOf(history, seen.deal), seen.deal) + endNth);

/** The deals of some people, by owner on the day looked at, over several periods. */
export const dueOver = (company: Company, looked: readonly Looked[], scope: Scope = null): Due[] =>
	looked.flatMap((one) => dueIn(company, one).filter(({ seen }) => ownerIn(scope, seen.owner)));

/** A list that was made, with what deals were measured against when it was. */
interface Listed {
	readonly due: readonly Due[];
	readonly norms: Norms;
}

/** The lists of a company, and those of one before it, of which some deals have changed since. */
const lists = keeper((_: Company) => ({
	made: new Map<string, Listed>(),
	stale: new Map<string, Listed>(),
	changed: new Set<number>() as ReadonlySet<number>,
}));

/** Lets a company begin with the lists of the one it was made from, of which some deals changed. */
export function carryDue(from: Company, to: Company, changed: ReadonlySet<number>): void {
	const [before, after] = [lists(from), lists(to)];
	after.stale = new Map([...before.stale, ...before.made]);
	after.changed = new Set([...before.changed, ...changed]);
}

const keyOf = ({ period, day }: Looked) => `${period.start} ${period.end} ${day}`;

/**
 * The deals open and due in a period on the day that is looked at, inspected by what was known then and today's rules; and
 * whether each was won by the period's end, as seen on it. Kept with the company, and carried on to the next: of a past day
 * only what changed is looked at anew.
 */
export function dueIn(company: Company, looked: Looked): readonly Due[] {
	const { made, stale, changed } = lists(company);
	const key = keyOf(looked);
	const known = made.get(key);
	if (known) return known.due;
	const fresh = listAgain(company, looked, stale.get(key), changed) ?? listAnew(company, looked);
	made.set(key, fresh);
	stale.delete(key);
	return fresh.due;
}

function listAnew(company: Company, looked: Looked): Listed {
	const norms = normsOn(company, looked.day, company.rules.attention);
	return {
		norms,
		due: inOrder(
			company,
			company.deals.flatMap((_, deal) => dueOf(company, looked, deal, norms) ?? []),
		),
	};
}

/** What was found before, with only the deals looked at that changed; null where what deals are measured against has changed. */
function listAgain(company: Company, looked: Looked, before: Listed | undefined, changed: ReadonlySet<number>): Listed | null {
	if (!before) return null;
	const norms = normsAgain(company, before.norms);
	const { usual, medianAmount, bigAmount } = before.norms;
	if (norms.usual !== usual || norms.medianAmount !== medianAmount || norms.bigAmount !== bigAmount) return null;
	const kept = before.due.filter(({ seen }) => !changed.has(seen.deal));
	const anew = [...changed].flatMap((deal) => dueOf(company, looked, deal, norms) ?? []);
	return { norms, due: inOrder(company, [...kept, ...anew]) };
}

/** By their ids, so that what is drawn and added up by them is the same wherever deals stand. */
function inOrder(company: Company, due: Due[]): Due[] {
	const order = byId(company);
	return due.sort((a, b) => order(a.seen.deal, b.seen.deal));
}

function dueOf(company: Company, { period, day }: Looked, deal: number, norms: Norms): Due | null {
	const { history, rules } = company;
	const row = asOf(history, deal, day);
	const block = blockOf(history, deal);
	if (row < 0 || rules.stages[block.stage[row] as number]?.kind !== "open") return null;
	const close = block.close[row] as number;
	if (close === NO_DAY || close < period.start || close > period.end) return null;
	const seen = inspect(company, deal, norms);
	if (!seen) return null;
	const endRow = asOf(history, deal, period.end);
	const won = endRow >= 0 && rules.stages[block.stage[endRow] as number]?.kind === "won";
	return { seen, endNth: endRow < 0 ? -1 : endRow - firstRow(block, deal), day, period, won };
}
