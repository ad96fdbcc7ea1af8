import { shortMoney } from "@/core/money/words";
import { parseDay } from "@/core/time/day";
import { longDay } from "@/core/time/words";
import type { BarsPicture, LinesPicture } from "@/formats/picture/picture";
import { bridgeColumns } from "../table/bridgeColumns";
import type { ChangesView } from "./changesView";
import type { TrendView } from "./readTrend";

const dayWords = (iso: string) => longDay(parseDay(iso) ?? 0);

/** The bridge, a step a row. */
export function bridgePicture({ steps, currency }: Pick<ChangesView, "steps" | "currency">): BarsPicture {
	const rows = bridgeColumns(
		steps.filter(({ kind, count }) => count > 0 || kind === "opening" || kind === "closing"),
		currency,
	).map(({ name, label, range: [from, to], tone }) => ({ label: name, words: label, parts: [{ from, to, tone }], mark: null }));
	return { kind: "bars", alt: rows.map(({ label, words }) => `${label} ${words}`).join(", "), rows, legend: [] };
}

/** What was open at each week's end, with what was won by then. */
export function trendPicture({ points, target, currency }: TrendView): LinesPicture {
	const money = (minor: number) => shortMoney(minor, currency);
	const [first, last] = [points[0], points.at(-1)];
	return {
		kind: "lines",
		alt: last ? `Open ${money(last.open)}, won ${money(last.won)} on ${dayWords(last.day)}` : "Nothing is known of these weeks",
		lines: [
			{ label: "open", values: points.map(({ open }) => open) },
			{ label: "won so far", values: points.map(({ won }) => won) },
		],
		places: points.length,
		from: first ? dayWords(first.day) : "",
		to: last ? dayWords(last.day) : "",
		mark: target ? { value: target, words: `target ${money(target)}` } : null,
		amount: money,
	};
}
