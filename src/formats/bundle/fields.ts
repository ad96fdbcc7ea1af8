import { formatAmount, MOST_AMOUNT, parseAmount } from "../../core/money/amount";
import { exponentOf } from "../../core/money/currency";
import { type Decimal, parseDecimal, toNumber } from "../../core/money/decimal";
import { DAYS_TAKEN, formatDay, inBounds, parseDay } from "../../core/time/day";
import type { Zone } from "../../core/time/zone";
import { plainText, safeText } from "../csv";
import type { Value } from "./model";
import type { FieldSpec } from "./spec";

/** What reading a field needs to know besides its text. */
export interface FieldContext {
	readonly zone: Zone;
	/** the currency an amount of this row is in */
	readonly currency: string;
}

/** A field that can't be read, with the reason in words. */
export interface Refused {
	readonly reason: string;
}

/** Whether a cell was refused; what it holds then is why. */
export const refused = (value: Value | Refused): value is Refused => typeof value === "object" && value !== null && "reason" in value;

const LONGEST_TEXT = 100_000;
const LONGEST_ID = 200;

/** Reads one cell; blank is null (an empty list for lists, false for yes or no). */
export function readField(spec: FieldSpec, cell: string, context: FieldContext): Value | Refused {
	const { type } = spec;
	const trimmed = cell.trim();
	if (!trimmed) {
		if (spec.needed) return { reason: `${spec.name} is blank, and it is required` };
		if (spec.standard !== null) return spec.standard;
		return type.is === "ids" || type.is === "words" ? [] : type.is === "yes" ? false : null;
	}
	switch (type.is) {
		case "text":
			if (cell.length > LONGEST_TEXT) return { reason: `this text has ${cell.length} letters; at most ${LONGEST_TEXT} fit` };
			return plainText(cell);
		case "id":
			return trimmed.length > LONGEST_ID ? { reason: `an id has at most ${LONGEST_ID} letters` } : plainText(trimmed);
		case "ids":
		case "words":
			return [
				...new Set(
					plainText(trimmed)
						.split("|")
						.map((part) => part.trim())
						.filter(Boolean),
				),
			];
		case "day":
			return readDay(trimmed, context.zone);
		case "instant":
			return readInstant(trimmed, context.zone);
		case "json":
			return readJson(plainText(trimmed));
		case "currency":
			return exponentOf(trimmed) === null ? { reason: `${trimmed} isn’t a currency code of ISO 4217, such as EUR` } : trimmed;
		case "yes":
			if (/^(true|yes|y|1)$/i.test(trimmed)) return true;
			return /^(false|no|n|0)$/i.test(trimmed) ? false : { reason: "write true or false here" };
		case "whole": {
			const value = Number(trimmed);
			if (!/^[+-]?\d+$/.test(trimmed) || !Number.isSafeInteger(value)) return { reason: "this isn’t a whole number" };
			return within(value, value, type);
		}
		case "decimal": {
			const value = readDecimal(trimmed, type.most <= 1);
			if (!value) return { reason: "this isn’t a number with a decimal point" };
			return within(decimalText(value.units, value.scale), toNumber(value), type);
		}
		case "amount": {
			const value = parseAmount(trimmed, context.currency);
			if (typeof value === "number" && Math.abs(value) > MOST_AMOUNT) return { reason: amountReason("too large", context.currency) };
			return typeof value === "number" ? value : { reason: amountReason(value, context.currency) };
		}
		case "choice":
			return readChoice(trimmed, type.of, type.words);
	}
}

/** Writes a value the way `readField` reads it. */
export function writeField(spec: FieldSpec, value: Value, currency: string): string {
	if (value === null || value === spec.standard) return "";
	if (Array.isArray(value)) return safeText(value.join("|"));
	switch (spec.type.is) {
		case "amount":
			return formatAmount(value as number, currency);
		case "text":
		case "id":
		case "json":
			return safeText(String(value));
		default:
			return String(value);
	}
}

/** JSON as it is kept: as one line of text. */
function readJson(text: string): Value | Refused {
	if (text.length > LONGEST_TEXT * 10) return { reason: `this has ${text.length} letters; at most ${LONGEST_TEXT * 10} fit` };
	try {
		return JSON.stringify(JSON.parse(text));
	} catch {
		return { reason: "this isn’t JSON" };
	}
}

function within(value: Value, number: number, { least, most }: { least: number; most: number }): Value | Refused {
	return number < least || number > most ? { reason: `this must lie between ${least} and ${most}` } : value;
}

