import { currencySign, grouped, shortAmount, wholeAmount } from "@/core/money/words";
import { type Day, parseDay } from "@/core/time/day";
import { longDay, shortDay } from "@/core/time/words";

export const dayNumber = (iso: string): Day => parseDay(iso) ?? 0;
/** `18 Nov`, or a dash for none. */
export const shortDate = (iso: string | null): string => (iso ? shortDay(dayNumber(iso)) : "–");
/** `18 Nov 2026`, or a dash for none. */
export const longDate = (iso: string | null): string => (iso ? longDay(dayNumber(iso)) : "–");
/** Without the year while it is that of another day, with it otherwise. */
export const nearDate = (iso: string | null, near: string): string => (iso?.slice(0, 4) === near.slice(0, 4) ? shortDate(iso) : longDate(iso));

/** `€412 000` */
export const money = (minor: number, currency: string): string => `${minor < 0 ? "−" : ""}${currencySign(currency)}${wholeAmount(Math.abs(minor), currency)}`;
/** `€4.21m` */
export const shortMoney = (minor: number, currency: string): string =>
	`${minor < 0 ? "−" : ""}${currencySign(currency)}${shortAmount(Math.abs(minor), currency)}`;
/** `+12 500`, `−38 000` */
export const change = (minor: number, currency: string): string => `${minor > 0 ? "+" : ""}${wholeAmount(minor, currency)}`;
export const share = (value: number): string => value.toFixed(2);
export { currencySign, grouped, shortAmount, wholeAmount };
export const spaced = (text: string | null): string => (text ?? "").replaceAll("_", " ");
