import { currencySign, fullAmount, fullMoney, grouped, shortAmount, shortMoney, wholeAmount } from "@/core/money/words";
import { type Day, parseDay } from "@/core/time/day";
import { longDay, shortDay } from "@/core/time/words";
import { makeZone, type Zone } from "@/core/time/zone";

export const dayNumber = (iso: string): Day => parseDay(iso) ?? 0;
/** `18 Nov`, or a dash for none. */
export const shortDate = (iso: string | null): string => (iso ? shortDay(dayNumber(iso)) : "–");
/** `18 Nov 2026`, or a dash for none. */
export const longDate = (iso: string | null): string => (iso ? longDay(dayNumber(iso)) : "–");
/** Without the year while it is that of another day, with it otherwise. */
export const nearDate = (iso: string | null, near: string): string => (iso?.slice(0, 4) === near.slice(0, 4) ? shortDate(iso) : longDate(iso));

const zones = new Map<string, Zone>();
/** `18 Nov 2026, 14:05` in a zone. */
export function instantWords(iso: string, zoneName: string): string {
	const zone = zones.get(zoneName) ?? makeZone(zoneName);
	zones.set(zoneName, zone);
	const at = Date.parse(iso);
	const minute = zone.minuteOf(at);
	return `${longDay(zone.dayOf(at))}, ${String(Math.floor(minute / 60)).padStart(2, "0")}:${String(minute % 60).padStart(2, "0")}`;
}
/** `18 Nov 2026`, the day that an instant falls on in a zone. */
export const instantDay = (iso: string, zoneName: string): string => instantWords(iso, zoneName).split(",")[0] ?? "";

/** `€412 000` */
export const money = fullMoney;
/** `€412 000`, in whole units */
export const wholeMoney = (minor: number, currency: string): string =>
	`${minor < 0 ? "−" : ""}${currencySign(currency)}${wholeAmount(Math.abs(minor), currency)}`;
/** `+12 500`, `−38 000` */
export const change = (minor: number, currency: string): string => `${minor > 0 ? "+" : ""}${fullAmount(minor, currency)}`;
export const share = (value: number): string => value.toFixed(2);
export { currencySign, fullAmount, grouped, shortAmount, shortMoney, wholeAmount };
export const spaced = (text: string | null): string => (text ?? "").replaceAll("_", " ");
