import { sql } from "drizzle-orm";
import { z } from "zod";
import type { Scope } from "@/core/bridge/scope";
import type { DealBlock } from "@/core/company";
import { isTouchAt } from "@/core/contact/activities";
import { contactsADay, type Span, spansBefore, workedIn } from "@/core/contact/usual";
import { derive, keyOf } from "@/core/derive";
import { NONE } from "@/core/history/columns";
import { worksOn } from "@/core/people/person";
import { type Day, formatDay, parseDay } from "@/core/time/day";
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

/** What somebody did in each of some spans, the asked one first, and had planned in that one. */
interface Tally {
	readonly touches: number[];
	readonly kinds: Map<string, number>;
	planned: number;
	notDone: number;
}

/** Counts deeds by person as they are met; millions of activities are gone through without one of them being kept. */
function counter(asked: Span, spans: readonly Span[], seen: Day) {
	const first = Math.min(asked.start, ...spans.map(({ start }) => start));
	const last = Math.max(asked.end, ...spans.map(({ end }) => end));
	const spanOf = new Int8Array(Math.max(0, last - first + 1)).fill(-1);
	spans.forEach(({ start, end }, i) => {
		spanOf.fill(i, start - first, end - first + 1);
	});
	const tallies = new Map<number, Tally>();
	return {
		first,
		last,
		tallies,
		meet(person: number, day: Day, kind: string, planned: boolean): void {
			const place = spanOf[day - first] ?? -1;
			if (planned ? day < asked.start || day > asked.end : place < 0) return;
			let own = tallies.get(person);
			if (!own) {
				own = { touches: spans.map(() => 0), kinds: new Map(), planned: 0, notDone: 0 };
				tallies.set(person, own);
			}
			if (planned) {
				if (day < seen) own.notDone++;
				else own.planned++;
				return;
			}
			own.touches[place] = (own.touches[place] ?? 0) + 1;
			if (place === 0) own.kinds.set(kind, (own.kinds.get(kind) ?? 0) + 1);
		},
	};
}
type Counter = ReturnType<typeof counter>;

function countBlock({ facts }: DealBlock, { first, last, meet }: Counter, seen: Day): void {
	for (const { activities } of facts) {
		const { columns } = activities;
		for (let row = activities.from; row < activities.end; row++) {
			const person = columns.by[row] as number;
			if (person === NONE || (columns.recorded[row] as Day) > seen) continue;
			const isLater = (columns.settled[row] as Day) > seen;
			const planned = isLater || columns.planned[row] === 1;
			const day = (isLater ? columns.plannedFor[row] : columns.day[row]) as Day;
			if (day < first || day > last || (!planned && (day > seen || !isTouchAt(columns, row)))) continue;
			meet(person, day, columns.kinds[columns.kind[row] as number] as string, planned);
		}
	}
}

/** The same of what belongs to no deal. */
async function countLoose({ company, personIndex }: OrganisationState, { first, last, meet }: Counter, seen: Day): Promise<void> {
	const { zone } = company.rules;
	const until = new Date(zone.instantAt(seen + 1, 0)).toISOString();
	const [from, to] = [formatDay(first), formatDay(last)];
	const { rows } = await connection().db.execute(sql`
		select by_id, kind, planned, day::text as day from (
			select by_id, kind, direction, (state = 'planned' or settled_at >= ${until}) is true as planned,
				(case when settled_at >= ${until} then planned_for else at end at time zone ${zone.name})::date as day
			from activities where deal_id is null and by_id is not null and (recorded_at is null or recorded_at < ${until})
				and ((at >= ${from}::date - 1 and at < ${to}::date + 2) or (planned_for >= ${from}::date - 1 and planned_for < ${to}::date + 2))
		) a where day between ${from}::date and ${to}::date and (planned or (direction <> 'none' and day <= ${formatDay(seen)}::date))`);
	for (const row of rows) {
		const person = personIndex.get(String(row.by_id));
		const day = parseDay(String(row.day));
		if (person !== undefined && day !== null) meet(person, day, String(row.kind), row.planned === true);
	}
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
 * worked here in it, and everybody who did anything.
 */
export async function activityOf(organisation: OrganisationState, asked: Span, seen: Day, scope: Scope): Promise<PersonActivity[]> {
	const { company, accounts, people } = organisation;
	const { calendar } = company.rules;
	// Days to come are planned for, and nobody has worked on them yet.
	const span = { start: asked.start, end: Math.max(asked.start - 1, Math.min(asked.end, seen)) };
	const spans = [span, ...spansBefore(span, calendar)];
	const tallies = await derive(company, "deeds", keyOf(asked.start, asked.end, seen, accounts), async () => {
		const counting = counter(asked, spans, seen);
		await countLoose(organisation, counting, seen);
		for (const block of company.blocks) countBlock(block, counting, seen);
		return counting.tallies;
	});
	return people.flatMap((one, person): PersonActivity[] => {
		if (!reaches(scope, person)) return [];
		const works = (day: Day) => worksOn(one, day);
		const own = tallies.get(person);
		const workingDays = workedIn(span, calendar, works);
		const sells = one.role === "rep" || one.role === "manager";
		const touches = own?.touches[0] ?? 0;
		const [planned, notDone] = [own?.planned ?? 0, own?.notDone ?? 0];
		if (!touches && !planned && !notDone && !(sells && workingDays)) return [];
		const count = ({ start }: Span) => own?.touches[spans.findIndex((other) => other.start === start)] ?? 0;
		return [{ person, touches, workingDays, ...contactsADay(span, calendar, works, count), kinds: Object.fromEntries(own?.kinds ?? []), planned, notDone }];
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
