import { textsOnce } from "../spans";
import type { Zone } from "../time/zone";
import { type Block, blockIndex, blockSpans, emptyColumns, HISTORY_COLUMNS, type History, NONE, PLAIN, type VersionRow } from "./columns";

/** Makes a block of versions sorted by deal, instant and id; `first` is the deal at its first place, `deals` how many places it has. */
function blockFrom(first: number, deals: number, sorted: readonly VersionRow[], zone: Zone): Block {
	const { texts, place } = textsOnce([""]);
	const block = { offsets: new Int32Array(deals + 1), ...emptyColumns(sorted.length), texts };
	sorted.forEach((row, i) => {
		const after = row.deal - first + 1;
		block.offsets[after] = (block.offsets[after] as number) + 1;
		for (const name of PLAIN) block[name][i] = row[name];
		block.day[i] = zone.dayOf(row.at);
		block.nextStep[i] = place(row.nextStep);
	});
	for (let i = 0; i < deals; i++) block.offsets[i + 1] = (block.offsets[i + 1] as number) + (block.offsets[i] as number);
	return block;
}

/** Blocks of versions given in any order. Two versions of a deal at one instant keep the higher id as the later. */
export function makeHistory(deals: number, rows: readonly VersionRow[], zone: Zone): History {
	return withVersions({ deals: 0, blocks: [] }, deals, new Set(), rows, zone);
}

/**
 * A history after some deals changed: `rows` are all versions of those (none for a deal that is gone) and of new ones, in
 * any order. Blocks of deals that didn't change are the same objects.
 */
export function withVersions(history: History, deals: number, changed: ReadonlySet<number>, rows: readonly VersionRow[], zone: Zone): History {
	const sorted = [...rows].sort((a, b) => a.deal - b.deal || a.at - b.at || a.id - b.id);
	const dirty = new Set([...changed].map(blockIndex));
	let next = 0;
	const blocks: Block[] = [];
	for (const [first, end] of blockSpans(deals)) {
		const before = history.blocks[blocks.length];
		const from = next;
		while (next < sorted.length && (sorted[next] as VersionRow).deal < end) next++;
		const same = before && before.offsets.length === end - first + 1 && !dirty.has(blocks.length);
		blocks.push(same ? before : spliced(before, blockFrom(first, end - first, sorted.slice(from, next), zone), (place) => changed.has(first + place)));
	}
	return { deals, blocks };
}

/** A block of what is new of some places, and what was there before of the others. */
function spliced(before: Block | undefined, part: Block, isNew: (place: number) => boolean): Block {
	if (!before) return part;
	const places = part.offsets.length - 1;
	const known = before.offsets.length - 1;
	const { texts, place: placeOf } = textsOnce(before.texts);
	const nextStep = part.nextStep.map((text) => placeOf(part.texts[text] as string));
	const named: Block = { ...part, nextStep, texts };
	const sourceOf = (place: number) => (place >= known || isNew(place) ? named : before);
	const offsets = new Int32Array(places + 1);
	for (let place = 0; place < places; place++) {
		const source = sourceOf(place).offsets;
		offsets[place + 1] = (offsets[place] as number) + (source[place + 1] as number) - (source[place] as number);
	}
	const next: Block = { offsets, ...emptyColumns(offsets[places] as number), texts };
	// Runs of deals of one source are copied at once.
	for (let first = 0; first < places; ) {
		const source = sourceOf(first);
		let end = first + 1;
		while (end < places && sourceOf(end) === source) end++;
		for (const name of HISTORY_COLUMNS) {
			next[name].set(source[name].subarray(source.offsets[first], source.offsets[end]) as never, offsets[first] as number);
		}
		first = end;
	}
	return next;
}

/** The same versions with owners and currencies named by other places: `of[place]` is the place from now on. NONE stays. */
export function renumbered(history: History, of: { readonly owner: ArrayLike<number>; readonly currency: ArrayLike<number> }): History {
	const moved = (place: number, places: ArrayLike<number>) => (place === NONE ? NONE : (places[place] as number));
	return {
		...history,
		blocks: history.blocks.map((block) => ({
			...block,
			owner: block.owner.map((place) => moved(place, of.owner)),
			currency: block.currency.map((place) => moved(place, of.currency)),
		})),
	};
}
