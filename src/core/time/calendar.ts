import { type Day, weekday } from "./day";

export interface Calendar {
	isWorking(day: Day): boolean;
	/** W(a, b): working days d with a < d ≤ b; negative when b is before a. */
	between(a: Day, b: Day): number;
	/** The n-th working day after a day (n ≥ 0; 0 gives the day itself). */
	add(day: Day, n: number): Day;
	/** The last working day on or before a day. */
	lastOnOrBefore(day: Day): Day;
}

/** the days whose counts are kept: those of 1990 to 2059 */
const FIRST: Day = 7305;
const COUNTED = 25_567;

/**
 * A calendar of working days: all but the weekend (0 Sunday to 6 Saturday) and the holidays.
 * W is the difference of a running count, so it is antisymmetric and additive by construction.
 */
export function makeCalendar(weekend: readonly number[], holidays: readonly Day[]): Calendar {
	const off = Array.from({ length: 7 }, (_, d) => weekend.includes(d));
	if (off.every(Boolean)) throw new RangeError("a week needs at least one working day");
	const perWeek = off.filter((o) => !o).length;
	const free = [...new Set(holidays)].filter((d) => !off[weekday(d)]).sort((a, b) => a - b);
	const freeSet = new Set(free);
	/** Working weekdays among the first n days of a week that starts on Thursday 1 Jan 1970. */
	const upTo = [0];
	for (let n = 0; n < 7; n++) upTo.push((upTo[n] ?? 0) + (off[(n + 4) % 7] ? 0 : 1));

	/** counts of the days that are asked for most, made when the first is */
	let counts: Int32Array | null = null;

	function holidaysUpTo(day: Day): number {
		let low = 0;
		let high = free.length;
		while (low < high) {
			const middle = (low + high) >> 1;
			if ((free[middle] as number) <= day) low = middle + 1;
			else high = middle;
		}
		return low;
	}

	/** Working days from the epoch's first day to this one, inclusive; a running count, so it may be negative. */
	function counted(day: Day): number {
		const days = day + 1;
		const weeks = Math.floor(days / 7);
		return weeks * perWeek + (upTo[days - weeks * 7] as number) - holidaysUpTo(day);
	}

	function count(day: Day): number {
		counts ??= Int32Array.from({ length: COUNTED }, (_, i) => counted(FIRST + i));
		return counts[day - FIRST] ?? counted(day);
	}

	const isWorking = (day: Day) => !off[weekday(day)] && !freeSet.has(day);

	return {
		isWorking,
		between: (a, b) => count(b) - count(a),
		add(day, n) {
			let left = n;
			let at = day;
			while (left > 0) if (isWorking(++at)) left--;
			return at;
		},
		lastOnOrBefore(day) {
			let at = day;
			while (!isWorking(at)) at--;
			return at;
		},
	};
}
