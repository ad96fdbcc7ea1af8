import type { Day } from "../time/day";
import { exponentOf } from "./currency";
import { type Decimal, multiplyRounded } from "./decimal";

/** Base units for one unit of a currency, from a day on. */
export interface Rate {
	readonly currency: string;
	readonly day: Day;
	readonly rate: Decimal;
}

export interface Rates {
	readonly base: string;
	/** those there is a rate of, also where no amount is in them yet; without the base */
	readonly currencies: readonly string[];
	/** The newest rate with a day ≤ this one; if there is none, the oldest; null for a currency without any. */
	on(currency: string, day: Day): Decimal | null;
	/** Minor units of a currency in minor units of the base, at the rate of a day, half away from zero. */
	toBase(minor: number, currency: string, day: Day): number;
	/** `toBase` of one currency at the rate of one day, for many amounts; null where nothing is to be done, as for the base itself. */
	converter(currency: string, day: Day): ((minor: number) => number) | null;
}

/** Throws RangeError where an amount is in a currency without a rate: an import refuses such amounts. */
export function makeRates(base: string, all: readonly Rate[]): Rates {
	const byCurrency = new Map<string, Rate[]>();
	for (const rate of all) {
		const list = byCurrency.get(rate.currency);
		if (list) list.push(rate);
		else byCurrency.set(rate.currency, [rate]);
	}
	for (const list of byCurrency.values()) list.sort((a, b) => a.day - b.day);
	const basePlaces = exponentOf(base) ?? 2;

	function on(currency: string, day: Day): Decimal | null {
		const list = byCurrency.get(currency);
		if (!list?.length) return null;
		let found = list[0] as Rate;
		for (const rate of list) {
			if (rate.day > day) break;
			found = rate;
		}
		return found.rate;
	}

	function converter(currency: string, day: Day): ((minor: number) => number) | null {
		if (currency === base) return null;
		const rate = on(currency, day);
		const shift = basePlaces - (exponentOf(currency) ?? 2);
		const up = (rate?.units ?? 0) * 10 ** Math.max(0, shift);
		const down = 10 ** ((rate?.scale ?? 0) + Math.max(0, -shift));
		return (minor) => {
			if (minor === 0) return 0;
			if (!rate) throw new RangeError(`no rate for ${currency}`);
			return multiplyRounded(minor, up, down);
		};
	}

	return {
		base,
		currencies: [...byCurrency.keys()].filter((code) => code !== base).sort(),
		on,
		converter,
		toBase: (minor, currency, day) => converter(currency, day)?.(minor) ?? minor,
	};
}

/**
 * round(amount × probability), half away from zero: one deal's part of a weighted sum.
 *
 * @example weightedPart(1250, { units: 4, scale: 1 }) // 500
 */
export function weightedPart(amountBase: number, probability: Decimal): number {
	return multiplyRounded(amountBase, probability.units, 10 ** probability.scale);
}
