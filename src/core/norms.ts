import { attentionOn } from "./attention/settings";
import type { Company, DealBlock, Rules } from "./company";
import { derived } from "./derive";
import type { Norms } from "./flags/rule";
import { endRow, firstRow, lastOn } from "./history/columns";
import { usualTimes } from "./history/usual";
import { blockAmounts } from "./inspect";
import { percentileOf } from "./statistics/percentile";
import type { Day } from "./time/day";

/** Whether any deal is open on a day. */
export const anyOpenOn = (company: Company, day: Day): boolean => company.blocks.some((block) => openAmounts(block, company.rules, day).length > 0);

/** The amounts of a block’s open deals on a day, base minor units at its rates. */
const openAmounts = derived("open amounts", ({ versions }: DealBlock, rules: Rules, day: Day): Float64Array => {
	const amountOf = blockAmounts({ rules }, day);
	const amounts: number[] = [];
	for (let place = 0; place < versions.offsets.length - 1; place++) {
		const row = lastOn(versions.day, firstRow(versions, place), endRow(versions, place), day);
		if (row >= 0 && rules.stages[versions.stage[row] as number]?.kind === "open") amounts.push(amountOf(versions, row));
	}
	return Float64Array.from(amounts);
});

/** The amounts of all open deals on a day, sorted. */
function sortedAmounts({ blocks, rules }: Company, day: Day): Float64Array {
	const parts = blocks.map((block) => openAmounts(block, rules, day));
	const all = new Float64Array(parts.reduce((sum, { length }) => sum + length, 0));
	let at = 0;
	for (const part of parts) {
		all.set(part, at);
		at += part.length;
	}
	return all.sort();
}

/** What deals are measured against on a day: attention by what held then, or by what is given. */
export function normsOn(company: Company, seen: Day, attention = attentionOn(company.rules, seen)): Norms {
	const { usual, medianAmount, bigAmount } = measuredOn(company, seen);
	return { day: seen, usual, medianAmount, bigAmount, attention };
}

const measuredOn = derived(
	"norms",
	(company: Company, day: Day): Pick<Norms, "usual" | "medianAmount" | "bigAmount"> => {
		const amounts = sortedAmounts(company, day);
		const at = (p: number) => (amounts.length ? percentileOf(amounts, p) : 0);
		return { usual: usualTimes(company, day), medianAmount: at(0.5), bigAmount: at(0.8) };
	},
	400,
);

/** Norms that suffice where only flags are looked at: whether a rule fires never depends on other deals' amounts. */
export const flagNormsOn = (company: Company, day: Day): Norms => ({
	day,
	usual: usualTimes(company, day),
	medianAmount: 0,
	bigAmount: 0,
	attention: company.rules.attention,
});
