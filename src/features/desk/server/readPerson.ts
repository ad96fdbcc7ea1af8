import { and, asc, eq, isNull } from "drizzle-orm";
import { NONE } from "@/core/history/columns";
import { countFates, type Fate } from "@/core/rounds/promise";
import { type Day, formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { talkPoints } from "@/data/schema";
import { readActivity } from "@/features/accounts";
import type { DealRow } from "@/features/deals";
import { readDeals } from "@/features/deals";
import { type FindingOrProgress, type Habit, readPersonHabits } from "@/features/patterns";
import { readPeriod } from "@/features/period";
import { promisesGiven } from "@/features/rounds";
import { readFollowThrough } from "@/features/tasks";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { dealName, personName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import { reachPerson } from "@/platform/reachPerson";
import { resolveViewpoint, type ViewpointQuery } from "@/platform/viewpoint";

/** What is to be talked about with somebody. */
export interface TalkPoint {
	readonly id: string;
	readonly body: string;
	readonly by: string;
	readonly on: string;
}

/** One of ours, gathered for a talk. */
export interface PersonPage {
	readonly id: string;
	readonly name: string;
	readonly role: string;
	readonly team: string | null;
	/** where their period stands, in a sentence; null without a period that begins and ends */
	readonly headline: string | null;
	readonly figures: { readonly won: number; readonly target: number | null; readonly open: number; readonly gap: number | null } | null;
	/** their open deals, those that need most first */
	readonly deals: readonly DealRow[];
	readonly dealCount: number;
	readonly lit: number;
	/** what the past says of them beside all others; null while it is being read for the first time */
	readonly habits: FindingOrProgress<readonly Habit[]>;
	/** what they promised in rounds, and what came of it */
	readonly promised: {
		readonly counts: Record<Fate, number>;
		readonly lines: readonly {
			readonly id: string;
			readonly title: string;
			readonly dealId: string | null;
			readonly deal: string | null;
			readonly given: string;
			readonly due: string | null;
			readonly fate: Fate;
		}[];
		readonly more: number;
	};
	readonly tasks: {
		readonly given: number;
		readonly onTime: number;
		readonly late: number;
		readonly overdue: number;
		readonly open: number;
		readonly out: number;
		readonly lit: number;
	};
	readonly contacts: { readonly perDay: number | null; readonly usual: number | null; readonly touches: number; readonly notDone: number } | null;
	/** null for who isn’t to read them */
	readonly points: readonly TalkPoint[] | null;
	readonly currency: string;
	readonly seen: string;
	readonly from: string;
}

const DEALS = 12;
/** so many calendar days back each is looked at */
const LOOKS_BACK = { tasks: 91, contacts: 28, promises: 182 };
const PROMISES = 8;

/** The page of one of ours, for those who lead them or look after all, and for themselves. */
export const readPerson = query("desk.person", "readDesk", async (context: Context, asked: ViewpointQuery, id: string): Promise<PersonPage> => {
	const { organisation } = context;
	const index = reachPerson(context, id);
	const person = organisation.people[index];
	if (!person) throw notFound("person", id);
	const own = resolveViewpoint(context, { ...asked, whose: `person:${id}` });
	const { day } = own.seen;
	const { rows, currency } = readDeals(context, resolveViewpoint(context, { ...asked, whose: `person:${id}`, due: "any" }));
	const period = await readPeriod(context, own);
	const [followed, activity] = [
		readFollowThrough(context, new Set([index]), { start: day - LOOKS_BACK.tasks + 1, end: day }, day),
		await readActivity(context, { from: formatDay(day - LOOKS_BACK.contacts + 1), to: formatDay(day), as_of: formatDay(day), owner: id }),
	];
	const contacts = activity.people.find((one) => one.id === id);
	return {
		id,
		name: person.name,
		role: person.role,
		team: person.team,
		headline: period?.headline ?? null,
		figures: period && { won: period.figures.won.amount, target: period.figures.target, open: period.figures.open.amount, gap: period.figures.gap },
		deals: [...rows].sort((a, b) => b.score - a.score || b.amount - a.amount).slice(0, DEALS),
		dealCount: rows.length,
		lit: rows.filter(({ level }) => level !== "calm").length,
		habits: await readPersonHabits(context, id, day),
		promised: await promisedBy(context, id, day),
		tasks: {
			given: followed.set,
			onTime: followed.onTime,
			late: followed.late,
			overdue: followed.overdue,
			open: followed.open,
			out: followed.outcomes.out,
			lit: followed.outcomes.lit,
		},
		contacts: contacts ? { perDay: contacts.perDay, usual: contacts.usual, touches: contacts.touches, notDone: contacts.notDone } : null,
		points: mayTalk(context, id) ? await pointsOf(context, id) : null,
		currency,
		seen: formatDay(day),
		from: formatDay(day - LOOKS_BACK.tasks + 1),
	};
});

/** Whether somebody leads a person: a manager whose reach they are in, and who isn't them. */
export const mayTalk = (context: Context, id: string): boolean =>
	context.actor.person.role === "manager" && context.actor.person.id !== id && reaches(reachOf(context.organisation, context.actor), reachPerson(context, id));

/** What they promised in rounds within half a year: what is late or to come first, then the newest. */
async function promisedBy(context: Context, id: string, day: Day): Promise<PersonPage["promised"]> {
	const own = (await promisesGiven(context, { from: day - LOOKS_BACK.promises + 1, to: day })).filter(({ whoId }) => whoId === id);
	const waits = (fate: Fate) => Number(fate === "not done" || fate === "open");
	const lines = own.sort((a, b) => waits(b.fate) - waits(a.fate) || (a.given < b.given ? 1 : -1) || (a.id < b.id ? -1 : 1));
	return {
		counts: countFates(own.map(({ fate }) => fate)),
		lines: lines.slice(0, PROMISES).map(({ id: taskId, title, dealId, given, due, fate }) => ({
			id: taskId,
			title,
			dealId,
			deal: dealId === null ? null : dealName(context.organisation, context.organisation.dealIndex.get(dealId) ?? NONE),
			given,
			due,
			fate,
		})),
		more: Math.max(0, lines.length - PROMISES),
	};
}

async function pointsOf({ organisation }: Context, id: string): Promise<TalkPoint[]> {
	const rows = await connection()
		.db.select()
		.from(talkPoints)
		.where(and(eq(talkPoints.personId, id), isNull(talkPoints.struckAt)))
		.orderBy(asc(talkPoints.at), asc(talkPoints.id));
	const { zone } = organisation.company.rules;
	return rows.map((row) => ({ id: row.id, body: row.body, by: personName(organisation, row.byId) ?? "Somebody", on: formatDay(zone.dayOf(row.at.getTime())) }));
}
