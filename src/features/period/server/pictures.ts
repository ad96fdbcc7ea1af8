import { shortMoney } from "@/core/money/words";
import { parseDay } from "@/core/time/day";
import { longDay } from "@/core/time/words";
import type { BarsPicture, LinesPicture } from "@/formats/picture/picture";
import { PARTS } from "../table/beam";
import type { GroupRow, PeriodView } from "./readPeriod";

const dayWords = (iso: string) => longDay(parseDay(iso) ?? 0);

/** Won, commit, best case and pipeline of each group end to end, with its target across them. */
export function beamsPicture(groups: readonly GroupRow[], currency: string): BarsPicture {
	const money = (minor: number) => shortMoney(minor, currency);
	const rows = groups.map(({ name, figures }) => {
		const { won, target } = figures;
		let end = 0;
		const parts = PARTS.map(({ key, amountOf }) => {
			const from = end;
			end += amountOf(figures).amount;
			return { from, to: end, tone: key };
		}).filter(({ from, to }) => to > from);
		return { label: name, words: target ? `${money(won.amount)} of ${money(target)}` : money(won.amount), parts, mark: target };
	});
	return {
		kind: "bars",
		alt: rows.map(({ label, words }) => `${label}: ${words} won`).join("; "),
		rows,
		legend: [...PARTS.map(({ key, label }) => ({ tone: key, words: label.toLowerCase() })), { tone: "mark", words: "target" }],
	};
}

/** What was won by each working day, against the period before and a year ago. */
export function pacePicture({ pace, figures, currency, from, to }: PeriodView): LinesPicture {
	const money = (minor: number) => shortMoney(minor, currency);
	const { target } = figures;
	return {
		kind: "lines",
		alt: `Won by working day ${pace.workingDay} of ${pace.workingDays}: ${pace.series.map(({ label, amounts }) => `${label} ${money(amounts[Math.min(pace.workingDay, amounts.length - 1)] ?? 0)}`).join(", ")}`,
		lines: pace.series.map(({ label, amounts }) => ({ label, values: amounts })),
		places: pace.workingDays + 1,
		from: dayWords(from),
		to: dayWords(to),
		mark: target ? { value: target, words: `target ${money(target)}` } : null,
		amount: money,
	};
}
