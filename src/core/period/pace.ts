import { ownerIn, type Scope } from "../bridge/scope";
import type { Company, DealBlock, Rules } from "../company";
import { derived } from "../derive";
import { endRow, firstRow, lastOn } from "../history/columns";
import { closedDayOf } from "../history/path";
import { blockAmounts } from "../inspect";
import { joined } from "../joined";
import type { Calendar } from "../time/calendar";
import { type Day, dayFrom, parts } from "../time/day";
import type { Fiscal } from "../time/fiscal";
import { monthOf, type Period, quarterAt, quarterIndex } from "../time/period";
import type { Sum } from "./counted";

/** W(P.start − 1, min(D, P.end)), never below 0: the how-manieth working day of the period a day is. */
export const workingDayOf = (calendar: Calendar, period: Period, day: Day): number =>
	Math.max(0, calendar.between(period.start - 1, Math.min(day, period.end)));

/** The day of a period that is its k-th working day; its start if k is 0, its end if it has fewer. */
export function dayOfWorkingDay(calendar: Calendar, period: Period, k: number): Day {
	if (k <= 0) return period.start;
	const day = calendar.add(period.start - 1, k);
	return day > period.end ? period.end : day;
}

const same = (a: Period, b: Period) => a.start === b.start && a.end === b.end;

/** The period before: of a fiscal quarter or a month the one before; of any other as many days before it. */
export function periodBefore(period: Period, fiscal: Fiscal): Period {
	const quarter = quarterIndex(period.start, fiscal);
	if (same(period, quarterAt(quarter, fiscal))) return quarterAt(quarter - 1, fiscal);
	if (same(period, monthOf(period.start, fiscal))) return monthOf(period.start - 1, fiscal);
	return { start: period.start - (period.end - period.start + 1), end: period.start - 1 };
}

/** Both ends a calendar year earlier; 29 February becomes the 28th. */
export const yearBefore = ({ start, end }: Period): Period => ({ start: yearEarlier(start), end: yearEarlier(end) });

function yearEarlier(day: Day): Day {
	const { year, month, date } = parts(day);
	const last = dayFrom(year - 1, month + 1, 1) - 1;
	return Math.min(dayFrom(year - 1, month, date), last);
}

/** A deal that counts as won in a period, with the day it was closed. */
interface Win {
	readonly deal: number;
	readonly owner: number;
	readonly closed: Day;
	/** base minor units */
	readonly amount: number;
}

/** What was won in a period by some people as seen on a day, at the rates of another. By block, in the order of deals. */
export const winsIn = (company: Company, period: Period, scope: Scope, seen: Day, ratesOn: Day): Win[] =>
	joined(company.blocks.map((block) => winsInBlock(block, company.rules, period.start, period.end, seen, ratesOn))).filter(({ owner }) =>
		ownerIn(scope, owner),
	);

const winsInBlock = derived(
	"wins of a period",
	({ first, versions }: DealBlock, rules: Rules, start: Day, end: Day, seen: Day, ratesOn: Day): readonly Win[] => {
		const amountOf = blockAmounts({ rules }, ratesOn);
		const wins: Win[] = [];
		for (let place = 0; place < versions.offsets.length - 1; place++) {
			const from = firstRow(versions, place);
			const row = lastOn(versions.day, from, endRow(versions, place), seen);
			if (row < 0 || rules.stages[versions.stage[row] as number]?.kind !== "won") continue;
			const closed = closedDayOf(versions, rules.stages, from, row);
			if (closed >= start && closed <= end) wins.push({ deal: first + place, owner: versions.owner[row] as number, closed, amount: amountOf(versions, row) });
		}
		return wins;
	},
	60,
);

/**
 * How many wins, and what they come to in base minor units.
 *
 * @example sumOf([{ day: 1, amount: 5 }, { day: 2, amount: 7 }]) // { "count": 2, "amount": 12 }
 */
export const sumOf = (wins: readonly Win[]): Sum => ({ count: wins.length, amount: wins.reduce((sum, { amount }) => sum + amount, 0) });

/** What an earlier period had won by the day of the same working day, as one knew then. */
export interface PaceOf extends Period {
	readonly day: Day;
	readonly won: Sum;
}

export interface Pace {
	/** the how-manieth working day the seen day is, and how many the period has */
	readonly workingDay: number;
	readonly workingDays: number;
	readonly previous: PaceOf;
	readonly yearAgo: PaceOf;
}

/** How a period stands against the one before and the same a year before, at the same working day; rates of the seen day. */
export function paceOf(company: Company, period: Period, scope: Scope, seen: Day): Pace {
	const { calendar, fiscal } = company.rules;
	const workingDay = workingDayOf(calendar, period, seen);
	const at = (earlier: Period): PaceOf => {
		const day = dayOfWorkingDay(calendar, earlier, workingDay);
		return { ...earlier, day, won: sumOf(winsIn(company, earlier, scope, day, seen)) };
	};
	return {
		workingDay,
		workingDays: workingDayOf(calendar, period, period.end),
		previous: at(periodBefore(period, fiscal)),
		yearAgo: at(yearBefore(period)),
	};
}

/** What was won by each working day of a period, from 0 (before the first) on; what closes on a free day counts for the working day before it. */
export function wonByWorkingDay(company: Company, period: Period, scope: Scope, seen: Day, ratesOn: Day): { amounts: number[]; wins: readonly Win[] } {
	const { calendar } = company.rules;
	const wins = winsIn(company, period, scope, seen, ratesOn);
	const amounts = new Array<number>(workingDayOf(calendar, period, Math.min(seen, period.end)) + 1).fill(0);
	for (const { closed, amount } of wins) {
		const k = workingDayOf(calendar, period, closed);
		amounts[k] = (amounts[k] ?? 0) + amount;
	}
	for (let k = 1; k < amounts.length; k++) amounts[k] = (amounts[k] ?? 0) + (amounts[k - 1] ?? 0);
	return { amounts, wins };
}
