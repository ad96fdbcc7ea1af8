import { type Day, NO_DAY } from "../time/day";
import type { Zone } from "../time/zone";

/** One state of a deal from an instant on, with everything named by its index in the company's lists. */
export interface VersionRow {
	readonly deal: number;
	/** ms since the epoch, UTC */
	readonly at: number;
	/** index of the stage, or REMOVED when the deal has been taken off the books */
	readonly stage: number;
	/** minor units, or NaN where it is blank */
	readonly amount: number;
	/** index of the currency, or NONE */
	readonly currency: number;
	readonly close: Day;
	/** index of the person, or NONE */
	readonly owner: number;
	/** index in CATEGORIES, or NONE */
	readonly category: number;
	readonly nextStepDay: Day;
	readonly nextStep: string;
	/** the version's id in the store */
	readonly id: number;
}

export const NONE = -1;
export const REMOVED = -1;

/** A version that says nothing yet. */
export const BLANK_VERSION: Omit<VersionRow, "deal" | "at" | "id"> = {
	stage: REMOVED,
	amount: Number.NaN,
	currency: NONE,
	close: NO_DAY,
	owner: NONE,
	category: NONE,
	nextStepDay: NO_DAY,
	nextStep: "",
};

export const CATEGORIES = ["commit", "best_case", "pipeline", "left_out"] as const;
export type Category = (typeof CATEGORIES)[number];
/** Words that files use for a category which is called otherwise here. */
export const OTHER_CATEGORY_WORDS: Readonly<Record<string, Category>> = { omitted: "left_out" };

/** What the columns of versions hold a value in, in the order in which they are copied. */
const COLUMNS = {
	at: Float64Array,
	day: Int32Array,
	stage: Int16Array,
	amount: Float64Array,
	currency: Int16Array,
	close: Int32Array,
	owner: Int32Array,
	category: Int8Array,
	nextStepDay: Int32Array,
	id: Float64Array,
	/** index in `texts` of the next step in words */
	nextStep: Int32Array,
} as const;
type ColumnName = keyof typeof COLUMNS;
/** The array that a constructor makes, over whatever buffer: columns may be shared with a worker. */
type ArrayOf<C> = C extends Float64ArrayConstructor
	? Float64Array
	: C extends Int32ArrayConstructor
		? Int32Array
		: C extends Int16ArrayConstructor
			? Int16Array
			: Int8Array;
type Columns = { readonly [K in ColumnName]: ArrayOf<(typeof COLUMNS)[K]> };
export const HISTORY_COLUMNS = Object.keys(COLUMNS) as readonly ColumnName[];

/** The versions of all deals as columns, sorted by deal and instant; deal i owns rows offsets[i] to offsets[i + 1] − 1. */
export interface History extends Columns {
	readonly offsets: Int32Array;
	/** each text once, however many versions share it; the first is the empty one */
	readonly texts: readonly string[];
}

/** Columns with room for n versions, all zero yet. */
const emptyColumns = (n: number) => Object.fromEntries(HISTORY_COLUMNS.map((name) => [name, new COLUMNS[name](n)])) as unknown as Columns;

/** The columns whose value is a version's as it is. */
const PLAIN = HISTORY_COLUMNS.filter((name): name is Exclude<ColumnName, "day" | "nextStep"> => name !== "day" && name !== "nextStep");

/** The next step of a version in words; empty where there is none. */
export function nextStepOf(history: History, row: number): string {
	return history.texts[history.nextStep[row] as number] as string;
}

/** Bytes that the columns take, texts by their letters. */
export function sizeOf(history: History): number {
	const columns = HISTORY_COLUMNS.reduce((sum, name) => sum + history[name].byteLength, history.offsets.byteLength);
	return history.texts.reduce((sum, text) => sum + 2 * text.length + 16, columns);
}

/** A place for texts that keeps each once. */
function textsFrom(first: readonly string[]) {
	const texts = [...first];
	const places = new Map(texts.map((text, i) => [text, i]));
	return {
		texts,
		place(text: string): number {
			const known = places.get(text);
			if (known !== undefined) return known;
			places.set(text, texts.length);
			return texts.push(text) - 1;
		},
	};
}

/** Takes versions in, sorted by deal, instant and id, and makes columns of them; `deals` is how many there are. */
export function columnsOf(deals: number, count: number, sorted: Iterable<VersionRow>, zone: Zone): History {
	const { texts, place } = textsFrom([""]);
	const history = { offsets: new Int32Array(deals + 1), ...emptyColumns(count), texts };
	let i = 0;
	for (const row of sorted) {
		history.offsets[row.deal + 1] = (history.offsets[row.deal + 1] as number) + 1;
		for (const name of PLAIN) history[name][i] = row[name];
		history.day[i] = zone.dayOf(row.at);
		history.nextStep[i] = place(row.nextStep);
		i++;
	}
	for (let deal = 0; deal < deals; deal++) {
		history.offsets[deal + 1] = (history.offsets[deal + 1] as number) + (history.offsets[deal] as number);
	}
	return history;
}

