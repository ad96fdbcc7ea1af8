import { isOpen, membership, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { blockOf, CATEGORIES, endRow, firstRow, lastOn } from "../history/columns";
import { closedDayOf } from "../history/path";
import { blockAmounts } from "../inspect";
import type { Day } from "../time/day";
import type { Period } from "../time/period";
import type { Sum } from "./counted";

const COMMIT = CATEGORIES.indexOf("commit");

/** A deal that was open, due in a period and in commit by the end of a day. */
export interface Committed {
	readonly deal: number;
	/** index of its owner then */
	readonly owner: number;
	/** base minor units: then, and when it was won; null where it wasn't won in the period */
	readonly said: number;
	readonly came: number | null;
}

/**
 * What some people had in commit for a period by the end of a day, and what of it was won in the period as seen on another;
 * amounts at the rates of a third. By the versions alone: nothing is inspected.
 */
export function committedOn(company: Company, period: Period, scope: Scope, day: Day, seen: Day, ratesOn: Day): Committed[] {
	const { rules } = company;
	const isHere = membership(company, period, scope);
	return company.blocks.flatMap(({ first, versions }) => {
		const amountOf = blockAmounts({ rules }, ratesOn);
		const found: Committed[] = [];
		for (let place = 0; place < versions.offsets.length - 1; place++) {
			const [from, end] = [firstRow(versions, place), endRow(versions, place)];
			const row = lastOn(versions.day, from, end, day);
			if (!isOpen({ rules }, versions, row) || !isHere(versions, row) || versions.category[row] !== COMMIT) continue;
			const last = lastOn(versions.day, from, end, seen);
			const closed = rules.stages[versions.stage[last] as number]?.kind === "won" ? closedDayOf(versions, rules.stages, from, last) : null;
			const came = closed !== null && closed >= period.start && closed <= period.end ? amountOf(versions, last) : null;
			found.push({ deal: first + place, owner: versions.owner[row] as number, said: amountOf(versions, row), came });
		}
		return found;
	});
}

/** How many and how much were in commit, and of these how many and for how much were won. */
export function commitCame(deals: readonly Committed[]): { said: Sum; came: Sum } {
	const won = deals.filter(({ came }) => came !== null);
	return {
		said: { count: deals.length, amount: deals.reduce((sum, { said }) => sum + said, 0) },
		came: { count: won.length, amount: won.reduce((sum, { came }) => sum + (came ?? 0), 0) },
	};
}

/** The day on which a deal was dated out of a period at last, as seen on another; null where it is still dated in it. */
export function leftOn(company: Company, deal: number, period: Period, seen: Day): Day | null {
	const block = blockOf(company.history, deal);
	const first = firstRow(block, deal);
	let day: Day | null = null;
	for (let row = lastOn(block.day, first, endRow(block, deal), seen); row >= first && (block.close[row] as number) > period.end; row--)
		day = block.day[row] as number;
	return day;
}
