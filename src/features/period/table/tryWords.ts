import type { PeriodFigures } from "@/core/period/figures";
import { shortMoney } from "@/ui/format";

const times = (value: number) => value.toFixed(1);
const percent = (value: number) => `${Math.round(100 * value)}%`;

/** One figure of a try beside the period as it is. */
export interface TryFigure {
	readonly label: string;
	readonly value: string;
	/** what it is without the moves; null where the moves leave it as it is */
	readonly was: string | null;
}

/**
 * The figures that a try may change, as they read: open, missing, cover, and what has to be won of what is open. Those that
 * a try leaves as they are say so by having no *was*, whatever it moves.
 */
export function tryFigures(tried: PeriodFigures, real: PeriodFigures, currency: string): TryFigure[] {
	const one = (words: string, of: (figures: PeriodFigures) => string | null): TryFigure[] => {
		const [value, was] = [of(tried), of(real)];
		return value === null && was === null ? [] : [{ label: words, value: value ?? "–", was: value === was ? null : (was ?? "–") }];
	};
	return [
		...one("won", ({ won }) => shortMoney(won.amount, currency)),
		...one("missing", ({ gap }) => (gap === null ? null : gap === 0 ? "nothing" : shortMoney(gap, currency))),
		...one("open", ({ open }) => shortMoney(open.amount, currency)),
		...one("cover", ({ cover }) => (cover === null ? null : times(cover))),
		...one("share to win", ({ needed }) => (needed === null ? null : percent(needed))),
	];
}

/**
 * What a try comes to: what it changes first. A push leaves what is missing as it is, and is seen in what is open, the cover
 * and the share that has to be won.
 */
export function tryFinding(tried: PeriodFigures, real: PeriodFigures, currency: string): string {
	const changed = tryFigures(tried, real, currency).filter(({ was }) => was !== null);
	if (!changed.length) return "These moves change none of the period’s figures";
	return changed
		.map(({ label, value, was }) => `${label} ${value} (was ${was})`)
		.join(", ")
		.replace(/^./, (letter) => letter.toUpperCase());
}
