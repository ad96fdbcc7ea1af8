import type { Company } from "../src/core/company";
import { RULES } from "../src/core/flags/list";
import { inspect } from "../src/core/inspect";
import { normsOn } from "../src/core/norms";
import type { Day } from "../src/core/time/day";
import { type Line, medianOf, ms } from "./measure";

/** Flags, strength and attention of every open deal, on one core. */
export async function inspectionTime(company: Company, day: Day): Promise<{ time: number; open: number }> {
	const norms = normsOn(company, day);
	const open = company.deals.flatMap((_, deal) => (inspect(company, deal, norms)?.status === "open" ? [deal] : []));
	const time = await medianOf(
		() => {
			for (const deal of open) inspect(company, deal, norms);
		},
		7,
		2,
	);
	return { time, open: open.length };
}

export async function benchInspection(company: Company, day: Day): Promise<Line[]> {
	const { time, open } = await inspectionTime(company, day);
	const rate = (open * RULES.length) / (time / 1000);
	const norms = await medianOf(() => normsOn(company, day), 5, 1);
	return [
		{
			what: `flags, strength and attention of ${open.toLocaleString("en")} open deals among ${company.deals.length.toLocaleString("en")}`,
			measured: `${ms(time)}: ${(rate / 1e6).toFixed(2)} million deal-rules a second`,
			aim: "2 million a second on one core",
			met: rate >= 2e6,
		},
		{
			what: "usual times and medians of the day, put together from the blocks",
			measured: `${ms(norms)} over ${open.toLocaleString("en")} open rows`,
			aim: "",
			met: null,
		},
	];
}
