import { shortMoney } from "@/core/money/words";
import type { BarsPicture } from "@/formats/picture/picture";
import type { OutlookView } from "./readOutlook";

/** What is won, and between which totals the period ends, with the target across them. */
export function outlookPicture({ won, low, middle, high, target, currency }: OutlookView): BarsPicture {
	const money = (minor: number) => shortMoney(minor, currency);
	const rows = [
		{ label: "Won", words: money(won), parts: [{ from: 0, to: won, tone: "won" as const }], mark: target },
		{ label: "Ends between", words: `${money(low)} to ${money(high)}`, parts: [{ from: low, to: high, tone: "range" as const }], mark: target },
		{ label: "Most likely about", words: money(middle), parts: [{ from: 0, to: middle, tone: "commit" as const }], mark: target },
	];
	return {
		kind: "bars",
		alt: rows.map(({ label, words }) => `${label} ${words}`).join(", "),
		rows,
		legend: target === null ? [] : [{ tone: "mark", words: `target ${money(target)}` }],
	};
}
