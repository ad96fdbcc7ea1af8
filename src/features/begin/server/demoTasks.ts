import { and, asc, eq, gte, inArray, isNotNull, sql } from "drizzle-orm";
import type { DealSeen } from "@/core/dealSeen";
import { surveyOn } from "@/core/survey";
import type { Calendar } from "@/core/time/calendar";
import { type Day, formatDay } from "@/core/time/day";
import type { Tx } from "@/data/db";
import type { OrganisationState } from "@/data/organisation/state";
import { rests, taskChanges, tasks } from "@/data/schema";
import { newId } from "@/platform/ids";

const WEEKS = 13;
const MORNING = 9 * 3_600_000;

/** What somebody asks for who has seen that a flag is lit. */
const TITLES: Readonly<Record<string, string>> = {
	"reply-owed": "Answer what they asked",
	stalled: "Get a conversation with the buyer on the calendar",
	"no-next-step": "Set the next step with a date",
	slipped: "Agree a real close date with the buyer",
	overdue: "Agree a real close date with the buyer",
	"under-qualified": "Ask who signs, and meet them",
};
const HANDED_BACK = ["They asked for somebody who may speak about price.", "It lies with their lawyer until Monday."];
const MINE = ["Look through this one before the weekly call", "Ring the one who signs, before the month ends"];
const ON_HOLD = ["Their hall is being rebuilt until then", "They wait for the word on the subsidy"];

/**
 * What people gave each other after looking at the deals: tasks name flags that were lit on their day, some were handed
 * back, some wait for the buyer's word, deals are on hold, and each manager has tasks of their own on every day of the week.
 */
export async function writeDemoTasks(tx: Tx, organisation: OrganisationState, today: Day): Promise<void> {
	const { company } = organisation;
	const { zone, calendar } = company.rules;
	await nameWhatWasLit(tx, organisation, today);
	const at = (day: Day) => new Date(zone.instantAt(day, MORNING));
	const idOf = (one: DealSeen) => organisation.deals[one.deal]?.id ?? "";
	// Deals of the story stay as they are told, and an open task would be the next step that others lack.
	const seen = surveyOn(company, today)
		.deals.filter((one): one is DealSeen => one?.status === "open")
		.filter((one) => !idOf(one).startsWith("story") && !litOf(one).includes("no-next-step"));
	const days = Array.from({ length: 5 }, (_, i) => calendar.add(today - 1, i + 1));
	const managers = organisation.people.filter((person) => person.role === "manager");
	// Managers: two of their own team's deals at act, due on days that follow one another.
	for (const [m, manager] of managers.entries()) {
		const theirs = seen
			.filter(({ owner, attention }) => attention.level === "act" && (organisation.people[owner]?.team === manager.team || manager.team === "Emberwick"))
			.sort((a, b) => b.amountBase - a.amountBase)
			.slice(m === 0 ? 3 : 0, m === 0 ? 5 : 2);
		for (const [i, one] of theirs.entries())
			await tx.insert(tasks).values({
				id: newId("task"),
				dealId: idOf(one),
				title: MINE[i % MINE.length] ?? "",
				assigneeId: manager.id,
				dueOn: formatDay(days[(m + i * 2) % days.length] ?? today),
				createdAt: at(back(calendar, today, 2)),
				state: "open",
				flags: litOf(one).slice(0, 1),
				createdById: manager.id,
				importance: i === 0 ? "high" : "usual",
			});
	}
	await fillDays(tx, organisation, seen, days);
	await handBack(tx, organisation, today);
	await wait(tx, organisation, today);
	// Deals on hold: lit, of the other teams, so that the North is all as it was.
	const held = seen
		.filter(({ owner, attention }) => attention.level === "watch" && organisation.people[owner]?.team === "Partners")
		.sort((a, b) => b.amountBase - a.amountBase)
		.slice(0, ON_HOLD.length);
	const giver = managers.find(({ team }) => team === "Partners");
	for (const [i, one] of held.entries())
		await tx.insert(rests).values({
			id: newId("rest"),
			dealId: idOf(one),
			state: "given",
			fromDay: formatDay(back(calendar, today, 3)),
			untilDay: formatDay(calendar.add(today, 9 + 5 * i)),
			reason: ON_HOLD[i] ?? "",
			flags: litOf(one),
			askedById: organisation.people[one.owner]?.id ?? null,
			byId: giver?.id ?? null,
			at: at(back(calendar, today, 3)),
		});
}

/** So many working days before a day. */
function back(calendar: Calendar, day: Day, n: number): Day {
	let then = day;
	for (let i = 0; i < n; i++) then = calendar.lastOnOrBefore(then - 1);
	return then;
}

const litOf = (seen: DealSeen): string[] => seen.flags.map(({ code }) => code);

