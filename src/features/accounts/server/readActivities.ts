import { ownerIn } from "@/core/bridge/scope";
import { type Day, formatDay, weekday } from "@/core/time/day";
import { monthOf } from "@/core/time/period";
import { connection } from "@/data/db";
import { contactRows } from "@/data/queries/contacts";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { chosenName, dealName, personName } from "@/platform/names";
import { reachesToday } from "@/platform/reachDeal";
import { may } from "@/platform/rights";
import type { Viewpoint } from "@/platform/viewpoint";
import { activityOf } from "./activity";

export const ACTIVITY_SPANS = ["week", "month", "four"] as const;
export type ActivitySpan = (typeof ACTIVITY_SPANS)[number];

/** Something that was done, or planned and not done. */
export interface ActivityLine {
	readonly id: string;
	readonly day: string;
	readonly person: string;
	readonly kind: string;
	/** null where its deal is out of reach */
	readonly subject: string | null;
	readonly deal: { readonly id: string; readonly name: string } | null;
	readonly account: { readonly id: string; readonly name: string } | null;
	/** it may be settled here */
	readonly open: boolean;
}

export interface ActivitiesView {
	readonly span: ActivitySpan;
	readonly from: string;
	readonly to: string;
	readonly people: readonly {
		readonly id: string;
		readonly name: string;
		readonly touches: number;
		readonly workingDays: number;
		readonly perDay: number | null;
		readonly usual: number | null;
		readonly kinds: readonly { readonly kind: string; readonly count: number }[];
		readonly planned: number;
		readonly notDone: number;
	}[];
	/** of whom the lists are; null: of all */
	readonly who: string | null;
	readonly undone: readonly ActivityLine[];
	readonly done: readonly ActivityLine[];
	readonly moreDone: boolean;
	readonly seen: string;
	readonly mayWrite: boolean;
}

const FOUR_WEEKS = 28;
const MOST_UNDONE = 200;

/** The days of a span up to the seen one: this week, this month, the last four weeks. */
function daysOf({ organisation }: Context, span: ActivitySpan, day: Day): { start: Day; end: Day } {
	if (span === "week") return { start: day - ((weekday(day) + 6) % 7), end: day - ((weekday(day) + 6) % 7) + 6 };
	if (span === "month") return monthOf(day, organisation.company.rules.fiscal);
	return { start: day - FOUR_WEEKS + 1, end: day };
}

/** What the people of a sentence did with buyers and had planned, against what is usual for each, with each of it. */
export const readActivities = query(
	"accounts.activities",
	"readAccounts",
	async (
		context: Context,
		viewpoint: Viewpoint,
		asked: { readonly span: ActivitySpan; readonly who: string | null; readonly limit: number },
	): Promise<ActivitiesView> => {
		const { organisation } = context;
		const { day } = viewpoint.seen;
		const { start, end } = daysOf(context, asked.span, day);
		const { scope } = viewpoint.whose;
		const found = await activityOf(organisation, { start, end }, day, scope);
		const chosen = found.filter(({ person }) => asked.who === null || organisation.people[person]?.id === asked.who);
		const ids = chosen.flatMap(({ person }) => (ownerIn(scope, person) ? (organisation.people[person]?.id ?? []) : []));
		const span = { from: formatDay(start), to: formatDay(end), seen: formatDay(day), zone: organisation.company.rules.zone.name };
		const rows = (which: "done" | "undone", limit: number) => (ids.length ? contactRows(connection().db, span, which, ids, limit) : []);
		const [done, undone] = await Promise.all([rows("done", asked.limit + 1), rows("undone", MOST_UNDONE)]);
		return {
			span: asked.span,
			from: span.from,
			to: span.to,
			people: found.map(({ person, kinds, ...one }) => ({
				id: organisation.people[person]?.id ?? "",
				name: chosenName(organisation, person),
				...one,
				kinds: Object.entries(kinds)
					.map(([kind, count]) => ({ kind, count }))
					.sort((a, b) => b.count - a.count || (a.kind < b.kind ? -1 : 1)),
			})),
			who: asked.who,
			undone: undone.map((row) => lineOf(context, row, true)),
			done: done.slice(0, asked.limit).map((row) => lineOf(context, row, false)),
			moreDone: done.length > asked.limit,
			seen: span.seen,
			mayWrite: may(context.actor, "writeNotes") && !viewpoint.seen.past,
		};
	},
);

function lineOf(context: Context, row: Awaited<ReturnType<typeof contactRows>>[number], open: boolean): ActivityLine {
	const { organisation } = context;
	const hidden = row.dealId !== null && !reachesToday(context, row.dealId);
	const deal = row.dealId && !hidden ? organisation.dealIndex.get(row.dealId) : undefined;
	const account = organisation.accounts.get((deal === undefined ? row.accountId : organisation.deals[deal]?.accountId) ?? "");
	return {
		id: row.id,
		day: row.day,
		person: personName(organisation, row.byId) ?? row.byId,
		kind: row.kind,
		subject: hidden ? null : row.subject || "No subject",
		deal: deal === undefined || !row.dealId ? null : { id: row.dealId, name: dealName(organisation, deal) },
		account: hidden || !account ? null : { id: account.id, name: account.name || "No name" },
		open: open && !hidden,
	};
}
