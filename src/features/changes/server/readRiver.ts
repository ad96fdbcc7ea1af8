import { membership } from "@/core/bridge/scope";
import { byId } from "@/core/deal/order";
import { asOf, blockOf, firstRow } from "@/core/history/columns";
import { type RiverColumns, riverColumns } from "@/core/river/columns";
import { type Week, weeksOf } from "@/core/river/river";
import { type Day, formatDay } from "@/core/time/day";
import type { Fiscal } from "@/core/time/fiscal";
import { monthOf, type Period, quarterAt, quarterIndex } from "@/core/time/period";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { derivedFor } from "@/platform/derivedFor";
import { Fault } from "@/platform/fault";
import { firstKnown } from "@/platform/firstKnown";
import { type Chunk, chunk } from "@/platform/http/chunks";
import { accountName, dealName, ownerName } from "@/platform/names";
import type { Viewpoint } from "@/platform/viewpoint";
import { partOrder, SLICES, type SliceKey, sliceOf } from "./slices";

const RIVER_SPANS = [
	{ key: "halves", label: "this quarter and the last" },
	{ key: "quarter", label: "this quarter" },
	{ key: "year", label: "a year back" },
	{ key: "against", label: "since the earlier day" },
] as const;
export type RiverSpan = (typeof RIVER_SPANS)[number]["key"];

/** What the river can be sliced by. */
const RIVER_SLICES = ["rep", "account", "product", "territory", "attention"] as const satisfies readonly SliceKey[];
export type RiverSlice = (typeof RIVER_SLICES)[number];

/** A span by its key as it stands in an address; throws a 400 for one there is none of. */
export function riverSpan(asked: string | undefined): RiverSpan {
	const span = asked === undefined ? "halves" : RIVER_SPANS.find((one) => one.key === asked)?.key;
	if (!span) throw new Fault(400, "This address isn’t valid", `“span” is ${asked}; it must be one of ${RIVER_SPANS.map((one) => one.key).join(", ")}.`);
	return span;
}

/** What a river is computed from: the columns of the deals that were in at some time of the span, and how they are called. */
export interface RiverView {
	readonly columns: RiverColumns;
	readonly weeks: readonly Week[];
	readonly period: Period;
	/** people of the scope by index; null for everyone */
	readonly scope: readonly number[] | null;
	readonly deals: readonly { readonly id: string; readonly name: string; readonly account: string; readonly owner: string }[];
	/** for each field its parts in order, and of each deal the part's index, by who owned it on the seen day */
	readonly slices: Readonly<Record<RiverSlice, { readonly parts: readonly string[]; readonly of: readonly number[] }>>;
	/** the last five working days of each month of the span */
	readonly monthEnds: readonly Day[];
	readonly currency: string;
	/** the fields to slice by, and the spans to choose from */
	readonly fields: readonly { readonly key: RiverSlice; readonly label: string }[];
	readonly spans: readonly { readonly key: RiverSpan; readonly label: string }[];
	readonly span: RiverSpan;
	readonly first: string;
	readonly last: string;
}

const LAST_DAYS = 5;
/** A longer river can't be told apart. */
const WEEKS_DRAWN = 260;

/** The packed river of a viewpoint, the same text until something changes; `null` when deals without a date are asked for. */
export const packedRiver = query("changes.packedRiver", "readChanges", (context: Context, viewpoint: Viewpoint, asked: string | undefined): Chunk => {
	return derivedFor(context, viewpoint, `river ${asked}`, () => {
		const view = readRiver(context, viewpoint, asked);
		return chunk(view ? packRiver(view) : "null");
	});
});