/** Columns of versions given in any order. Two versions of a deal at one instant keep the higher id as the later. */
export function makeHistory(deals: number, rows: readonly VersionRow[], zone: Zone): History {
	const sorted = [...rows].sort((a, b) => a.deal - b.deal || a.at - b.at || a.id - b.id);
	return columnsOf(deals, sorted.length, sorted, zone);
}

/**
 * Columns made of others: `from[deal]` is where a deal stood in them, its versions copied as they are, or NONE where its
 * versions are among `rows` (whose deals are numbered as in `from`). Deals may be new, gone, or moved; those that are
 * kept must keep their order.
 */
export function withVersions(history: History, from: ArrayLike<number>, rows: readonly VersionRow[], zone: Zone): History {
	const deals = from.length;
	const part = makeHistory(deals, rows, zone);
	const { texts, place } = textsFrom(history.texts);
	part.nextStep.forEach((text, row) => {
		part.nextStep[row] = place(part.texts[text] as string);
	});
	/** the columns that hold a deal's versions, and its place in them */
	const sourceOf = (deal: number): readonly [History, number] => (from[deal] === NONE ? [part, deal] : [history, from[deal] as number]);
	const offsets = new Int32Array(deals + 1);
	for (let deal = 0; deal < deals; deal++) {
		const [source, at] = sourceOf(deal);
		offsets[deal + 1] = (offsets[deal] as number) + (source.offsets[at + 1] as number) - (source.offsets[at] as number);
	}
	const next: History = { offsets, ...emptyColumns(offsets[deals] as number), texts };
	// Runs of deals that follow one another in one source are copied at once.
	for (let first = 0; first < deals; ) {
		const [source, at] = sourceOf(first);
		let count = 1;
		while (first + count < deals && follows(sourceOf(first + count), source, at + count)) count++;
		for (const name of HISTORY_COLUMNS) {
			next[name].set(source[name].subarray(source.offsets[at], source.offsets[at + count]) as never, offsets[first] as number);
		}
		first += count;
	}
	return next;
}

const follows = ([source, at]: readonly [History, number], before: History, expected: number) => source === before && at === expected;

/** The same columns with owners and currencies named by other places: `of[place]` is the place from now on. NONE stays. */
export function renumbered(history: History, of: { readonly owner: ArrayLike<number>; readonly currency: ArrayLike<number> }): History {
	const moved = (place: number, places: ArrayLike<number>) => (place === NONE ? NONE : (places[place] as number));
	return {
		...history,
		owner: history.owner.map((place) => moved(place, of.owner)),
		currency: history.currency.map((place) => moved(place, of.currency)),
	};
}

/** The row of the last version of a deal on or before a day, or −1 when the deal wasn't there yet. */
export function asOf(history: History, deal: number, day: Day): number {
	return lastOn(history.day, history.offsets[deal] as number, history.offsets[deal + 1] as number, day);
}

/**
 * The last of the rows from `first` up to `end` whose day is on or before a day, or −1. Mostly it is the very last; else a binary search.
 *
 * @example lastOn(Int32Array.of(5, 7, 7, 9), 0, 4, 8) // 2
 */
export function lastOn(days: Int32Array, first: number, end: number, day: Day): number {
	let high = end;
	if (high > first && (days[high - 1] as number) <= day) return high - 1;
	let low = first;
	while (low < high) {
		const middle = (low + high) >> 1;
		if ((days[middle] as number) <= day) low = middle + 1;
		else high = middle;
	}
	return low === first ? -1 : low - 1;
}

/** The row of the last version of a deal at or before an instant, or −1. */
export function asOfInstant(history: History, deal: number, at: number): number {
	const first = history.offsets[deal] as number;
	let row = (history.offsets[deal + 1] as number) - 1;
	while (row >= first && (history.at[row] as number) > at) row--;
	return row < first ? -1 : row;
}

/** The day-end states of a deal up to a day, oldest first: for each day with versions, the row of its last. */
export function dayEnds(history: History, deal: number, day: Day): number[] {
	const last = asOf(history, deal, day);
	const rows: number[] = [];
	if (last < 0) return rows;
	for (let row = history.offsets[deal] as number; row <= last; row++) {
		if (row === last || history.day[row + 1] !== history.day[row]) rows.push(row);
	}
	return rows;
}

/** A day column's value, with null for none. */
export function dayOrNull(day: Day): Day | null {
	return day === NO_DAY ? null : day;
}