function decimalText(units: number, scale: number): string {
	if (!scale) return String(units);
	const digits = String(Math.abs(units)).padStart(scale + 1, "0");
	return `${units < 0 ? "-" : ""}${digits.slice(0, -scale)}.${digits.slice(-scale)}`;
}

/** A decimal with a point; `.1` is 0.1, and where a share is asked for, `10%` is too. */
function readDecimal(text: string, share: boolean): Decimal | null {
	const percent = share ? /^(.*\S)\s*%$/.exec(text) : null;
	const value = parseDecimal((percent?.[1] ?? text).replace(/^([+-]?)\./, "$10."));
	return value && percent ? parseDecimal(decimalText(value.units, value.scale + 2)) : value;
}

/** One of some words, whatever its case and whether spaces or lines part it. */
function readChoice(text: string, of: readonly string[], words: Readonly<Record<string, string>> = {}): Value | Refused {
	if (of.includes(text)) return text;
	const name = text.toLowerCase().replace(/[\s-]+/g, "_");
	return of.find((one) => one === name) ?? (Object.hasOwn(words, name) ? words[name] : undefined) ?? { reason: `this must be one of ${of.join(", ")}` };
}

/** A day; of an instant with a zone of its own, the day it falls on. */
function readDay(text: string, zone: Zone): Value | Refused {
	if (parseDay(text) !== null) return bounded(text);
	if (!/^\d{4}-\d{2}-\d{2}[T ]/.test(text)) return { reason: dayReason(text) };
	const instant = readInstant(text, zone);
	if (typeof instant !== "string") return { reason: dayReason(text) };
	return bounded(/(Z|[+-]\d{2}:?\d{2})$/i.test(text) ? formatDay(zone.dayOf(Date.parse(instant))) : text.slice(0, 10));
}

const bounded = (iso: string): Value | Refused => (inBounds(iso) ? iso : { reason: DAYS_TAKEN });

function dayReason(text: string): string {
	return /^\d{4}-\d{2}-\d{2}$/.test(text) ? "there is no such day" : "a day is written YYYY-MM-DD";
}

function amountReason(problem: string, currency: string): string {
	switch (problem) {
		case "too many decimals":
			return `${currency} has ${exponentOf(currency)} decimal places, and this has more`;
		case "too large":
			return "this amount is too large: no company has one of more than 10^13 minor units, 100 billion with two decimals";
		case "unknown currency":
			return `${currency} isn’t a currency code of ISO 4217`;
		default:
			return "an amount is written in digits with a decimal point, without letters or thousands separators";
	}
}

/**
 * An instant: `2026-11-24T09:30:00Z` or with an offset; without one it is read in the organisation's
 * time zone, and a bare day is its first moment there. Fractions are kept to the millisecond.
 */
function readInstant(text: string, zone: Zone): string | Refused {
	const match = /^(\d{4}-\d{2}-\d{2})(?:[T ](\d{2}):(\d{2})(?::(\d{2})(?:\.(\d+))?)?\s*(Z|[+-]\d{2}:?\d{2})?)?$/i.exec(text);
	const day = match && parseDay(match[1] as string);
	if (match && day !== null && !inBounds(match[1] as string)) return { reason: DAYS_TAKEN };
	if (!match || day === null) {
		return { reason: match ? "there is no such day" : "an instant is written like 2026-11-24T09:30:00Z" };
	}
	const [hour, minute, second] = [match[2], match[3], match[4]].map((part) => Number(part ?? 0)) as [number, number, number];
	if (hour > 23 || minute > 59 || second > 59) return { reason: "there is no such time of day" };
	const ms = Number((match[5] ?? "").slice(0, 3).padEnd(3, "0"));
	const ofDay = ((hour * 60 + minute) * 60 + second) * 1000 + ms;
	const offset = match[6];
	let at: number;
	if (!offset) at = zone.instantAt(day as number, ofDay);
	else {
		const [, sign, hours, minutes] = /^([+-])(\d{2}):?(\d{2})$/.exec(offset) ?? ["", "+", "0", "0"];
		const shift = (Number(hours) * 60 + Number(minutes)) * 60_000 * (sign === "-" ? -1 : 1);
		at = (day as number) * 86_400_000 + ofDay - shift;
	}
	return instantText(at);
}

/** ISO 8601 in UTC, with a fraction only where there is one. */
export function instantText(at: number): string {
	return new Date(at).toISOString().replace(".000Z", "Z");
}
