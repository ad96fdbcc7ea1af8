import { formatDay, inBounds, parseDay } from "../../core/time/day";
import type { Zone } from "../../core/time/zone";

/** How a column's dates are written: the order of their numbers, or a spreadsheet's count of days. */
export const DATE_ORDERS = ["ymd", "dmy", "mdy", "serial"] as const;
export type DateOrder = (typeof DATE_ORDERS)[number];

/** Months by the first letters of their names in English, German, French and Spanish; more letters may follow. */
const MONTHS: readonly (readonly string[])[] = [
	["jan", "jän", "ene"],
	["feb", "fév", "fev"],
	["mar", "mär", "maer", "mrz"],
	["apr", "avr", "abr"],
	["may", "mai"],
	["jun", "juin"],
	["jul", "juil"],
	["aug", "aoû", "aou", "ago"],
	["sep"],
	["oct", "okt"],
	["nov"],
	["dec", "dez", "déc", "dic"],
];

function monthOf(word: string): number | null {
	const name = word.toLowerCase();
	// `juin` and `juil` begin alike for three letters: the longest beginning wins.
	let best: { month: number; length: number } | null = null;
	MONTHS.forEach((names, i) => {
		for (const one of names) if (name.startsWith(one) && one.length > (best?.length ?? 0)) best = { month: i + 1, length: one.length };
	});
	return (best as { month: number } | null)?.month ?? null;
}

/** The day of a year, month and day in figures, a year of two figures being of this century; null where there is no such day. */
export function dayOfParts(year: string, month: string | number, date: string): string | null {
	const full = year.length === 2 ? `20${year}` : year;
	const iso = `${full}-${String(month).padStart(2, "0")}-${date.padStart(2, "0")}`;
	return full.length === 4 && parseDay(iso) !== null && inBounds(iso) ? iso : null;
}

/** the day before a spreadsheet's first, with its leap day of 1900 that never was */
const SERIAL_START = parseDay("1899-12-30") as number;
const SERIAL = /^(\d{5})(?:[.,]\d+)?$/;

/** A day in a spreadsheet's count, from 1927 to 2173: five figures. */
function serialDay(text: string): string | null {
	const found = SERIAL.exec(text);
	const days = Number(found?.[1]);
	return found && days >= 10_000 && days < 100_000 ? formatDay(SERIAL_START + days) : null;
}

const TIME = /^(.*?)(?:[T ,]\s*(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,]\d+)?)?\s*([AaPp]\.?[Mm]\.?)?\s*(Z|UTC|GMT|[+-]\d{2}:?\d{2})?)?$/;

/**
 * A date as people and programs write it (`24.11.2026`, `2026-11-24T22:30:00Z`, `24-Nov-26`, `Nov 24, 2026`, a
 * spreadsheet's `46350`) in an order, as an ISO day. A time with a zone of its own is put into `zone`; one without is left out.
 * What can be read in one way only (a year of four figures first, a month's name, a spreadsheet's count) is read so in any
 * order. Null where it can't be read.
 *
 * @example readDate("46350", "serial", zone) … // "2026-11-24"
 */
export function readDate(text: string, order: DateOrder, zone: Zone): string | null {
	const trimmed = text.trim();
	const serial = serialDay(trimmed);
	if (serial) return serial;
	const [, date = trimmed, hour, minute, second = "0", half, offset] = TIME.exec(trimmed) ?? [];
	const iso = figures(date.trim(), order) ?? named(date.trim());
	if (iso === null || hour === undefined) return iso;
	const hours = (Number(hour) % (half ? 12 : 24)) + (half && /p/i.test(half) ? 12 : 0);
	if (Number(hour) > 24 || Number(minute) > 59 || Number(second) > 59) return null;
	if (!offset) return iso;
	const [, sign, h = "0", m = "0"] = /^([+-])(\d{2}):?(\d{2})$/.exec(offset) ?? [];
	const shift = (Number(h) * 60 + Number(m)) * (sign === "-" ? -1 : 1);
	const at = (parseDay(iso) as number) * 86_400_000 + (hours * 60 + Number(minute) - shift) * 60_000 + Number(second) * 1000;
	return formatDay(zone.dayOf(at));
}

