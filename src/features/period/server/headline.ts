import { shortMoney } from "@/core/money/words";
import type { PeriodFigures } from "@/core/period/figures";
import type { Period } from "@/core/time/period";
import { periodWords } from "@/core/time/words";
import { byCount, plural } from "@/core/words/grammar";

export type PeriodState = "running" | "over" | "to come";

interface Told {
	readonly figures: PeriodFigures;
	readonly period: Period;
	readonly state: PeriodState;
	readonly currency: string;
	/** what was won by the same working day of the period before and a year ago, and which day that is */
	readonly pace: {
		readonly workingDay: number;
		readonly workingDays: number;
		readonly previous: number;
		readonly yearAgo: number;
		readonly previousWords: string;
	};
}

/** Where a period stands in a sentence, and what to hold it against in another. */
export function periodHeadline({ figures, period, state, currency, pace }: Told): { finding: string; beside: string } {
	const { won, open, target, gap, needed, commitCover, cover } = figures;
	const money = (amount: number) => shortMoney(amount, currency);
	const percent = (part: number) => `${Math.round(part * 100)}%`;
	const words = periodWords(period);
	const nothing = !won.count && !open.count;
	if (nothing && target === null)
		return {
			finding: `Nothing won or open in ${words}`,
			beside: "None of these people has a deal due or closed in it, or a target for it.",
		};

	if (state === "over") {
		const reached = target === null ? "" : target > 0 ? `: ${percent(won.amount / target)} of the target of ${money(target)}` : "";
		const left = open.count
			? `${plural(open.count, "deal")} due in it ${byCount(open.count, "is", "are")} still open, ${money(open.amount)}.`
			: "No deals due in it are still open.";
		return { finding: `${money(won.amount)} was won in ${words}${reached}`, beside: left };
	}
	if (state === "to come") {
		const against = target === null ? "; no one has a target for it yet" : `, against a target of ${money(target)}`;
		return {
			finding: `${money(open.amount)} is open for ${words}${against}`,
			beside: cover === null ? "It hasn’t started." : `It hasn’t started; open deals cover the target ${cover.toFixed(1)} times.`,
		};
	}

	const beside = [
		`On working day ${pace.workingDay} of ${pace.workingDays}${besides(pace, money)}.`,
		commitCover === null ? "" : `Commit alone covers the gap ${commitCover.toFixed(1)} times.`,
	]
		.filter(Boolean)
		.join(" ");
	if (target === null || gap === null)
		return {
			finding: `${won.count ? `${money(won.amount)} is won` : "Nothing is won yet"} and ${money(open.amount)} is open; nobody here has a target`,
			beside,
		};
	if (gap === 0) return { finding: `${money(won.amount)} is won: the target of ${money(target)} is reached, and ${money(open.amount)} is still open`, beside };
	const missing = won.count
		? `${money(won.amount)} of ${money(target)} is won. ${money(gap)} is missing, and `
		: `Nothing is won yet of ${money(target)}, and `;
	if (needed === null) return { finding: `${missing}nothing is open`, beside };
	if (needed > 1) return { finding: `${missing}${money(open.amount)} is open: winning all of it would leave ${money(gap - open.amount)} missing`, beside };
	return { finding: `${missing}${money(open.amount)} is open: ${percent(needed)} of it has to be won`, beside };
}

/** What the periods before had won by the same working day; nothing where none had. */
function besides({ previous, yearAgo, previousWords }: Told["pace"], money: (amount: number) => string): string {
	if (!previous && !yearAgo) return "; by the same day nothing was won in the period before, nor a year ago";
	return `; by the same day ${previous ? `${money(previous)} was won` : "nothing was won"} of ${previousWords}, and ${yearAgo ? money(yearAgo) : "nothing"} a year ago`;
}
