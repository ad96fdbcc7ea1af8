import { type Day, NO_DAY } from "../time/day";

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

/** Deals whose versions are kept together: a write makes anew only the blocks of the deals it touches. */
export const BLOCK_SIZE = 256;
const BITS = 8;
const WITHIN = BLOCK_SIZE - 1;

/**
 * The versions of up to 256 deals as columns, sorted by deal and instant. The deal at place i of the block owns the rows
 * offsets[i] to offsets[i + 1] − 1; a deal that is gone owns none. A block never changes.
 */
export interface Block extends Columns {
	readonly offsets: Int32Array;
	/** each text once, however many versions share it; the first is the empty one */
	readonly texts: readonly string[];
}

/** The versions of all deals, in blocks: deal d stands in block d ÷ 256 and stays there. A version is named by its deal and its row in the block. */
export interface History {
	/** how many places there are, those of deals that are gone included */
	readonly deals: number;
	readonly blocks: readonly Block[];
}

/** The block that a deal stands in. */
export const blockOf = <B>({ blocks }: { readonly blocks: readonly B[] }, deal: number): B => blocks[deal >>> BITS] as B;

/** The block of a deal by its index, counted from 0. */
export const blockIndex = (deal: number): number => deal >>> BITS;

/** The first row of a deal in its block. */
export const firstRow = ({ offsets }: Pick<Block, "offsets">, deal: number): number => offsets[deal & WITHIN] as number;

/** The row after the last of a deal in its block. */
export const endRow = ({ offsets }: Pick<Block, "offsets">, deal: number): number => offsets[(deal & WITHIN) + 1] as number;

/** Cuts a count of deals into blocks: of each the first deal, and the one after its last. */
export function* blockSpans(deals: number): Iterable<readonly [first: number, end: number]> {
	for (let first = 0; first < deals; first += BLOCK_SIZE) yield [first, Math.min(deals, first + BLOCK_SIZE)];
}

/** Columns with room for n versions, all zero yet. */
export const emptyColumns = (n: number) => Object.fromEntries(HISTORY_COLUMNS.map((name) => [name, new COLUMNS[name](n)])) as unknown as Columns;

/** The columns whose value is a version's as it is. */
export const PLAIN = HISTORY_COLUMNS.filter((name): name is Exclude<ColumnName, "day" | "nextStep"> => name !== "day" && name !== "nextStep");

/** The next step of a version in words; empty where there is none. */
export function nextStepOf(block: Block, row: number): string {
	return block.texts[block.nextStep[row] as number] as string;
}

/** Bytes that the columns take, texts by their letters. */
export const sizeOf = ({ blocks }: History): number => blocks.reduce((sum, block) => sum + blockSize(block), 0);

function blockSize(block: Block): number {
	const columns = HISTORY_COLUMNS.reduce((sum, name) => sum + block[name].byteLength, block.offsets.byteLength);
	return block.texts.reduce((sum, text) => sum + 2 * text.length + 16, columns);
}

/** How many versions there are. */
export const versionCount = ({ blocks }: History): number => blocks.reduce((sum, { day }) => sum + day.length, 0);

/** The highest id of all versions; 0 where there is none. */
export const newestVersion = ({ blocks }: History): number => blocks.reduce((newest, { id }) => id.reduce((highest, one) => Math.max(highest, one), newest), 0);

/** The row (in its block) of the last version of a deal on or before a day, or −1 when the deal wasn't there yet. */
export function asOf(history: { readonly blocks: readonly Pick<Block, "offsets" | "day">[] }, deal: number, day: Day): number {
	const block = blockOf(history, deal);
	return lastOn(block.day, firstRow(block, deal), endRow(block, deal), day);
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

/** The row (in its block) of the last version of a deal at or before an instant, or −1. */
export function asOfInstant(history: History, deal: number, at: number): number {
	const block = blockOf(history, deal);
	const first = firstRow(block, deal);
	let row = endRow(block, deal) - 1;
	while (row >= first && (block.at[row] as number) > at) row--;
	return row < first ? -1 : row;
}

/** The day-end states of a deal up to a day, oldest first: for each day with versions, the row (in its block) of its last. */
export function dayEnds(history: History, deal: number, day: Day): number[] {
	return dayEndsIn(blockOf(history, deal), deal, day);
}

/** The same in the block of a deal, which is given by its index or by its place. */
export function dayEndsIn(block: Block, deal: number, day: Day): number[] {
	const rows: number[] = [];
	const last = lastOn(block.day, firstRow(block, deal), endRow(block, deal), day);
	if (last < 0) return rows;
	for (let row = firstRow(block, deal); row <= last; row++) {
		if (row === last || block.day[row + 1] !== block.day[row]) rows.push(row);
	}
	return rows;
}

/** A day column's value, with null for none. */
export function dayOrNull(day: Day): Day | null {
	return day === NO_DAY ? null : day;
}
