import { isOpenOn, type TaskFacts, taskOn } from "@/core/tasks/task";
import { type Day, formatDay, isoOrNull, NO_DAY } from "@/core/time/day";
import type { OrganisationState } from "@/data/organisation/state";
import type { Context } from "@/platform/context";
import { derivedFor } from "@/platform/derivedFor";
import { accountName, dealName, ownerShort } from "@/platform/names";
import { reaches } from "@/platform/reach";
import type { Viewpoint } from "@/platform/viewpoint";
import { type LostLine, lostLines } from "./accountDeals";

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
export function lostDeals(context: Context, viewpoint: Viewpoint, look: { by: LostBy; only: string | null }): LostView {
	const { organisation } = context;
	const { day } = viewpoint.seen;
	const all = derivedFor(context, viewpoint, "lost deals", () =>
		lostLines(organisation, day)
			.filter(({ owner, closedDay }) => day - closedDay <= LOST_WITHIN && reaches(viewpoint.whose.scope, owner))
			.sort((a, b) => b.amount - a.amount || (a.id < b.id ? -1 : 1)),
	);
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
		deals: shown.slice(0, SHOWN).map((line) => lostDeal(organisation, line, day)),
		count: shown.length,
	};
}

function lostDeal(organisation: OrganisationState, { deal, owner, id, amount, closedDay, reason, competitor }: LostLine, day: Day): LostDeal {
	const { company } = organisation;
	const suggested = company.rules.calendar.add(Math.max(closedDay + COME_BACK_AFTER, day + 7) - 1, 1);
	return {
		id,
		name: dealName(organisation, deal, day),
		account: accountName(organisation, deal, day),
		owner: ownerShort(organisation, owner),
		amount,
		lostOn: isoOrNull(closedDay) ?? "",
		reason,
		competitor,
		suggested: formatDay(suggested),
		back: isoOrNull(backOn(company.deals[deal]?.tasks ?? [], day)),
	};
}

/** The day on which somebody is to come back: the first that an open task is due. */
const backOn = (tasks: readonly TaskFacts[], day: Day): Day =>
	tasks
		.map((task) => taskOn(task, day))
		.reduce((first, task) => (isOpenOn(task, day) && task.due !== NO_DAY && (first === NO_DAY || task.due < first) ? task.due : first), NO_DAY);
