import { surveyOn } from "@/core/survey";
import { isOpenOn, type TaskFacts, taskOn } from "@/core/tasks/task";
import { type Day, formatDay, isoOrNull, NO_DAY } from "@/core/time/day";
import { outcomeOn } from "@/data/organisation/former";
import type { Context } from "@/platform/context";
import { ownerShort } from "@/platform/names";
import { reaches } from "@/platform/reach";
import type { Viewpoint } from "@/platform/viewpoint";

export interface LostDeal {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	readonly amount: number;
	readonly lostOn: string;
	readonly reason: string;
	readonly competitor: string;
	/** a day to come back that suggests itself */
	readonly suggested: string;
	/** the open task to come back, if there is one */
	readonly back: string | null;
}

export const LOST_BY = ["reason", "competitor"] as const;
export type LostBy = (typeof LOST_BY)[number];

export interface LostView {
	readonly by: LostBy;
	/** the largest amount first */
	readonly groups: readonly { readonly name: string; readonly count: number; readonly amount: number }[];
	/** the group whose deals are shown; null for all */
	readonly only: string | null;
	/** the largest of them */
	readonly deals: readonly LostDeal[];
	/** how many there are of what is shown */
	readonly count: number;
}

const LOST_WITHIN = 540;
const COME_BACK_AFTER = 182;
const SHOWN = 40;

/** Deals lost within the last year and a half, by reason or by competitor, each with a day to come back. The use case has checked the rights. */
export async function lostDeals(context: Context, viewpoint: Viewpoint, look: { by: LostBy; only: string | null }): Promise<LostView> {
	const all = lostOf(context, viewpoint);
	const groups = new Map<string, { name: string; count: number; amount: number }>();
	for (const deal of all) {
		const name = deal[look.by];
		const { count, amount } = groups.get(name) ?? { count: 0, amount: 0 };
		groups.set(name, { name, count: count + 1, amount: amount + deal.amount });
	}
	const shown = all.filter((deal) => look.only === null || deal[look.by] === look.only);
	return {
		by: look.by,
		groups: [...groups.values()].sort((a, b) => b.amount - a.amount || (a.name < b.name ? -1 : 1)),
		only: look.only,
		deals: shown.slice(0, SHOWN),
		count: shown.length,
	};
}

function lostOf(context: Context, viewpoint: Viewpoint): LostDeal[] {
	const { organisation } = context;
	const { calendar } = organisation.company.rules;
	const day = viewpoint.seen.day;
	return surveyOn(organisation.company, day)
		.deals.flatMap((seen, deal): LostDeal[] => {
			const name = organisation.deals[deal];
			if (!name || seen?.status !== "lost" || !reaches(viewpoint.whose.scope, seen.owner) || day - seen.closedDay > LOST_WITHIN) return [];
			const outcome = outcomeOn(name, day);
			const wanted = calendar.add(Math.max(seen.closedDay + COME_BACK_AFTER, day + 7) - 1, 1);
			return [
				{
					id: name.id,
					name: name.name || "No name",
					account: organisation.accounts.get(name.accountId ?? "")?.name || "No account",
					owner: ownerShort(organisation, seen.owner),
					amount: seen.amountBase,
					lostOn: isoOrNull(seen.closedDay) ?? "",
					reason: outcome.outcomeReason ?? "no reason given",
					competitor: outcome.competitor ?? "nobody named",
					suggested: formatDay(wanted),
					back: isoOrNull(backOn(organisation.company.deals[deal]?.tasks ?? [], day)),
				},
			];
		})
		.sort((a, b) => b.amount - a.amount || (a.id < b.id ? -1 : 1));
}

/** The day on which somebody is to come back: the first that an open task is due. */
const backOn = (tasks: readonly TaskFacts[], day: Day): Day =>
	tasks
		.map((task) => taskOn(task, day))
		.reduce((first, task) => (isOpenOn(task, day) && task.due !== NO_DAY && (first === NO_DAY || task.due < first) ? task.due : first), NO_DAY);
