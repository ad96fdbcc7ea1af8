import type { Ground } from "./outlook";

/** Why the mean of an outlook moved, in the order in which it is told; base minor units. */
export const MOVES = ["won", "new", "gone", "chancesUp", "chancesDown", "amounts", "elsewhere", "fresh"] as const;
export type MoveKey = (typeof MOVES)[number];

export interface MoveStep {
	readonly key: MoveKey;
	readonly amount: number;
	/** the deals of it with what each adds, the largest first, else in the order they were given in; none for what isn't there yet */
	readonly deals: readonly { readonly deal: number; readonly amount: number }[];
}

type Side = Pick<Ground, "won" | "mean" | "fresh"> & { readonly deals: readonly Pick<Ground["deals"][number], "deal" | "due" | "chance" | "worth">[] };

/**
 * The steps from the mean of one moment to that of another: they add up to the difference, but for the rounding of
 * floating point. What was won counts with its amount less what it had counted with its chance. Of the deals that are due,
 * one that came (new, or dated elsewhere before) counts with its chance, one that went (lost, dated elsewhere, handed on) is
 * taken away with it; what stayed is told by its chance at the amount before, and by its amount at the chance now. Deals
 * that are dated elsewhere are one step.
 *
 * @param won what was won between the two by deal, at the rates of the later: with it, what was won before at other rates adds up
 */
export function movesOf(before: Side, after: Side, won: ReadonlyMap<number, number>): MoveStep[] {
	const steps = new Map<MoveKey, Map<number, number>>(MOVES.map((key) => [key, new Map()]));
	const put = (key: MoveKey, deal: number, amount: number) => {
		if (amount !== 0) (steps.get(key) as Map<number, number>).set(deal, amount);
	};
	const was = new Map(before.deals.map((one) => [one.deal, one]));
	const is = new Map(after.deals.map((one) => [one.deal, one]));
	for (const [deal, amount] of won) put("won", deal, amount - worthOf(was.get(deal)));
	for (const deal of new Set([...was.keys(), ...is.keys()])) {
		const [old, now] = [won.has(deal) ? undefined : was.get(deal), is.get(deal)];
		put("elsewhere", deal, (now?.due ? 0 : worthOf(now)) - (old?.due ? 0 : worthOf(old)));
		if (old?.due && now?.due) {
			const byChance = (now.chance - old.chance) * old.worth;
			put(byChance > 0 ? "chancesUp" : "chancesDown", deal, byChance);
			put("amounts", deal, now.chance * (now.worth - old.worth));
		} else if (now?.due) put("new", deal, worthOf(now));
		else if (old?.due) put("gone", deal, -worthOf(old));
	}
	const told = MOVES.map((key): MoveStep => {
		const deals = [...(steps.get(key) as Map<number, number>)]
			.map(([deal, amount]) => ({ deal, amount }))
			.sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount));
		return { key, amount: deals.reduce((sum, { amount }) => sum + amount, 0), deals };
	});
	// What had been won before may read otherwise now: by other rates, or taken back.
	const wonBefore = after.won - [...won.values()].reduce((sum, amount) => sum + amount, 0) - before.won;
	return told.map((step) => {
		if (step.key === "amounts") return { ...step, amount: step.amount + wonBefore };
		if (step.key === "fresh") return { ...step, amount: after.fresh - before.fresh };
		return step;
	});
}

const worthOf = (one: { readonly chance: number; readonly worth: number } | undefined) => (one ? one.chance * one.worth : 0);
