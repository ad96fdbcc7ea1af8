import { ownerIn } from "@/core/bridge/scope";
import { type Day, formatDay, weekday } from "@/core/time/day";
import { monthOf } from "@/core/time/period";
import { connection } from "@/data/db";
import { contactRows } from "@/data/queries/contacts";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dealIdsOf } from "@/platform/dealsByAccount";
import { chosenName, dealName, personName } from "@/platform/names";
import { reachesToday } from "@/platform/reachDeal";
import { may } from "@/platform/rights";
import type { Viewpoint } from "@/platform/viewpoint";
import { activityOf } from "./activity";

export const ACTIVITY_SPANS = ["week", "month", "four"] as const;
export type ActivitySpan = (typeof ACTIVITY_SPANS)[number];

/** Something that was done, or planned. */
export interface ActivityLine {
	readonly standing: "done" | "planned" | "undone";
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
	/** of a week or a month: everything by day, the earliest first; null for a list */
	readonly entries: readonly ActivityLine[] | null;
	/** a day of the week or month before, and of the one after */
	readonly before: string | null;
	readonly after: string | null;
	readonly kind: string | null;
	readonly account: string;
	readonly kindNames: readonly string[];
	readonly seen: string;
	readonly mayWrite: boolean;
}

const FOUR_WEEKS = 28;
const MOST_UNDONE = 200;
const MOST_ENTRIES = 1500;

/** What is asked for. */
export interface ActivitiesAsked {
	readonly span: ActivitySpan;
	/** a day of the week or month; null: the seen one */
	readonly at?: Day | null;
	readonly who: string | null;
	readonly kind?: string | null;
	/** words of an account's name */
	readonly account?: string;
	readonly limit: number;
}

/** The days of a span: the week or the month of a day, or the four weeks up to it. */
function daysOf({ organisation }: Context, span: ActivitySpan, day: Day): { start: Day; end: Day } {
	if (span === "week") return { start: day - ((weekday(day) + 6) % 7), end: day - ((weekday(day) + 6) % 7) + 6 };
	if (span === "month") return monthOf(day, organisation.company.rules.fiscal);
	return { start: day - FOUR_WEEKS + 1, end: day };
}

/** What the people of a sentence did with buyers and had planned, against what is usual for each, with each of it. */
export const readActivities = query(
	"accounts.activities",
	"readAccounts",
	async (context: Context, viewpoint: Viewpoint, asked: ActivitiesAsked): Promise<ActivitiesView> => {
		const { organisation } = context;
		const { day } = viewpoint.seen;
		const { start, end } = daysOf(context, asked.span, asked.span === "four" ? day : (asked.at ?? day));
		const { scope } = viewpoint.whose;
		const found = await activityOf(organisation, { start, end }, day, scope);
		const chosen = found.filter(({ person }) => asked.who === null || organisation.people[person]?.id === asked.who);
		const ids = chosen.flatMap(({ person }) => (ownerIn(scope, person) ? (organisation.people[person]?.id ?? []) : []));
		const span = { from: formatDay(start), to: formatDay(end), seen: formatDay(day), zone: organisation.company.rules.zone.name };
		const filter = { kind: asked.kind ?? undefined, at: accountsNamed(context, asked.account ?? "") };
		const rows = (which: "done" | "planned" | "undone", limit: number) => (ids.length ? contactRows(connection().db, span, which, ids, limit, filter) : []);
		const drawn = asked.span !== "four";
		const [done, undone, planned] = await Promise.all([
			rows("done", drawn ? MOST_ENTRIES : asked.limit + 1),
			rows("undone", MOST_UNDONE),
			drawn ? rows("planned", MOST_ENTRIES) : [],
		]);
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
			undone: undone.map((row) => lineOf(context, row, "undone")),
			done: done.slice(0, asked.limit).map((row) => lineOf(context, row, "done")),
			moreDone: !drawn && done.length > asked.limit,
			entries: drawn
				? [...done.map((row) => lineOf(context, row, "done")), ...planned.map((row) => lineOf(context, row, row.day < span.seen ? "undone" : "planned"))].sort(
						(a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.id < b.id ? -1 : 1),
					)
				: null,
			before: drawn ? formatDay(start - 1) : null,
			after: drawn ? formatDay(end + 1) : null,
			kind: asked.kind ?? null,
			account: asked.account ?? "",
			kindNames: organisation.activityKinds,
			seen: span.seen,
			mayWrite: may(context.actor, "writeNotes") && !viewpoint.seen.past,
		};
	},
);

/** The accounts whose name has some words in it, with their deals; undefined where none are asked for. */
function accountsNamed({ organisation }: Context, words: string) {
	const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
	if (!wanted.length) return undefined;
	const accounts = [...organisation.accounts.values()].flatMap(({ id, name }) => (wanted.every((word) => name.toLowerCase().includes(word)) ? id : []));
	return { accounts, deals: accounts.flatMap((id) => dealIdsOf(organisation, id)) };
}

function lineOf(context: Context, row: Awaited<ReturnType<typeof contactRows>>[number], standing: ActivityLine["standing"]): ActivityLine {
	const { organisation } = context;
	const hidden = row.dealId !== null && !reachesToday(context, row.dealId);
	const deal = row.dealId && !hidden ? organisation.dealIndex.get(row.dealId) : undefined;
	const account = organisation.accounts.get((deal === undefined ? row.accountId : organisation.deals[deal]?.accountId) ?? "");
	return {
		standing,
		id: row.id,
		day: row.day,
		person: personName(organisation, row.byId) ?? row.byId,
		kind: row.kind,
		subject: hidden ? null : row.subject || "No subject",
		deal: deal === undefined || !row.dealId ? null : { id: row.dealId, name: dealName(organisation, deal) },
		account: hidden || !account ? null : { id: account.id, name: account.name || "No name" },
		open: standing !== "done" && !hidden,
	};
}
