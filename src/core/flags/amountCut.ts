import { endRow, firstRow, lastOn } from "../history/columns";
import { currencySign, wholeAmount } from "../money/words";
import { formatDay } from "../time/day";
import { shortDay } from "../time/words";
import { plural } from "../words/grammar";
import { fired, type Rule } from "./rule";

/** The amount fell well below what it was lately. */
export const amountCut: Rule<"percent" | "days"> = {
	code: "amount-cut",
	name: "amount cut",
	about: "The amount is well below its highest of recent weeks, in the same currency.",
	settings: {
		percent: { label: "fires at this much below the highest", unit: "per cent", standard: 15, min: 1, max: 100 },
		days: { label: "looks back over", unit: "calendar days", standard: 60, min: 1, max: 1000 },
	},
	fires({ rules, versions: block, deal, row, seen }, settings) {
		const percent = settings.percent ?? 15;
		const days = settings.days ?? 60;
		const now = block.amount[row] as number;
		const currency = block.currency[row] as number;
		if (Number.isNaN(now)) return null;
		// Day-ends in force on one of the last days: the one that stood at the span's first day, and those set since.
		let high = now;
		let highDay = seen;
		const first = seen - days + 1;
		const start = Math.max(lastOn(block.day, firstRow(block, deal), endRow(block, deal), first), firstRow(block, deal));
		for (let at = start; at <= row; at++) {
			const dayEnd = at === row || block.day[at + 1] !== block.day[at];
			const amount = block.amount[at] as number;
			if (!dayEnd || block.currency[at] !== currency || !(amount > high)) continue;
			high = amount;
			highDay = Math.max(block.day[at] as number, first);
		}
		if (high <= 0 || (high - now) * 100 < percent * high) return null;
		const share = Math.floor(((high - now) * 100) / high);
		const code = rules.currencies[currency] ?? rules.rates.base;
		const words = (amount: number) => `${currencySign(code)}${wholeAmount(amount, code)}`;
		return fired((high - now) * 100 >= 2 * percent * high ? 2 : 1, () => ({
			evidence: { percent: share, highest: high, amount: now, currency: code, highestOn: formatDay(highDay), days },
			label: `Amount cut ${share}%`,
			reason: `${words(now)}, down from ${words(high)} on ${shortDay(highDay)}, within ${plural(days, "day")}`,
			clears: `the amount back up, or ${plural(days, "day")} gone by since the cut`,
			remedy: "Check what we got for the lower amount",
		}));
	},
};