/** Tasks of the last weeks name what was lit when they were given: of the flags they name, or else the gravest, and ask for that. */
async function nameWhatWasLit(tx: Tx, { company, dealIndex }: OrganisationState, today: Day): Promise<void> {
	const { zone } = company.rules;
	const from = new Date(zone.instantAt(today - 7 * WEEKS, 0));
	const given = await tx
		.select({ id: tasks.id, dealId: tasks.dealId, title: tasks.title, flags: tasks.flags, createdAt: tasks.createdAt })
		.from(tasks)
		.where(and(gte(tasks.createdAt, from), isNotNull(tasks.dealId), sql`cardinality(${tasks.flags}) > 0`));
	for (const task of given) {
		const seen = surveyOn(company, zone.dayOf(task.createdAt.getTime())).deals[dealIndex.get(task.dealId ?? "") ?? -1];
		const lit = seen ? litOf(seen) : [];
		const named = task.flags.filter((code) => lit.includes(code));
		if (named.length === task.flags.length) continue;
		// What the story asks for stays in its own words.
		const other = task.dealId?.startsWith("story") ? undefined : lit.find((code) => code in TITLES);
		const set = named.length ? { flags: named } : other ? { flags: [other], title: TITLES[other] ?? task.title } : { flags: [] };
		await tx.update(tasks).set(set).where(eq(tasks.id, task.id));
	}
}

/** Open tasks of reps, the first due first. */
const openTasks = (tx: Tx, organisation: OrganisationState, team: string, today: Day) =>
	tx
		.select()
		.from(tasks)
		.where(
			and(
				eq(tasks.state, "open"),
				gte(tasks.dueOn, formatDay(today)),
				inArray(
					tasks.assigneeId,
					organisation.people.filter((person) => person.role === "rep" && person.team === team).map(({ id }) => id),
				),
			),
		)
		.orderBy(asc(tasks.dueOn), asc(tasks.id));

/** Each team has something due on each of some days: what a rep's manager asked for after looking at a lit deal. */
async function fillDays(tx: Tx, organisation: OrganisationState, seen: readonly DealSeen[], days: readonly Day[]): Promise<void> {
	const { zone, calendar } = organisation.company.rules;
	const [today = 0] = days;
	for (const manager of organisation.people.filter((person) => person.role === "manager")) {
		const due = new Set((await openTasks(tx, organisation, manager.team ?? "", today)).map(({ dueOn }) => dueOn));
		const lit = seen
			.filter(({ owner, flags }) => organisation.people[owner]?.team === manager.team && flags.some(({ code }) => code in TITLES))
			.sort((a, b) => b.attention.score - a.attention.score);
		const asked = new Map<string, number>();
		for (const [i, day] of days.entries()) {
			const one = lit[2 + i];
			// Of what is lit that which was asked for least, so that not all is the same.
			const [flag] = one
				? litOf(one)
						.filter((code) => code in TITLES)
						.sort((a, b) => (asked.get(a) ?? 0) - (asked.get(b) ?? 0))
				: [];
			if (!one || !flag || due.has(formatDay(day))) continue;
			asked.set(flag, (asked.get(flag) ?? 0) + 1);
			await tx.insert(tasks).values({
				id: newId("task"),
				dealId: organisation.deals[one.deal]?.id ?? "",
				title: TITLES[flag] ?? "",
				assigneeId: organisation.people[one.owner]?.id ?? null,
				dueOn: formatDay(day),
				createdAt: new Date(zone.instantAt(back(calendar, today, 2), MORNING)),
				state: "open",
				flags: [flag],
				createdById: manager.id,
			});
		}
	}
}

/** A task of each of two teams was handed back to their manager yesterday. */
async function handBack(tx: Tx, organisation: OrganisationState, today: Day): Promise<void> {
	const { zone, calendar } = organisation.company.rules;
	for (const [i, team] of ["North", "South"].entries()) {
		const manager = organisation.people.find((person) => person.role === "manager" && person.team === team);
		const [task] = await openTasks(tx, organisation, team, today);
		if (!manager || !task) continue;
		const { title, dueOn, assigneeId, state, note, importance, checklist } = task;
		await tx.insert(taskChanges).values({
			taskId: task.id,
			at: new Date(zone.instantAt(back(calendar, today, 1), MORNING)),
			byId: assigneeId,
			what: "handed back",
			before: { title, dueOn, assigneeId, team: task.team, state, doneAt: null, note, importance, checklist },
			why: HANDED_BACK[i] ?? null,
		});
		await tx.update(tasks).set({ assigneeId: manager.id, createdById: manager.id }).where(eq(tasks.id, task.id));
	}
}

/** Two tasks of each team wait for the buyer's word, and come back by themselves if it doesn't come. */
async function wait(tx: Tx, organisation: OrganisationState, today: Day): Promise<void> {
	const { calendar } = organisation.company.rules;
	for (const team of ["North", "South", "Partners"]) {
		const waiting = (await openTasks(tx, organisation, team, today)).slice(-2);
		if (!waiting.length) continue;
		await tx
			.update(tasks)
			.set({ remindOn: formatDay(calendar.add(today, 3)), remindUnlessAnswered: true })
			.where(
				inArray(
					tasks.id,
					waiting.map(({ id }) => id),
				),
			);
	}
}
