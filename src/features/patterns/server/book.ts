import type { Scope } from "@/core/bridge/scope";
import { byText } from "@/core/deal/order";
import { blockOf, NONE } from "@/core/history/columns";
import { type Due, endRowOf } from "@/core/patterns/due";
import { LEAST } from "@/core/statistics/wilson";
import { type Day, formatDay, NO_DAY } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { shortDay } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerShort } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import type { BehindView, Looked, PatternView } from "../table/view";

/** A deal behind a figure: which, seen on which day, and what came of it. */
export interface Case {
	readonly deal: number;
	readonly day: Day;
	/** its owner on that day, or NONE */
	readonly owner: number;
	/** base minor units */
	readonly amount: number | null;
	readonly came: string;
	readonly hit: boolean | null;
}

interface Opening {
	readonly title: string;
	/** what those are that are counted: "not won in time" */
	readonly counted: string | null;
	readonly cases: () => readonly Case[];
}

/** What one view says, and the deals behind each of its figures, by what the figure opens. */
export interface Made {
	readonly view: PatternView;
	readonly openings: ReadonlyMap<string, Opening>;
}

/** Keeps what figures open while a view is made. */
export class Book {
	readonly openings = new Map<string, Opening>();

	/** Gives the key by which a figure opens its deals; they are looked up when it is opened. */
	open(key: string, title: string, counted: string | null, cases: () => readonly Case[]): string {
		this.openings.set(key, { title, counted, cases });
		return key;
	}
}

/** How far back is looked, and how many working days before each end. */
export interface Looking {
	readonly quarters: number;
	readonly lead: number;
}

/** What a view is asked for. */
export interface Asked {
	readonly scope: Scope;
	readonly day: Day;
	readonly look: Looking;
	readonly by: string | undefined;
}

/** One view of the past: a file in `kinds/`, and a line in its list. */
export interface PatternKind {
	readonly key: string;
	readonly label: string;
	/** it holds what only its reader may see, so that nobody shares it */
	readonly ofReader?: boolean;
	readonly read: (context: Context, asked: Asked) => Made | Promise<Made>;
}

/**
 * Makes a view of the past.
 *
 * @example export const reasons = patternKind({ key: "reasons", label: "Reasons", read: (context, asked) => ({ view, openings }) });
 */
export const patternKind = (given: PatternKind): PatternKind => given;

/** What became of a deal that was due in a period, as seen at the period's end. */
export const cameOf = (context: Context, due: Due): string =>
	cameAt(context, { deal: due.seen.deal, won: due.won, endRow: endRowOf(context.organisation.company, due) }, due.period);

/** The same of any deal that was open in a period, by its row at the period's end; −1 where it was gone. */
export function cameAt(
	{ organisation: { company } }: Context,
	{ deal, won, endRow }: { readonly deal: number; readonly won: boolean; readonly endRow: number },
	period: Period,
): string {
	if (won) return "won in time";
	if (endRow < 0) return "taken off";
	const { history, rules } = company;
	const block = blockOf(history, deal);
	const kind = rules.stages[block.stage[endRow] as number]?.kind;
	if (kind === "lost") return "lost";
	const close = block.close[endRow] as number;
	return close !== NO_DAY && close > period.end ? `pushed to ${shortDay(close)}` : "still open";
}

/** Deals that were due, as the cases behind a figure: counted are those not won in time, or those that were. */
export const dueCases = (context: Context, due: readonly Due[], counts: "won" | "missed"): Case[] =>
	due.map((one) => ({
		deal: one.seen.deal,
		day: one.day,
		owner: one.seen.owner,
		amount: one.seen.amountBase,
		came: cameOf(context, one),
		hit: one.won === (counts === "won"),
	}));

/** The days on which periods were looked at, as the page says them. */
export const lookedView = (list: readonly { readonly period: { readonly start: Day; readonly end: Day }; readonly day: Day }[]): Looked[] =>
	list.map(({ period, day }) => ({ from: formatDay(period.start), to: formatDay(period.end), day: formatDay(day) }));

const LINES = 400;

/** What a figure opens: the deals by name that whoever looks reaches, and how many others there are. */
export function behindOf(context: Context, { openings }: Pick<Made, "openings">, key: string): BehindView | null {
	const opening = openings.get(key);
	if (!opening) return null;
	const { organisation, actor } = context;
	const reach = reachOf(organisation, actor);
	const all = opening.cases();
	const cases = all.filter(({ owner, deal }) => reaches(reach, owner) && organisation.deals[deal]);
	const idOf = (deal: number) => organisation.deals[deal]?.id ?? "";
	const hits = all.filter(({ hit }) => hit).length;
	return {
		key,
		title: opening.title,
		sum: opening.counted && all.length >= LEAST ? `${hits} of ${all.length} ${opening.counted}` : plural(all.length, "deal"),
		hidden: all.length - cases.length,
		lines: [...cases]
			.sort((a, b) => Number(b.hit) - Number(a.hit) || (b.amount ?? 0) - (a.amount ?? 0) || byText(idOf(a.deal), idOf(b.deal)))
			.slice(0, LINES)
			.map(({ deal, day, owner, amount, came, hit }) => ({
				id: organisation.deals[deal]?.id ?? "",
				name: dealName(organisation, deal),
				account: accountName(organisation, deal),
				owner: owner === NONE ? "No owner" : ownerShort(organisation, owner),
				amount,
				day: formatDay(day),
				came,
				hit,
			})),
	};
}
