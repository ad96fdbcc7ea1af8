import type { Light } from "@/core/attention/attention";
import { type Day, formatDay, parseDay, weekday } from "@/core/time/day";
import { shortDay } from "@/core/time/words";

/** An open deal as the picture shows it. */
export interface PictureDeal {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	/** base minor units */
	readonly amount: number;
	/** ISO day; null: it has none */
	readonly close: string | null;
	readonly level: Light;
	/** of being won, 0 to 1 */
	readonly chance: number;
	/** what says so: what came of comparable deals, or its stage's probability */
	readonly by: "comparables" | "stage";
}

/** A deal where it is drawn: the middle and radius of its disc, in pixels. */
export interface Spot {
	readonly deal: PictureDeal;
	readonly x: number;
	readonly y: number;
	readonly r: number;
}

/** What lies outside the weeks: a strip of its own at one side. */
export interface Strip {
	readonly key: "overdue" | "later" | "undated";
	readonly label: string;
	readonly from: number;
	readonly to: number;
}

export interface PictureLayout {
	/** the largest first, so that small ones lie on top */
	readonly spots: readonly Spot[];
	/** Mondays, those that have room for it with a label */
	readonly weeks: readonly { readonly x: number; readonly label: string | null }[];
	readonly strips: readonly Strip[];
	/** by tenths: 0, 0.25, 0.5, 0.75, 1 */
	readonly chances: readonly { readonly y: number; readonly label: string }[];
	readonly plot: { readonly left: number; readonly right: number; readonly top: number; readonly bottom: number };
	/** where today stands; null where it lies outside */
	readonly today: number | null;
}

const MOST_WEEKS = 26;
const STRIP = 64;
/** discs at the ends of the scale have room beyond it */
const MARGIN = { left: 40, right: 10, top: 30, bottom: 46 };
const LEAST_R = 3.5;
const LABEL_ROOM = 52;

const monday = (day: Day): Day => day - ((weekday(day) + 6) % 7);
const dayOf = (iso: string | null) => (iso === null ? null : parseDay(iso));

/** Where each deal is drawn: at its close date, by weeks, and its chance; its area is its amount. */
export function layoutOf(deals: readonly PictureDeal[], today: Day, width: number, height: number): PictureLayout {
	const first = monday(today);
	const dated = deals.map((deal) => ({ deal, close: dayOf(deal.close) }));
	const overdue = dated.some(({ close }) => close !== null && close < today);
	const undated = dated.some(({ close }) => close === null);
	const ahead = dated.flatMap(({ close }) => (close !== null && close >= today ? [close] : []));
	const weeks = Math.min(MOST_WEEKS, Math.max(1, Math.ceil((ahead.reduce((most, one) => Math.max(most, one), today) + 1 - first) / 7)));
	const end = first + 7 * weeks;
	const later = ahead.some((close) => close >= end);
	const left = MARGIN.left + (overdue ? STRIP : 0);
	const right = width - MARGIN.right - (later ? STRIP : 0) - (undated ? STRIP : 0);
	const [top, bottom] = [MARGIN.top, height - MARGIN.bottom];
	const at = (day: Day) => left + ((day + 0.5 - first) / (7 * weeks)) * (right - left);
	const strips: Strip[] = [
		...(overdue ? [{ key: "overdue" as const, label: "overdue", from: MARGIN.left, to: left }] : []),
		...(later ? [{ key: "later" as const, label: "later", from: right, to: right + STRIP }] : []),
		...(undated ? [{ key: "undated" as const, label: "no date", from: width - MARGIN.right - STRIP, to: width - MARGIN.right }] : []),
	];
	const inStrip = (key: Strip["key"], nth: number) => {
		const strip = strips.find((one) => one.key === key);
		// One beside the other, so that those of one chance aren't all on one point.
		return strip ? strip.from + STRIP * (0.25 + 0.5 * ((nth * 0.618) % 1)) : left;
	};
	const largest = deals.reduce((most, { amount }) => Math.max(most, amount), 1);
	const most = Math.min(26, Math.max(12, width / 40));
	const spots = dated
		.map(({ deal, close }, nth): Spot => {
			const x = close === null ? inStrip("undated", nth) : close < today ? inStrip("overdue", nth) : close >= end ? inStrip("later", nth) : at(close);
			return { deal, x, y: bottom - deal.chance * (bottom - top), r: Math.max(LEAST_R, most * Math.sqrt(Math.max(0, deal.amount) / largest)) };
		})
		.sort((a, b) => b.r - a.r || (a.deal.id < b.deal.id ? -1 : 1));
	const every = Math.max(1, Math.ceil(LABEL_ROOM / ((right - left) / weeks)));
	return {
		spots,
		weeks: Array.from({ length: weeks }, (_, i) => ({
			x: left + (i / weeks) * (right - left),
			label: i % every === 0 ? shortDay(first + 7 * i) : null,
		})),
		strips,
		chances: [0, 0.25, 0.5, 0.75, 1].map((chance) => ({ y: bottom - chance * (bottom - top), label: `${Math.round(chance * 100)}%` })),
		plot: { left: MARGIN.left, right: width - MARGIN.right, top, bottom },
		today: at(today),
	};
}

/** calendar days that are soon, and a chance that is little */
export const SOON = 28;
export const LITTLE = 0.4;

/**
 * The deals worth a look at once: of the largest, which together make up half of the amount, those that close within four weeks or
 * should have, with little chance. The largest first.
 */
export function pressing(deals: readonly PictureDeal[], today: Day): PictureDeal[] {
	const sorted = [...deals].sort((a, b) => b.amount - a.amount || (a.id < b.id ? -1 : 1));
	const half = sorted.reduce((sum, { amount }) => sum + amount, 0) / 2;
	const until = formatDay(today + SOON);
	let sum = 0;
	return sorted.filter(({ amount, close, chance }) => {
		const isLarge = sum < half;
		sum += amount;
		return isLarge && amount > 0 && close !== null && close <= until && chance < LITTLE;
	});
}

/** The deals whose middle lies in a rectangle. */
export function within(spots: readonly Spot[], a: { readonly x: number; readonly y: number }, b: { readonly x: number; readonly y: number }): string[] {
	const [x0, x1, y0, y1] = [Math.min(a.x, b.x), Math.max(a.x, b.x), Math.min(a.y, b.y), Math.max(a.y, b.y)];
	return spots.flatMap(({ deal, x, y }) => (x >= x0 && x <= x1 && y >= y0 && y <= y1 ? [deal.id] : []));
}