/** The river of a viewpoint over a span that ends on the seen day; null when deals without a date are asked for. */
export const readRiver = query("changes.river", "readChanges", (context: Context, viewpoint: Viewpoint, asked: string | undefined): RiverView | null => {
	const { company } = context.organisation;
	const { period } = viewpoint.due;
	if (!period) return null;
	const span = riverSpan(asked);
	const last = viewpoint.seen.day;
	const first = Math.min(last, Math.max(firstKnown(context.organisation), last - WEEKS_DRAWN * 7, spanStart(span, viewpoint, company.rules.fiscal)));
	const deals = dealsIn(context, first, last, period, viewpoint).sort(byId(company));
	const slice = (key: RiverSlice) => sliced(context, key, deals, last);
	return {
		columns: riverColumns(company, deals, first, last),
		weeks: weeksOf(first, last),
		period,
		scope: viewpoint.whose.scope && [...viewpoint.whose.scope],
		deals: deals.map((deal) => ({
			id: context.organisation.deals[deal]?.id ?? "",
			name: dealName(context.organisation, deal, last),
			account: accountName(context.organisation, deal, last),
			owner: ownerName(context.organisation, blockOf(company.history, deal).owner[asOf(company.history, deal, last)] as number),
		})),
		slices: { rep: slice("rep"), account: slice("account"), product: slice("product"), territory: slice("territory"), attention: slice("attention") },
		monthEnds: monthEndsIn(context, first, last),
		currency: company.rules.rates.base,
		fields: RIVER_SLICES.map((key) => ({ key, label: SLICES.find((slice) => slice.key === key)?.label ?? key })),
		spans: RIVER_SPANS,
		span,
		first: formatDay(first),
		last: formatDay(last),
	};
});

function spanStart(span: RiverSpan, viewpoint: Viewpoint, fiscal: Fiscal): Day {
	const last = viewpoint.seen.day;
	if (span === "against") return viewpoint.against.day + 1;
	if (span === "year") return last - 364;
	return quarterAt(quarterIndex(last, fiscal) - (span === "halves" ? 1 : 0), fiscal).start;
}

/** Deals that were of the period and people by any version in force within the span. */
function dealsIn({ organisation }: Context, first: Day, last: Day, period: Period, { whose }: Viewpoint): number[] {
	const { company } = organisation;
	const { history, rules } = company;
	const isHere = membership(company, period, whose.scope);
	return company.deals.flatMap((_, deal) => {
		const end = asOf(history, deal, last);
		const block = blockOf(history, deal);
		for (let row = Math.max(asOf(history, deal, first - 1), firstRow(block, deal)); row <= end; row++) {
			const stage = rules.stages[block.stage[row] as number];
			// What was closed before the span and stays closed is in at no time of it.
			if (stage && isHere(block, row) && (stage.kind === "open" || (block.day[row] as number) >= first)) return [deal];
		}
		return [];
	});
}

function sliced(context: Context, key: RiverSlice, deals: readonly number[], last: Day): { parts: string[]; of: number[] } {
	const part = sliceOf(context, key, last);
	const names = deals.map((deal) => part(deal, asOf(context.organisation.company.history, deal, last)));
	const parts = [...new Set(names)].sort(partOrder(context, key));
	const places = new Map(parts.map((name, i) => [name, i]));
	return { parts, of: names.map((name) => places.get(name) ?? 0) };
}

function monthEndsIn({ organisation }: Context, first: Day, last: Day): Day[] {
	const { calendar, fiscal } = organisation.company.rules;
	const days: Day[] = [];
	for (let day = first; day <= last; day++) {
		const { end } = monthOf(day, fiscal);
		if (calendar.isWorking(day) && calendar.between(day, end) < LAST_DAYS) days.push(day);
	}
	return days;
}

/** A river as one text for the way to the browser; `unpackRiver` reads it there. */
function packRiver(view: RiverView): string {
	const asArrays = Object.fromEntries(
		Object.entries(view.columns).map(([name, column]) => [name, ArrayBuffer.isView(column) ? Array.from(column as Int32Array) : column]),
	);
	return JSON.stringify({ ...view, columns: asArrays });
}
