import { derive } from "@/core/derive";
import { type Closed, closedWithin } from "@/core/patterns/closed";
import { discountOf, type Late, lateChanges, type PricedLine } from "@/core/patterns/priced";
import { rankSum } from "@/core/statistics/rankSum";
import { LEAST } from "@/core/statistics/wilson";
import { surveyOn } from "@/core/survey";
import { grouped } from "../groups";
import { awayOf, type Line, linesOf, lostOf } from "../priced";
import { percent } from "../words";
import { betterOf, type HabitGround, type HabitRow, habit } from "./habit";

interface Given {
	readonly won: readonly Closed[];
	readonly late: readonly Late[];
	readonly lines: readonly Line[];
}

/** What was won within a year, by everybody, and what was given away for it. */
const givenIn = ({ context, day }: HabitGround): Promise<Given> => {
	const { company } = context.organisation;
	return derive(company, "given away", day, async () => {
		const won = closedWithin(company, surveyOn(company, day), null, day).filter((one) => one.won);
		return { won, late: lateChanges(company, won, day), lines: await linesOf(context, won) };
	});
};

/** What they give off list prices, and in the last two weeks before a win. */
export const discounts = habit({
	place: "price",
	async rows(ground): Promise<HabitRow[]> {
		const { won, late, lines } = await givenIn(ground);
		const owners = new Map(won.map(({ seen }) => [seen.deal, seen.owner]));
		const isOwn = (deal: number) => owners.get(deal) === ground.owner;
		const byDeal = [...grouped(lines, ({ deal }) => [deal])];
		return [
			row("Discount in the last two weeks before a win", late, ({ closed }) => isOwn(closed.seen.deal), awayOf, lostOf),
			row(
				"Discount off list price",
				byDeal,
				([deal]) => isOwn(deal),
				offOf,
				([, own]) => discountOf(own) ?? 0,
			),
		].flat();
	},
});

const offOf = (list: readonly (readonly [number, readonly PricedLine[]])[]): number | null => discountOf(list.flatMap(([, own]) => own));

/** A row of what is given away of all together, tested deal by deal; nothing is said of fewer than five. */
function row<T>(
	label: string,
	list: readonly T[],
	isOwn: (one: T) => boolean,
	whole: (list: readonly T[]) => number | null,
	each: (one: T) => number,
): HabitRow[] {
	const [own, others] = [list.filter(isOwn), list.filter((one) => !isOwn(one))];
	if (!list.length) return [];
	const share = (some: readonly T[]) => (some.length < LEAST ? null : whole(some));
	return [
		{
			label,
			own: percent(share(own)),
			others: percent(share(others)),
			p: rankSum(own.map(each), others.map(each)),
			better: betterOf(share(own), share(others), false),
		},
	];
}
