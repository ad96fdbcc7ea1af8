import { divideRounded, roundHalfAway } from "../money/decimal";
import type { Counted } from "./counted";

/** The figures of a period; rates are plain numbers, null where their divisor is nothing. */
export interface PeriodFigures extends Omit<Counted, "wonAge"> {
	/** null where nobody has a target that touches the period */
	readonly target: number | null;
	readonly gap: number | null;
	readonly cover: number | null;
	readonly commitCover: number | null;
	/** the share of what is open that has to be won */
	readonly needed: number | null;
	readonly winRate: { readonly count: number | null; readonly amount: number | null };
	readonly averageWon: number | null;
	/** mean deal age of the deals won, in working days, to one decimal */
	readonly averageCycle: number | null;
}

/** The figures that follow from what is counted and from a target (base minor units, or null where there is none). */
export function figuresOf({ wonAge, ...counted }: Counted, target: number | null): PeriodFigures {
	const { won, lost, open, categories } = counted;
	const gap = target === null ? null : Math.max(0, target - won.amount);
	const over = (part: number, whole: number | null) => (whole ? part / whole : null);
	return {
		...counted,
		target,
		gap,
		cover: over(open.amount, gap),
		commitCover: over(categories.commit.amount, gap),
		needed: gap === null ? null : over(gap, open.amount),
		winRate: { count: over(won.count, won.count + lost.count), amount: over(won.amount, won.amount + lost.amount) },
		averageWon: won.count ? divideRounded(won.amount, won.count) : null,
		averageCycle: won.count ? roundHalfAway((wonAge * 10) / won.count) / 10 : null,
	};
}

/** The differences of figures, later less earlier, in the same shape; null where either is. */
export type Differences<T> = { readonly [K in keyof T]: T[K] extends object ? Differences<T[K]> : number | null };

/** Later figures less earlier ones, figure by figure. */
export function differencesOf<T extends object>(later: T, earlier: T): Differences<T> {
	const entries = Object.entries(later).map(([name, value]) => {
		const before = (earlier as Record<string, unknown>)[name];
		if (typeof value === "object" && value !== null && typeof before === "object" && before !== null) return [name, differencesOf(value, before)];
		return [name, typeof value === "number" && typeof before === "number" ? value - before : null];
	});
	return Object.fromEntries(entries);
}
