import { CATEGORIES, type Category } from "../history/columns";
import { type Decimal, roundHalfAway } from "../money/decimal";
import { weightedPart } from "../money/rates";
import type { Counted, Sum } from "./counted";

/** An open deal as a try sees it. Amount in base minor units; `probability` of its stage. */
export interface TriedDeal {
	readonly id: string;
	readonly amount: number;
	readonly category: Category;
	readonly probability: Decimal;
	readonly stage: string;
	readonly owner: string;
	readonly level: "act" | "watch" | "calm";
	/** codes of its flags */
	readonly flags: readonly string[];
}

/** Which deals a move is about: one by its id, or all that have a value in a field. */
export type Whom =
	| { readonly field: "deal"; readonly value: string }
	| { readonly field: "category" | "stage" | "owner" | "level" | "flag"; readonly value: string };

/** What becomes of them: a share (1 to 100) of what is open of each is won, dropped or pushed out of the period; or all of it has another price, in per cent of the one it has. */
export interface Move {
	readonly whom: Whom;
	readonly what: "win" | "drop" | "push" | "price";
	readonly percent: number;
}

/** What has become of a deal's amount; base minor units. */
export interface Tried {
	readonly won: number;
	readonly dropped: number;
	readonly pushed: number;
	readonly open: number;
	/** what another price added to it, or took away */
	readonly priced: number;
}

export interface TryResult {
	/** by the order of the deals */
	readonly deals: readonly Tried[];
	/** as what is counted of a period: won on top of what is won, open by category */
	readonly counted: Counted;
	readonly dropped: number;
	readonly pushed: number;
	/** by move: how many deals it met */
	readonly met: readonly number[];
}

/** Whether a move is about a deal. */
export function isMeant({ field, value }: Whom, deal: TriedDeal): boolean {
	switch (field) {
		case "deal":
			return deal.id === value;
		case "flag":
			return deal.flags.includes(value);
		default:
			return deal[field] === value;
	}
}

/**
 * Moves deals on a copy of a period, one move after the other: each takes its share of what is still open then. What is
 * won, dropped, pushed and left open of a deal add up to its amount at the price it has in the end.
 *
 * @param real what is counted of the period as it is; what is won of it stays
 */
export function applyMoves(real: Counted, deals: readonly TriedDeal[], moves: readonly Move[]): TryResult {
	const tried = deals.map((deal) => ({ won: 0, dropped: 0, pushed: 0, open: deal.amount, priced: 0 }));
	const met = moves.map(({ whom, what, percent }) => {
		let count = 0;
		deals.forEach((deal, i) => {
			const one = tried[i];
			if (!one || !isMeant(whom, deal)) return;
			count++;
			if (what === "price") {
				const next = roundHalfAway((one.open * percent) / 100);
				one.priced += next - one.open;
				one.open = next;
				return;
			}
			const part = roundHalfAway((one.open * Math.min(100, percent)) / 100);
			one.open -= part;
			one[what === "win" ? "won" : what === "drop" ? "dropped" : "pushed"] += part;
		});
		return count;
	});
	// One pass: a try follows a finger, so that it has to be done within a frame.
	const sums = { won: none(), lost: none(), later: none(), open: none(), weighted: 0 };
	const categories = Object.fromEntries(CATEGORIES.map((category) => [category, none()])) as Record<Category, Adding>;
	const attention = { act: 0, watch: 0, calm: 0 };
	tried.forEach((one, i) => {
		const deal = deals[i] as TriedDeal;
		if (one.won > 0) add(sums.won, one.won);
		if (one.dropped > 0) add(sums.lost, one.dropped);
		if (one.pushed > 0) add(sums.later, one.pushed);
		if (one.open === 0 && one.won + one.dropped + one.pushed > 0) return;
		add(sums.open, one.open);
		add(categories[deal.category], one.open);
		sums.weighted += weightedPart(one.open, deal.probability);
		attention[deal.level]++;
	});
	const beside = (real: Sum, more: Sum): Sum => ({ count: real.count + more.count, amount: real.amount + more.amount });
	return {
		deals: tried,
		counted: {
			won: beside(real.won, sums.won),
			lost: beside(real.lost, sums.lost),
			wonAge: real.wonAge,
			open: sums.open,
			categories,
			weighted: sums.weighted,
			attention,
			leftBehind: real.leftBehind,
			undated: real.undated,
			later: beside(real.later, sums.later),
		},
		dropped: sums.lost.amount,
		pushed: sums.later.amount,
		met,
	};
}

type Adding = { count: number; amount: number };
const none = (): Adding => ({ count: 0, amount: 0 });

function add(sum: Adding, amount: number): void {
	sum.count++;
	sum.amount += amount;
}
