import { type TrendPoint, trend } from "@/core/bridge/trend";
import { targetOf } from "@/core/period/target";
import { type Day, formatDay } from "@/core/time/day";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { firstKnown } from "@/platform/firstKnown";
import type { Viewpoint } from "@/platform/viewpoint";
import { partOrder, SLICES, type SliceKey, sliceAsked, sliceOf } from "./slices";

export interface TrendView {
	readonly by: SliceKey;
	readonly fields: readonly { readonly key: SliceKey; readonly label: string }[];
	/** names of the bands */
	readonly parts: readonly string[];
	readonly points: readonly {
		readonly day: string;
		readonly count: number;
		readonly open: number;
		readonly weighted: number;
		/** open amounts in the order of the bands; base minor units */
		readonly parts: readonly number[];
		readonly won: number;
		readonly lost: number;
		readonly lostOutside: number;
	}[];
	/** what the people are to win in the period; null where nobody has a target for it */
	readonly target: number | null;
	readonly currency: string;
}

const WEEKS = 13;
/** More can't be told apart in a drawing. */
const MOST_WEEKS = 260;
/** More bands than this can't be told apart: the smallest go together. */
const BANDS = 6;

/** The pipeline of the period at each week's end up to the seen day: from the earlier moment, or a quarter back when that is nearer. */
export const readTrend = query("changes.trend", "readChanges", (context: Context, viewpoint: Viewpoint, asked?: string): TrendView | null => {
	const { company } = context.organisation;
	const { period } = viewpoint.due;
	if (!period) return null;
	const by = asked === undefined ? "stage" : sliceAsked(asked);
	const last = viewpoint.seen.day;
	const first = Math.max(Math.min(viewpoint.against.day, last - WEEKS * 7), last - MOST_WEEKS * 7);
	const label = sliceOf(context, by, last);
	const places = new Map<string, number>();
	const place = (deal: number, row: number) => {
		const name = label(deal, row);
		const known = places.get(name) ?? places.size;
		places.set(name, known);
		return known;
	};
	const points = trend(company, weekEnds(first, last, firstKnown(context.organisation)), period, viewpoint.whose.scope, place);
	const bands = bandsOf(context, by, places, points);
	return {
		by,
		fields: SLICES,
		parts: bands.map((band) => band.name),
		points: points.map(({ day, count, open, weighted, byPart, won, lost, lostOutside }) => ({
			day: formatDay(day),
			count,
			open,
			weighted,
			parts: bands.map((band) => band.places.reduce((sum, one) => sum + (byPart[one] ?? 0), 0)),
			won,
			lost,
			lostOutside,
		})),
		target: targetOf(context.organisation.targets, period, viewpoint.whose.scope, company.rules.rates, last),
		currency: company.rules.rates.base,
	};
});

/** Stages and categories all, in their order; of other fields the largest at the end, and the rest together. */
function bandsOf(context: Context, by: SliceKey, places: ReadonlyMap<string, number>, points: readonly TrendPoint[]): { name: string; places: number[] }[] {
	if (by === "stage") {
		const open = context.organisation.company.rules.stages.filter((stage) => stage.kind === "open");
		return open.map(({ name }) => ({ name, places: places.has(name) ? [places.get(name) as number] : [] }));
	}
	const most = (place: number) => points.reduce((sum, point, i) => sum + (point.byPart[place] ?? 0) * (i === points.length - 1 ? 1000 : 1), 0);
	const order = partOrder(context, by);
	const fixed = by === "category" || by === "attention";
	const sorted = [...places].sort(([a, at], [b, bt]) => (fixed ? order(a, b) : most(bt) - most(at) || order(a, b)));
	const shown = sorted.length > BANDS ? BANDS - 1 : BANDS;
	const bands = sorted.slice(0, shown).map(([name, place]) => ({ name, places: [place] }));
	const rest = sorted.slice(shown).map(([, place]) => place);
	return rest.length ? [...bands, { name: `${rest.length} others`, places: rest }] : bands;
}

/** The seen day and the days one, two, … weeks before it down to the first, oldest first. */
export function weekEnds(first: Day, last: Day, known: Day): Day[] {
	const days: Day[] = [];
	for (let day = last; day >= first && (day >= known || day === last); day -= 7) days.unshift(day);
	return days;
}
