import { sql } from "drizzle-orm";
import { z } from "zod";
import type { Scope } from "@/core/bridge/scope";
import type { DealBlock } from "@/core/company";
import { isTouchAt } from "@/core/contact/activities";
import { contactsADay, type Span, spansBefore, workedIn } from "@/core/contact/usual";
import { derive, keyOf } from "@/core/derive";
import { NONE } from "@/core/history/columns";
import { worksOn } from "@/core/people/person";
import { type Day, formatDay, NO_DAY, parseDay } from "@/core/time/day";
import { connection } from "@/data/db";
import type { OrganisationState } from "@/data/organisation/state";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dayAsked, periodAsked } from "@/platform/days";
import { Fault } from "@/platform/fault";
import { reaches, scopeOf } from "@/platform/reach";

const whole = z.number().int();
export const activitySchema = z
	.object({
		people: z.array(
			z.object({
				id: z.string(),
				touches: whole,
				workingDays: whole,
				perDay: z.number().nullable(),
				usual: z.number().nullable().meta({ description: "the median of the eight spans of as many working days before; null under three" }),
				kinds: z.record(z.string(), whole),
				planned: whole.meta({ description: "still to be done on the day it is seen" }),
				notDone: whole.meta({ description: "planned for a day that has passed, and not done" }),
			}),
		),
	})
	.meta({ id: "Activity" });

/** Something a person did with buyers, or had planned, as known on a day. */
interface Deed {
	readonly person: number;
	readonly day: Day;
	readonly kind: string;
	readonly planned: boolean;
}

/** All deeds of some days, of all people, as known on one; block by block, so that a write costs its own. */
async function deedsOf(organisation: OrganisationState, { start, end }: Span, seen: Day): Promise<readonly Deed[]> {
	const { company, accounts } = organisation;
	const key = keyOf(start, end, seen);
	const loose = await derive(accounts, "deeds of no deal", key, () => looseDeeds(organisation, { start, end }, seen), 4);
	return derive(
		company,
		"deeds",
		keyOf(key, loose),
		() => [...loose, ...company.blocks.flatMap((block) => derive(block, "deeds", key, () => deedsIn(block, { start, end }, seen), 4))],
		4,
	);
}

function deedsIn({ facts }: DealBlock, { start, end }: Span, seen: Day): Deed[] {
	const found: Deed[] = [];
	for (const { activities } of facts) {
		const { columns } = activities;
		for (let row = activities.from; row < activities.end; row++) {
			const person = columns.by[row] as number;
			if (person === NONE || (columns.recorded[row] as Day) > seen) continue;
			const isLater = (columns.settled[row] as Day) > seen;
			const planned = isLater || columns.planned[row] === 1;
			const day = (isLater ? columns.plannedFor[row] : columns.day[row]) as Day;
			if (day < start || day > end || day === NO_DAY || (!planned && (day > seen || !isTouchAt(columns, row)))) continue;
			found.push({ person, day, kind: columns.kinds[columns.kind[row] as number] as string, planned });
		}
	}
	return found;
}

async function looseDeeds({ company, personIndex }: OrganisationState, { start, end }: Span, seen: Day): Promise<Deed[]> {
	const { zone } = company.rules;
	const until = new Date(zone.instantAt(seen + 1, 0)).toISOString();
	const { rows } = await connection().db.execute(sql`
		select by_id, kind, planned, day::text as day from (
			select by_id, kind, direction, (state = 'planned' or settled_at >= ${until}) is true as planned,
				(case when settled_at >= ${until} then planned_for else at end at time zone ${zone.name})::date as day
			from activities where deal_id is null and by_id is not null and (recorded_at is null or recorded_at < ${until})
				and ((at >= ${formatDay(start)}::date - 1 and at < ${formatDay(end)}::date + 2) or (planned_for >= ${formatDay(start)}::date - 1 and planned_for < ${formatDay(end)}::date + 2))
		) a where day between ${formatDay(start)}::date and ${formatDay(end)}::date
			and (planned or (direction <> 'none' and day <= ${formatDay(seen)}::date))`);
	return rows.map((row) => ({
		person: personIndex.get(String(row.by_id)) ?? NONE,
		day: parseDay(String(row.day)) ?? NO_DAY,
		kind: String(row.kind),
		planned: row.planned === true,
	}));
}

/** What one of ours did in a span, and had planned in it. */
export interface PersonActivity {
	readonly person: number;
	readonly touches: number;
	readonly workingDays: number;
	readonly perDay: number | null;
	readonly usual: number | null;
	readonly kinds: Readonly<Record<string, number>>;
	readonly planned: number;
	readonly notDone: number;
}

/**
 * What some people did with buyers in a span up to a day, held against what is usual for each: reps and managers who
 * worked here in it, and whoever did anything.
 */
export async function activityOf(organisation: OrganisationState, asked: Span, seen: Day, scope: Scope): Promise<PersonActivity[]> {
	const { calendar } = organisation.company.rules;
	// Days to come are planned for, and nobody has worked on them yet.
	const span = { start: asked.start, end: Math.max(asked.start - 1, Math.min(asked.end, seen)) };
	const first = spansBefore(span, calendar).at(-1)?.start ?? span.start;
	const deeds = await deedsOf(organisation, { start: first, end: asked.end }, seen);
	const byPerson = new Map<number, Deed[]>();
	for (const deed of deeds) {
		const known = byPerson.get(deed.person);
		if (known) known.push(deed);
		else byPerson.set(deed.person, [deed]);
	}
	return organisation.people.flatMap((one, person): PersonActivity[] => {
		if (!reaches(scope, person)) return [];
		const works = (day: Day) => worksOn(one, day);
		const own = byPerson.get(person) ?? [];
		const inSpan = own.filter(({ day }) => day >= asked.start);
		const workingDays = workedIn(span, calendar, works);
		const sells = one.role === "rep" || one.role === "manager";
		if (!inSpan.length && !(sells && workingDays)) return [];
		const touched = own.filter(({ planned }) => !planned);
		const count = ({ start, end }: Span) => touched.reduce((sum, { day }) => (day >= start && day <= end ? sum + 1 : sum), 0);
		const kinds: Record<string, number> = {};
		for (const { kind, planned } of inSpan) if (!planned) kinds[kind] = (kinds[kind] ?? 0) + 1;
		const standing = inSpan.filter(({ planned }) => planned);
		const notDone = standing.filter(({ day }) => day < seen).length;
		return [{ person, touches: count(span), workingDays, ...contactsADay(span, calendar, works, count), kinds, planned: standing.length - notDone, notDone }];
	});
}

/** Contacts by person over some days, as the API tells of them. */
export const readActivity = query(
	"accounts.activity",
	"readAccounts",
	async (
		context: Context,
		asked: {
			readonly from: string;
			readonly to: string;
			readonly as_of?: string | undefined;
			readonly team?: string | undefined;
			readonly owner?: string | undefined;
		},
	) => {
		const { organisation } = context;
		const seen = dayAsked(context, "as_of", asked.as_of);
		const { start, end } = periodAsked(asked.from, asked.to);
		if (end - start > MOST_DAYS) throw new Fault(400, "Bad request", `from and to are more than ${MOST_DAYS} days apart.`);
		const found = await activityOf(organisation, { start, end }, seen, scopeOf(context, asked.team, asked.owner));
		const people = found.map(({ person, ...one }) => ({ id: organisation.people[person]?.id ?? "", ...one, kinds: { ...one.kinds } }));
		return { people: people.sort((a, b) => (a.id < b.id ? -1 : 1)) };
	},
);

/** Nine times as many days are looked at. */
const MOST_DAYS = 400;
