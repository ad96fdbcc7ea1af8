import { ownerIn, type Scope } from "../bridge/scope";
import type { Company, DealBlock } from "../company";
import { byId } from "../deal/order";
import type { DealSeen } from "../dealSeen";
import { derive, keyOf } from "../derive";
import type { Norms } from "../flags/rule";
import { asOf, blockOf, firstRow } from "../history/columns";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
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

/** so many periods are kept, each with the day it is looked at */
const KEPT = 60;

/** The deals of some people, by owner on the day looked at, over several periods. */
export const dueOver = (company: Company, looked: readonly Looked[], scope: Scope = null): Due[] =>
	looked.flatMap((one) => dueIn(company, one).filter(({ seen }) => ownerIn(scope, seen.owner)));

/**
 * The deals open and due in a period on the day that is looked at, inspected by what was known then and today's rules; and
 * whether each was won by the period's end, as seen on it. By their ids.
 */
export function dueIn(company: Company, { period, day }: Looked): readonly Due[] {
	const find = () => {
		const norms = normsOn(company, day, company.rules.attention);
		const order = byId(company);
		// By their ids, so that what is drawn and added up by them is the same wherever deals stand.
		return company.blocks.flatMap((block) => dueInBlock(block, company, norms, period)).sort((a, b) => order(a.seen.deal, b.seen.deal));
	};
	return derive(company, "due", keyOf(period.start, period.end, day), find, KEPT);
}

/** The deals of a block: what was found of it holds as long as it is measured by the same. */
function dueInBlock(block: DealBlock, company: Company, norms: Norms, period: Period): readonly Due[] {
	const key = keyOf(company.rules, company.people, period.start, period.end, norms.day, norms.usual, norms.medianAmount, norms.bigAmount, norms.attention);
	const find = () => block.facts.flatMap((_, place) => dueOf(company, { period, day: norms.day }, block.first + place, norms) ?? []);
	return derive(block, "due in a block", key, find, KEPT);
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
