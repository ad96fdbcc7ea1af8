import seedrandom from "seedrandom";
import { makeCalendar } from "../../core/time/calendar";
import { type Day, dayFrom, formatDay, parts } from "../../core/time/day";
import { makeZone } from "../../core/time/zone";
import { instantText } from "../../formats/bundle/fields";

export const TIME_ZONE = "Europe/Berlin";
const zone = makeZone(TIME_ZONE);

/** Seeded chance: the same seed always gives the same choices. */
export class Chance {
	private readonly next: () => number;
	constructor(seed: string) {
		this.next = seedrandom(seed);
	}
	unit = () => this.next();
	yes = (probability: number) => this.next() < probability;
	whole = (low: number, high: number) => low + Math.floor(this.next() * (high - low + 1));
	pick = <T>(list: readonly T[]): T => list[Math.floor(this.next() * list.length)] as T;
	/** about a middle, mostly between half and twice of it */
	around = (middle: number) => middle * Math.exp((this.next() + this.next() + this.next() - 1.5) * 0.8);
}

/** Public holidays around a day: the fixed ones and those that hang on Easter. */
export function holidaysAround(today: Day): { day: Day; name: string }[] {
	const list: { day: Day; name: string }[] = [];
	const { year } = parts(today);
	for (let y = year - 3; y <= year + 1; y++) {
		const easter = easterSunday(y);
		list.push(
			{ day: dayFrom(y, 1, 1), name: "New Year" },
			{ day: easter - 2, name: "Good Friday" },
			{ day: easter + 1, name: "Easter Monday" },
			{ day: dayFrom(y, 5, 1), name: "Labour Day" },
			{ day: easter + 39, name: "Ascension" },
			{ day: dayFrom(y, 12, 25), name: "Christmas Day" },
			{ day: dayFrom(y, 12, 26), name: "Second day of Christmas" },
		);
	}
	return list.sort((a, b) => a.day - b.day);
}

/** The anonymous Gregorian algorithm. */
function easterSunday(year: number): Day {
	const a = year % 19;
	const b = Math.floor(year / 100);
	const c = year % 100;
	const d = (19 * a + b - Math.floor(b / 4) - Math.floor((b - Math.floor((b + 8) / 25) + 1) / 3) + 15) % 30;
	const e = (32 + 2 * (b % 4) + 2 * Math.floor(c / 4) - d - (c % 4)) % 7;
	const f = d + e - 7 * Math.floor((a + 11 * d + 22 * e) / 451) + 114;
	return dayFrom(year, Math.floor(f / 31), (f % 31) + 1);
}

/** The calendar and the days of the made-up company, seen from a day. */
export function almanac(today: Day) {
	const calendar = makeCalendar(
		[0, 6],
		holidaysAround(today).map((h) => h.day),
	);
	return {
		today,
		calendar,
		iso: formatDay,
		/** an instant in office hours of a day: minutes past eight in the morning */
		at: (day: Day, minutes: number) => instantText(zone.instantAt(day, (8 * 60 + minutes) * 60_000)),
		/** the first working day on or after a day */
		onWorkingDay: (day: Day) => calendar.add(day - 1, 1),
		/** the last working day of a day's month */
		monthEnd: (day: Day) => {
			const { year, month } = parts(day);
			return calendar.lastOnOrBefore(dayFrom(year, month + 1, 1) - 1);
		},
		/** working days before (n > 0) a day */
		back: (day: Day, n: number) => {
			let at = day;
			for (let left = n; left > 0; ) if (calendar.isWorking(--at)) left--;
			return at;
		},
	};
}
export type Almanac = ReturnType<typeof almanac>;
