import { and, asc, eq, gt, isNull, lte, or } from "drizzle-orm";
import { derive } from "@/core/derive";
import { NONE } from "@/core/history/columns";
import { worksOn } from "@/core/people/person";
import { surveyOn } from "@/core/survey";
import { isOpenOn, type TaskFacts, taskOn } from "@/core/tasks/task";
import { type Day, formatDay, isoOrNull, NO_DAY } from "@/core/time/day";
import { connection } from "@/data/db";
import { identityOn, outcomeOn } from "@/data/organisation/former";
import { isOneOf } from "@/data/queries/isOneOf";
import { accountNotes, tasks } from "@/data/schema";
import type { Context } from "@/platform/context";
import { chosenName, dealName, ownerName, ownerShort, personName } from "@/platform/names";
import type { AccountPage, PageDeal } from "./accountPageView";
import type { AccountStory } from "./readAccount";

const ORDER = ["open", "won", "lost"];

/** The deals of an account, those that are open first, then what ended last. */
export function dealsOf({ organisation }: Context, { deals }: AccountStory, day: Day): PageDeal[] {
	const { stages } = organisation.company.rules;
	const seen = surveyOn(organisation.company, day).deals;
	const found = deals.flatMap((index): (PageDeal & { readonly at: number })[] => {
		const [deal, one] = [organisation.deals[index], seen[index]];
		if (!deal || !one) return [];
		const { outcomeReason, competitor } = outcomeOn(deal, day);
		return [
			{
				id: deal.id,
				name: identityOn(deal, day).name || "No name",
				status: one.status,
				level: one.attention.level,
				stage: stages[one.stageIndex]?.name ?? "",
				stageAge: one.stageAge,
				close: isoOrNull(one.close),
				closed: isoOrNull(one.closedDay),
				amount: one.amountBase,
				owner: ownerShort(organisation, one.owner),
				why: one.status === "lost" ? [outcomeReason, competitor && `to ${competitor}`].filter(Boolean).join(", ") || null : null,
				flags: one.flags.map(({ label }) => label),
				at: one.closedDay,
			},
		];
	});
	found.sort((a, b) => ORDER.indexOf(a.status) - ORDER.indexOf(b.status) || b.at - a.at || b.amount - a.amount || (a.id < b.id ? -1 : 1));
	return found.map(({ at: _, ...deal }) => deal);
}

/** What its log may be filtered by. */
export function choicesOf({ organisation }: Context, { contacts, ties, deals }: AccountStory, day: Day): AccountPage["choices"] {
	const ours = [...new Set(ties.map(({ person }) => person))].flatMap((person) => {
		const one = organisation.people[person];
		return one && worksOn(one, day) ? [{ id: one.id, name: chosenName(organisation, person) }] : [];
	});
	return {
		kinds: [...organisation.activityKinds, "order", "deal"],
		people: [...contacts.map(({ id, name }) => ({ id, name: name || "No name" })), ...ours],
		deals: deals.flatMap((deal) => (organisation.deals[deal] ? [{ id: organisation.deals[deal].id, name: dealName(organisation, deal) }] : [])),
	};
}

/** What stays on top of its page, as it stood on a day. */
export async function notesOf({ organisation }: Context, account: string, day: Day): Promise<AccountPage["notes"]> {
	const { zone } = organisation.company.rules;
	const until = new Date(zone.instantAt(day + 1, 0));
	const rows = await connection()
		.db.select()
		.from(accountNotes)
		.where(and(eq(accountNotes.accountId, account), lte(accountNotes.at, until), or(isNull(accountNotes.endedAt), gt(accountNotes.endedAt, until))))
		.orderBy(asc(accountNotes.at), asc(accountNotes.id));
	return rows.map(({ id, body, byId, at }) => ({ id, body, by: personName(organisation, byId) ?? "Somebody", on: formatDay(zone.dayOf(at.getTime())) }));
}

/** Open tasks of the deals that are reached and of the account itself, as they stood on a day, the earliest first. */
export async function openOf({ organisation }: Context, { deals, line }: AccountStory, day: Day): Promise<AccountPage["open"]> {
	const { company, looseTasks } = organisation;
	const ofDeals = deals.flatMap((deal) => (company.deals[deal]?.tasks ?? []).map((task) => ({ task, dealId: organisation.deals[deal]?.id ?? null })));
	const own = derive(looseTasks, "loose tasks by id", "", () => new Map(looseTasks.map((task) => [task.id, task])));
	const rows = await connection().db.select({ id: tasks.id }).from(tasks).where(eq(tasks.accountId, line.account.id));
	const beside = rows.flatMap(({ id }) => own.get(id) ?? []).map((task) => ({ task, dealId: null }));
	const open = [...ofDeals, ...beside].flatMap(({ task, dealId }) => (isOpenOn(taskOn(task, day), day) ? [{ task: taskOn(task, day), dealId }] : []));
	if (!open.length) return [];
	const ids = open.map(({ task }) => task.id);
	const named = await connection().db.select({ id: tasks.id, title: tasks.title }).from(tasks).where(isOneOf(tasks.id, ids));
	const titles = new Map(named.map(({ id, title }) => [id, title]));
	const dueOf = ({ due }: TaskFacts) => (due === NO_DAY ? Number.POSITIVE_INFINITY : due);
	open.sort((a, b) => dueOf(a.task) - dueOf(b.task) || (a.task.id < b.task.id ? -1 : 1));
	return open.map(({ task: { id, due, assignee, team }, dealId }) => ({
		id,
		title: titles.get(id) ?? "",
		due: isoOrNull(due),
		late: due !== NO_DAY && due < day,
		who: assignee !== NONE ? ownerName(organisation, assignee) : team ? `anyone of ${team}` : "nobody",
		dealId,
	}));
}
