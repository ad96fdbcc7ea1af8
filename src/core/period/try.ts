import { CATEGORIES, type Category } from "../history/columns";
import { type Decimal, roundHalfAway } from "../money/decimal";
import { weightedPart } from "../money/rates";
import { type Counted, nothingCounted } from "./figures";

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
	const sum = (pick: (one: Tried) => number) => tried.reduce((total, one) => total + pick(one), 0);
	const counted = nothingCounted();
	const left = tried.map((one, i) => ({ ...(deals[i] as TriedDeal), left: one.open, gone: one.won + one.dropped + one.pushed > 0 && one.open === 0 }));
	const still = left.filter(({ gone }) => !gone);
	const total = (list: typeof still) => ({ count: list.length, amount: list.reduce((all, one) => all + one.left, 0) });
	return {
		deals: tried,
		counted: {
			...counted,
			won: { count: real.won.count + tried.filter(({ won }) => won > 0).length, amount: real.won.amount + sum(({ won }) => won) },
			lost: { count: real.lost.count + tried.filter(({ dropped }) => dropped > 0).length, amount: real.lost.amount + sum(({ dropped }) => dropped) },
			wonAge: real.wonAge,
			open: total(still),
			categories: Object.fromEntries(
				CATEGORIES.map((category) => [category, total(still.filter((one) => one.category === category))]),
			) as Counted["categories"],
			weighted: still.reduce((all, one) => all + weightedPart(one.left, one.probability), 0),
			attention: {
				act: still.filter(({ level }) => level === "act").length,
				watch: still.filter(({ level }) => level === "watch").length,
				calm: still.filter(({ level }) => level === "calm").length,
			},
			leftBehind: real.leftBehind,
			undated: real.undated,
			later: { count: real.later.count + tried.filter(({ pushed }) => pushed > 0).length, amount: real.later.amount + sum(({ pushed }) => pushed) },
		},
		dropped: sum(({ dropped }) => dropped),
		pushed: sum(({ pushed }) => pushed),
		met,
	};
}
