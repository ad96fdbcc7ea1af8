import { derive } from "@/core/derive";
import { openDaysOf, type Push, pushesWithin, pushRate } from "@/core/patterns/pushes";
import { rankSum } from "@/core/statistics/rankSum";
import { PUSH_DAYS } from "../commits/pushes";
import { betterOf, type HabitGround, type HabitRow, habit, shareRow } from "./habit";

/** a deal that was theirs for less says little of how often it is pushed */
const LEAST_DAYS = 28;

interface Pushed {
	readonly owner: number;
	readonly days: number;
	readonly pushes: number;
}

/** Everybody’s deals with how long they were open and how often they were pushed, by owner; and the pushes. */
const pushedOf = ({ context: { organisation }, day }: HabitGround): { readonly deals: readonly Pushed[]; readonly pushes: readonly Push[] } =>
	derive(organisation.company, "pushed", day, () => {
		const pushes = pushesWithin(organisation.company, day, PUSH_DAYS);
		const counts = new Map<string, number>();
		for (const { deal, owner } of pushes) counts.set(`${deal} ${owner}`, (counts.get(`${deal} ${owner}`) ?? 0) + 1);
		const deals = openDaysOf(organisation.company, day, PUSH_DAYS).map(({ deal, owner, days }) => ({
			owner,
			days,
			pushes: counts.get(`${deal} ${owner}`) ?? 0,
		}));
		return { deals, pushes };
	});

/** How often they push, deal by deal, and how much of it at months’ ends. */
export const pushes = habit({
	place: "commits",
	rows(ground): HabitRow[] {
		const { deals, pushes } = pushedOf(ground);
		const isOwn = ({ owner }: { readonly owner: number }) => owner === ground.owner;
		const [own, others] = [deals.filter(isOwn), deals.filter((one) => !isOwn(one))];
		const rates = (list: readonly Pushed[]) => list.filter(({ days }) => days >= LEAST_DAYS).map((one) => one.pushes / one.days);
		const rate = (list: readonly Pushed[]) =>
			pushRate(
				sum(list, (one) => one.pushes),
				sum(list, ({ days }) => days),
			);
		const said = (value: number | null) => value?.toFixed(1) ?? "–";
		const late = (list: readonly Push[]) => ({ k: list.filter(({ monthEnd }) => monthEnd).length, n: list.length });
		return [
			{
				label: "Pushes for 100 open deal-weeks",
				own: said(rate(own)),
				others: said(rate(others)),
				p: rankSum(rates(own), rates(others)),
				better: betterOf(rate(own), rate(others), false),
			},
			...shareRow("Pushes made in a month’s last three working days", late(pushes.filter(isOwn)), late(pushes.filter((one) => !isOwn(one))), false),
		];
	},
});

const sum = (list: readonly Pushed[], value: (one: Pushed) => number) => list.reduce((all, one) => all + value(one), 0);
