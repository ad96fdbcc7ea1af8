import { Temporal } from "temporal-polyfill";
import type { Day } from "./day";

const MS_PER_DAY = 86_400_000;

export interface Zone {
	readonly name: string;
	/** The calendar day an instant (ms since the epoch, UTC) falls on in this zone. */
	dayOf(instant: number): Day;
	/** Minutes past midnight that a wall clock in this zone shows at an instant. */
	minuteOf(instant: number): number;
	/**
	 * The instant at which a wall clock in this zone shows the day at this many ms past midnight. A time that the clock
	 * skips is that of the change, so that a day always begins within itself; of one that comes twice, the first.
	 */
	instantAt(day: Day, msOfDay: number): number;
}

/**
 * A time zone by its IANA name. Offsets are asked of the runtime once a UTC day and kept: a zone's
 * offset is constant through most days, and only a day on which it changes is asked instant by instant.
 * Throws RangeError when the name is unknown.
 */
export function makeZone(name: string): Zone {
	const format = new Intl.DateTimeFormat("en-US", {
		timeZone: name,
		hourCycle: "h23",
		year: "numeric",
		month: "numeric",
		day: "numeric",
		hour: "numeric",
		minute: "numeric",
		second: "numeric",
	});
	const known = new Map<number, number>();

	function ask(instant: number): number {
		const field: Record<string, number> = {};
		for (const part of format.formatToParts(instant)) field[part.type] = Number(part.value);
		const { year = 0, month = 1, day = 1, hour = 0, minute = 0, second = 0 } = field;
		const wall = Date.UTC(year, month - 1, day, hour, minute, second);
		return wall - Math.floor(instant / 1000) * 1000;
	}

	function offset(instant: number): number {
		const utcDay = Math.floor(instant / MS_PER_DAY);
		let constant = known.get(utcDay);
		if (constant === undefined) {
			const first = ask(utcDay * MS_PER_DAY);
			constant = first === ask((utcDay + 1) * MS_PER_DAY) ? first : Number.NaN;
			known.set(utcDay, constant);
		}
		return Number.isNaN(constant) ? ask(instant) : constant;
	}

	return {
		name,
		dayOf: (instant) => Math.floor((instant + offset(instant)) / MS_PER_DAY),
		minuteOf: (instant) => Math.floor(((((instant + offset(instant)) % MS_PER_DAY) + MS_PER_DAY) % MS_PER_DAY) / 60_000),
		instantAt(day, msOfDay) {
			const wall = day * MS_PER_DAY + msOfDay;
			const [before, after] = [offset(wall - MS_PER_DAY), offset(wall + MS_PER_DAY)];
			return before === after ? wall - before : Temporal.PlainDateTime.from(new Date(wall).toISOString().slice(0, -1)).toZonedDateTime(name).epochMilliseconds;
		},
	};
}
