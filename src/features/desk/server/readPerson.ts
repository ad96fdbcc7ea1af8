import { and, asc, eq, isNull } from "drizzle-orm";
import { apart, type Share } from "@/core/statistics/wilson";
import { type Day, formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { talkPoints } from "@/data/schema";
import { readActivity } from "@/features/accounts";
import type { DealRow } from "@/features/deals";
import { readDeals } from "@/features/deals";
import { readAccuracy, USUAL_LOOK } from "@/features/patterns";
import { readPeriod } from "@/features/period";
import { readFollowThrough } from "@/features/tasks";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { personName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
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
	/** of their commits at the usual look back, how many came, beside everybody’s; told apart only where it can be */
	readonly commits: { readonly own: Share; readonly all: Share; readonly apart: boolean } | null;
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
/** so many days back tasks and contacts are looked at */
const LOOKS_BACK = { tasks: 91, contacts: 28 };

/** The page of one of ours, for those who lead them or look after all, and for themselves. */
export const readPerson = query("desk.person", "readDesk", async (context: Context, asked: ViewpointQuery, id: string): Promise<PersonPage> => {
	const { organisation } = context;
	const index = personReached(context, id);
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
		commits: commitsOf(context, id, day),
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

/** The index of somebody within reach, or oneself; throws a 404 for anybody else. */
export function personReached({ organisation, actor }: Context, id: string): number {
	const index = organisation.personIndex.get(id);
	if (index === undefined || !(index === actor.index || reaches(reachOf(organisation, actor), index))) throw notFound("person", id);
	return index;
}

/** Whether somebody leads a person: a manager whose reach they are in, and who isn't them. */
export const mayTalk = (context: Context, id: string): boolean =>
	context.actor.person.role === "manager" &&
	context.actor.person.id !== id &&
	reaches(reachOf(context.organisation, context.actor), personReached(context, id));

function commitsOf(context: Context, id: string, day: Day): PersonPage["commits"] {
	const { people, count } = readAccuracy(context, null, "commit", USUAL_LOOK, day);
	const own = people.find((one) => one.id === id);
	return own ? { own: own.count, all: count, apart: apart(own.count, count) } : null;
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