function figures(text: string, order: DateOrder): string | null {
	const found = /^(\d{1,4})\s?[-/. ]\s?(\d{1,2})\s?[-/. ]\s?(\d{1,4})\.?$/.exec(text) ?? /^(\d{4})(\d{2})(\d{2})$/.exec(text);
	if (!found) return null;
	const [, a = "", b = "", c = ""] = found;
	if (a.length > 2) return dayOfParts(a, b, c);
	if (order === "ymd" || order === "serial" || c.length < 2 || c.length === 3) return null;
	return order === "dmy" ? dayOfParts(c, b, a) : dayOfParts(c, a, b);
}

/** With the month's name: `24-Nov-26`, `24. November 2026`, `Nov 24, 2026`, `Tue 24 Nov 2026`. The name says where it stands, whatever the order; of two short numbers the first is the day. */
function named(text: string): string | null {
	const words = text.split(/[\s,./-]+/).filter(Boolean);
	if (words.length === 4 && monthOf(words[0] as string) === null) words.shift();
	if (words.length !== 3) return null;
	const at = words.findIndex((word) => /^\p{L}{3,}/u.test(word) && monthOf(word) !== null);
	if (at < 0) return null;
	const month = monthOf(words[at] as string) as number;
	const [first = "", last = ""] = words.filter((_, i) => i !== at);
	if (!/^\d{1,4}(st|nd|rd|th)?$/i.test(first) || !/^\d{1,4}$/.test(last)) return null;
	const date = first.replace(/\D/g, "");
	if (date.length === 4) return dayOfParts(date, month, last);
	return dayOfParts(last, month, date);
}

/** How some dates can be read. */
export interface DateGuess {
	readonly order: DateOrder;
	/** no other order reads as many of them and makes other days of them */
	readonly sure: boolean;
	/** all orders that read as many, the guess among them */
	readonly able: readonly DateOrder[];
}

/** The order in which most of some dates can be read, the first of several. Null where none reads any. */
export function guessDates(values: readonly string[], zone: Zone): DateGuess | null {
	const given = [...new Set(values.map((value) => value.trim()).filter(Boolean))];
	if (!given.length) return { order: "ymd", sure: true, able: DATE_ORDERS };
	if (given.every((value) => serialDay(value) !== null)) return { order: "serial", sure: true, able: DATE_ORDERS };
	const read = DATE_ORDERS.map((order) => ({ order, days: given.map((value) => readDate(value, order, zone)) }));
	const count = ({ days }: (typeof read)[number]) => days.filter((day) => day !== null).length;
	const most = Math.max(...read.map(count));
	const able = read.filter((one) => count(one) === most);
	const [first] = able;
	if (!first || most === 0) return null;
	const sure = able.every((one) => one.days.every((day, i) => day === first.days[i]));
	return { order: first.order, sure, able: able.map(({ order }) => order) };
}

/** What an order makes of the first dates that it reads otherwise than another one: what is shown where it is asked. */
export interface DateReading {
	readonly order: DateOrder;
	readonly samples: readonly { readonly text: string; readonly day: string | null }[];
}

const SAMPLES = 3;

/** What each of some orders makes of the first dates on which they differ. */
export function dateReadings(values: readonly string[], orders: readonly DateOrder[], zone: Zone): DateReading[] {
	const given = [...new Set(values.map((value) => value.trim()).filter(Boolean))];
	const differing = given.filter((value) => new Set(orders.map((order) => readDate(value, order, zone))).size > 1).slice(0, SAMPLES);
	return orders.map((order) => ({ order, samples: differing.map((text) => ({ text, day: readDate(text, order, zone) })) }));
}
