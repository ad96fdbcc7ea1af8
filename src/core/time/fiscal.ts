import { type Day, dayFrom, parts, weekday } from "./day";

/** A fiscal year of whole weeks: its months are weeks by a pattern, four times; a 53rd week belongs to the last month. */
export interface FiscalWeeks {
	readonly pattern: "4-4-5" | "4-5-4" | "5-4-4";
	/** the weekday a year ends on, 0 Sunday to 6 Saturday */
	readonly lastDay: number;
	/** on the last such weekday of the month, or on the one nearest to the month’s last day */
	readonly end: "last" | "nearest";
	/** 1 to 12; a year is named by the calendar year of this month */
	readonly month: number;
}

/** How fiscal years run: from a first month (1 to 12) on, or by weeks. */
export interface FiscalRule {
	readonly startMonth: number;
	readonly weeks: FiscalWeeks | null;
}

/** A rule that held until a day, that day included. */
export interface FormerRule extends FiscalRule {
	readonly until: Day;
}

/** A first day with the fiscal year that it lies in and its place in it. */
interface Start {
	readonly day: Day;
	readonly year: number;
	/** quarter 1 to 4, or month 1 to 12 */
	readonly place: number;
	/** whether a fiscal year begins with it */
	readonly opens: boolean;
}

/** Quarters and months with a first day each, in their order, for all years that anything may be dated to. */
export interface FiscalTable {
	/** told apart by what they were made of */
	readonly made: string;
	readonly quarters: readonly Start[];
	readonly months: readonly Start[];
}

/** How an organisation’s fiscal years run: the first month of each (1 to 12), or a table where they run by weeks or were changed. */
export type Fiscal = number | FiscalTable;

/** The years before and after which quarters aren’t told apart; nothing is dated outside. */
const [FIRST, LAST] = [1895, 2205];
/** what a change leaves of a quarter or a month is joined to the one beside it if it is shorter, in days */
const SHORTEST = { quarters: 45, months: 15 };

/** The fiscal years of an organisation; `former` are the rules that held before, the first first. */
export function fiscalOf(now: FiscalRule, former: readonly FormerRule[] = []): Fiscal {
	if (!now.weeks && !former.length) return now.startMonth;
	return { made: JSON.stringify([now, former]), quarters: startsOf(now, former, "quarters"), months: startsOf(now, former, "months") };
}

/** What names a fiscal calendar in the key of something kept. */
export const fiscalKey = (fiscal: Fiscal): string => (typeof fiscal === "number" ? String(fiscal) : fiscal.made);

/**
 * The last day of the fiscal year by weeks that is named by a calendar year.
 *
 * @example yearEnd({ pattern: "4-4-5", lastDay: 6, end: "last", month: 1 }, 2027) // 20848
 */
export function yearEnd({ lastDay, end, month }: FiscalWeeks, year: number): Day {
	const monthEnd = dayFrom(year, month + 1, 1) - 1;
	const last = monthEnd - ((weekday(monthEnd) - lastDay + 7) % 7);
	return end === "nearest" && monthEnd - last > 3 ? last + 7 : last;
}

function startsOf(now: FiscalRule, former: readonly FormerRule[], kind: "quarters" | "months"): Start[] {
	const starts: Start[] = [];
	let from = dayFrom(FIRST, 1, 1);
	for (const { rule, until } of [...former.map((rule) => ({ rule, until: rule.until })), { rule: now, until: dayFrom(LAST + 1, 1, 1) - 1 }]) {
		if (until < from) continue;
		starts.push(...cut(naturalStarts(rule, kind), from, until, SHORTEST[kind]));
		from = until + 1;
	}
	return starts;
}

/** The starts within a span of days; the first of them is the span’s first day. */
function cut(natural: readonly Start[], from: Day, until: Day, shortest: number): Start[] {
	const around = natural.findLast(({ day }) => day <= from);
	const inside = natural.filter(({ day }) => day > from && day <= until);
	const first = around ?? inside[0];
	if (!first) return [];
	const own = [{ ...first, day: from, opens: true }, ...inside];
	if (own.length > 1 && (own[1] as Start).day - from < shortest) own.splice(0, 2, { ...(own[1] as Start), day: from, opens: true });
	if (own.length > 1 && until - (own.at(-1) as Start).day + 1 < shortest) own.pop();
	return own;
}

function naturalStarts({ startMonth, weeks }: FiscalRule, kind: "quarters" | "months"): Start[] {
	const [places, months] = kind === "quarters" ? [4, 3] : [12, 1];
	const starts: Start[] = [];
	for (let year = FIRST - 1; year <= LAST + 1; year++)
		for (let place = 1; place <= places; place++) {
			const before = (place - 1) * months;
			const day = weeks ? yearEnd(weeks, year - 1) + 1 + 7 * weeksBefore(weeks, before) : dayFrom(startMonth === 1 ? year : year - 1, startMonth + before, 1);
			starts.push({ day, year, place, opens: place === 1 });
		}
	return starts;
}

/** How many weeks of a year lie before its month of a place, from 0 on. */
function weeksBefore({ pattern }: FiscalWeeks, month: number): number {
	const weeks = pattern.split("-").map(Number);
	return 13 * Math.floor(month / 3) + weeks.slice(0, month % 3).reduce((sum, n) => sum + n, 0);
}

/** The place in a list of the last start on or before a day; the first where the day lies before all. */
export function placeOfStart(starts: readonly Start[], day: Day): number {
	let [low, high] = [0, starts.length - 1];
	while (low < high) {
		const middle = (low + high + 1) >> 1;
		if ((starts[middle] as Start).day <= day) low = middle;
		else high = middle - 1;
	}
	return low;
}

/** The span from a start to the day before the next. */
export function spanAt(starts: readonly Start[], place: number): { start: Day; end: Day } {
	const at = Math.min(starts.length - 2, Math.max(0, place));
	return { start: (starts[at] as Start).day, end: (starts[at + 1] as Start).day - 1 };
}

/**
 * The fiscal year a day lies in, from its first day to its last; one that a change of calendar made short or long too.
 *
 * @example yearOf(20781, 4).start // 20544
 */
export function yearOf(day: Day, fiscal: Fiscal): { start: Day; end: Day } {
	if (typeof fiscal === "number") {
		const { year, month } = parts(day);
		const start = dayFrom(month >= fiscal ? year : year - 1, fiscal, 1);
		return { start, end: dayFrom(parts(start).year + 1, fiscal, 1) - 1 };
	}
	const { quarters } = fiscal;
	let first = placeOfStart(quarters, day);
	while (first > 0 && !quarters[first]?.opens) first--;
	let next = first + 1;
	while (next < quarters.length - 1 && !quarters[next]?.opens) next++;
	return { start: (quarters[first] as Start).day, end: (quarters[next] as Start).day - 1 };
}

/**
 * What the fiscal year of a day is called: by the calendar year it ends in; by weeks, by that of its last month.
 *
 * @example [yearWords(20781, 1), yearWords(20781, 4)] // ["2026", "FY 2027"]
 */
export function yearWords(day: Day, fiscal: Fiscal): string {
	if (typeof fiscal !== "number") return `FY ${(fiscal.quarters[placeOfStart(fiscal.quarters, day)] as Start).year}`;
	return fiscal === 1 ? String(parts(day).year) : `FY ${parts(yearOf(day, fiscal).end).year}`;
}
