import { fullAmount, fullMoney, shortMoney } from "@/core/money/words";
import { plural } from "@/core/words/grammar";
import type { FigureUnit } from "./figures";

/** A figure's value as it reads: `€1.22m`, `2.3`, `41%`; a dash for none. */
export function figureWords(value: number | null, unit: FigureUnit, currency: string, long = false): string {
	if (value === null) return "–";
	switch (unit) {
		case "amount":
			return long ? fullMoney(value, currency) : shortMoney(value, currency);
		case "share":
			return `${Math.round(value * 100)}%`;
		case "times":
		case "perDay":
			return value.toFixed(1);
		case "days":
			return `${value.toFixed(1)} d`;
		default:
			return String(value);
	}
}

/** What a figure changed by, in the units it is read in: `+€619k`, `−2`, `+1 point`; nothing where it reads the same. */
export function changeWords(value: number | null, unit: FigureUnit, currency: string): string {
	if (!value) return "";
	const size = sizeWords(Math.abs(value), unit, currency);
	return size && `${value > 0 ? "+" : "−"}${size}`;
}

function sizeWords(size: number, unit: FigureUnit, currency: string): string {
	if (unit === "amount") return shortMoney(size, currency);
	if (unit === "count") return String(size);
	if (unit !== "share") return size < 0.05 ? "" : size.toFixed(1);
	const points = Math.round(size * 100);
	return points ? plural(points, "point") : "";
}

export const amountWords = (value: number | null, currency: string): string => (value === null ? "–" : fullAmount(value, currency));
