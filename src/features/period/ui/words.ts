import { change, fullAmount, money, shortMoney } from "@/ui/format";
import type { FigureUnit } from "../table/figures";

/** A figure's value as it reads: `€1.22m`, `2.3`, `41%`; a dash for none. */
export function figureWords(value: number | null, unit: FigureUnit, currency: string, long = false): string {
	if (value === null) return "–";
	switch (unit) {
		case "amount":
			return long ? money(value, currency) : shortMoney(value, currency);
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

/** What a figure changed by: `+619 000`, `−2`; nothing where it didn't. */
export function changeWords(value: number | null, unit: FigureUnit, currency: string): string {
	if (!value) return "";
	if (unit === "amount") return change(value, currency);
	const size = unit === "share" ? `${Math.round(Math.abs(value) * 100)} points` : unit === "count" ? String(Math.abs(value)) : Math.abs(value).toFixed(1);
	return `${value > 0 ? "+" : "−"}${size}`;
}

export const amountWords = (value: number | null, currency: string): string => (value === null ? "–" : fullAmount(value, currency));
