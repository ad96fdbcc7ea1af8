import { ownerIn, type Scope } from "@/core/bridge/scope";
import { NONE } from "@/core/history/columns";
import { type CountedByOwner, countByOwner, kindIn } from "@/core/period/figures";
import { workingDayOf } from "@/core/period/pace";
import { type Day, formatDay } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { connection } from "@/data/db";
import { type ContactCounts, contactCounts } from "@/data/queries/contacts";
import { lateTasks } from "@/features/tasks";
import { cached } from "@/platform/cached";
import type { Context } from "@/platform/context";
import { surveyOn } from "@/platform/survey";
import type { Around } from "../table/figures";
import type { Group } from "./groups";

/** What a period holds by owner, as seen on a day at the rates of another; kept with the company. */
export function countedOn({ organisation: { company } }: Context, period: Period, day: Day, ratesOn: Day): CountedByOwner {
	const key = `${period.start} ${period.end} ${day} ${ratesOn}`;
	return cached(company, "period", key, () => countByOwner(company, surveyOn(company, day), period, ratesOn), 60);
}

/** Contacts by the id of whoever made them, in a period up to a day; kept until something changes. */
export const contactsOn = ({ organisation }: Context, { start, end }: Period, day: Day): Promise<ReadonlyMap<string, ContactCounts>> =>
	cached(organisation, "contacts", `${start} ${end} ${day}`, () =>
		contactCounts(connection().db, {
			from: formatDay(start),
			to: formatDay(end),
			seen: formatDay(day),
			zone: organisation.company.rules.zone.name,
		}),
	);

/** Gives what is known around groups of deals, or around all of some people's. */
export async function aroundOf(context: Context, period: Period, scope: Scope, day: Day): Promise<(group: Pick<Group, "people" | "holds">) => Around> {
	const { organisation } = context;
	const { company } = organisation;
	const contacts = await contactsOn(context, period, day);
	const late = lateTasks(context, scope, day);
	const overdue = surveyOn(company, day).deals.flatMap((seen) =>
		seen?.status === "open" && seen.close < day && ownerIn(scope, seen.owner) && kindIn(period, seen.status, seen.close, 0) === "open"
			? [{ deal: seen.deal, owner: seen.owner }]
			: [],
	);
	const days = workingDayOf(company.rules.calendar, period, day);
	return ({ people, holds }) => {
		const own = (task: { assignee: number; deal: number }) =>
			people ? people.has(task.assignee) : task.deal !== NONE && holds(task.deal, surveyOn(company, day).deals[task.deal]?.owner ?? NONE);
		const counts = people && [...people].flatMap((person) => contacts.get(organisation.people[person]?.id ?? "") ?? []);
		const done = counts?.reduce((sum, one) => sum + one.done, 0) ?? 0;
		return {
			overdue: overdue.filter((one) => holds(one.deal, one.owner)).length,
			lateTasks: late.filter(own).length,
			contacts: counts && { done, aDay: days ? done / days : null, undone: counts.reduce((sum, one) => sum + one.undone, 0) },
		};
	};
}
