import { ownerIn, type Scope } from "@/core/bridge/scope";
import type { Company, DealBlock } from "@/core/company";
import { addedUp, type CountsByPerson, contactCounts } from "@/core/contact/counts";
import { derive, keyOf } from "@/core/derive";
import { NONE } from "@/core/history/columns";
import { kindIn } from "@/core/period/counted";
import { workingDayOf } from "@/core/period/pace";
import { gathered, surveyOn } from "@/core/survey";
import { type Day, formatDay } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { connection } from "@/data/db";
import { type ContactSpan, looseContactCounts } from "@/data/queries/contacts";
import { lateTasks } from "@/features/tasks";
import type { Context } from "@/platform/context";
import type { TeamMetrics } from "../table/figures";
import type { Group } from "./groups";

/** Contacts by person, in a period up to a day: kept block by block; of no deal until an import brings more of them. */
export async function contactsOn(context: Context, period: Period, day: Day): Promise<CountsByPerson> {
	const { company, accounts, personIndex } = context.organisation;
	const key = keyOf(period.start, period.end, day);
	const ofNoDeal = await derive(accounts, "contacts of no deal", key, () => looseContactCounts(connection().db, contactSpan(context, period, day)));
	const loose = new Map([...ofNoDeal].map(([id, counts]) => [personIndex.get(id) ?? NONE, counts]));
	const inBlock = (block: DealBlock) =>
		derive(block, "contacts", key, () =>
			contactCounts(
				block.facts.map(({ activities }) => activities),
				period,
				day,
			),
		);
	return derive(company, "contacts", keyOf(key, ofNoDeal), () => addedUp([loose, ...company.blocks.map(inBlock)]));
}

/** A period as contacts are asked for. */
export const contactSpan = ({ organisation }: Context, { start, end }: Period, day: Day): ContactSpan => ({
	from: formatDay(start),
	to: formatDay(end),
	seen: formatDay(day),
	zone: organisation.company.rules.zone.name,
});

/** How many of each owner or assignee. */
type ByPerson = ReadonlyMap<number, number>;

/** Gives what is known around groups of deals, or around all of some people's. */
export async function teamMetricsOf(
	context: Context,
	period: Period,
	scope: Scope,
	day: Day,
): Promise<(group: Pick<Group, "people" | "holds">) => TeamMetrics> {
	const { organisation } = context;
	const { company } = organisation;
	const contacts = await contactsOn(context, period, day);
	const late = lateTasks(context, scope, day);
	const lateBy = countsBy(late.map(({ assignee }) => assignee));
	const overdue = overdueOn(company, period, day);
	const days = workingDayOf(company.rules.calendar, period, day);
	return ({ people, holds }) => {
		const counts = people && [...people].flatMap((person) => contacts.get(person) ?? []);
		const done = counts?.reduce((sum, one) => sum + one.done, 0) ?? 0;
		const { deals } = surveyOn(company, day);
		return {
			overdue: overdue.filter((one) => ownerIn(scope, one.owner) && holds(one.deal, one.owner)).length,
			lateTasks: people ? countOf(lateBy, people) : late.filter((task) => task.deal !== NONE && holds(task.deal, deals[task.deal]?.owner ?? NONE)).length,
			contacts: counts && { done, aDay: days ? done / days : null, undone: counts.reduce((sum, one) => sum + one.undone, 0) },
		};
	};
}

/** Open deals of a period whose close date is past, with their owners. */
const overdueOn = (company: Company, period: Period, day: Day) =>
	gathered(surveyOn(company, day), "overdue", keyOf(period.start, period.end, day), (block) =>
		block.deals.flatMap((seen) =>
			seen?.status === "open" && seen.close < day && kindIn(period, seen.status, seen.close, 0) === "open" ? [{ deal: seen.deal, owner: seen.owner }] : [],
		),
	);

function countsBy(people: readonly number[]): ByPerson {
	const counts = new Map<number, number>();
	for (const person of people) counts.set(person, (counts.get(person) ?? 0) + 1);
	return counts;
}

const countOf = (counts: ByPerson, people: ReadonlySet<number>) => [...people].reduce((sum, person) => sum + (counts.get(person) ?? 0), 0);
