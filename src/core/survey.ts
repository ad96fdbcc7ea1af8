import type { Light } from "./attention/attention";
import type { Company, DealBlock } from "./company";
import { derive, derived, type Key } from "./derive";
import type { NormName, Norms } from "./flags/rule";
import { type Inspected, inspectIn } from "./inspect";
import { joined } from "./joined";
import { normsOn } from "./norms";
import type { SeenDeal, Sight } from "./seenDeal";
import type { Day } from "./time/day";

/** The deals of a block seen on a day. The same object until one of them, or what they are measured against, differs. */
export interface SeenBlock {
	/** by place; null for those that weren't there */
	readonly deals: readonly (SeenDeal | null)[];
	/** the same object while nothing but scores and levels differs, which move with the amounts of the whole: what doesn't show those is kept with it */
	readonly unrated: object;
}

/** All deals seen on a day, by index and by block. */
export interface Survey extends Inspected {
	readonly blocks: readonly SeenBlock[];
}

const DAYS_KEPT = 8;

/** All deals of a company inspected on a day. After a write only the blocks are inspected again that it touched. */
export const surveyOn = derived(
	"survey",
	(company: Company, day: Day): Survey => {
		const { rules, people } = company;
		const norms = normsOn(company, day);
		const blocks = company.blocks.map((block) => seenIn(block, { rules, people, norms }));
		return { norms, blocks, deals: joined(blocks.map(({ deals }) => deals)) };
	},
	DAYS_KEPT,
);

/** What deals are measured against; what moves scores alone comes last. */
const NORMS: readonly NormName[] = ["usual", "bigAmount", "medianAmount"];

/** A block with what it was seen by. */
interface Seen {
	readonly sight: Sight;
	readonly block: SeenBlock;
}

/** How the block at a place was seen last on a day, under some rules and with some people. */
const seenLast = derived(
	"block seen",
	(_place: object, _rules: object, _people: object, _attention: object, _day: Day): { last: { of: DealBlock; seen: Seen } | null } => ({ last: null }),
	DAYS_KEPT,
);

/** The deals of a block: as they were seen last, and then by one norm after another that isn’t as it was then. */
function seenIn(block: DealBlock, sight: Sight): SeenBlock {
	const place = seenLast(block.place, sight.rules, sight.people, sight.norms.attention, sight.norms.day);
	const before = place.last?.of === block ? place.last.seen : seenFirst(block, sight, place.last);
	place.last = { of: block, seen: NORMS.reduce((seen, name) => seenBy(seen, name, sight.norms), before) };
	return place.last.seen.block;
}

/** A block inspected; deals that the one seen last in its place has in common aren’t looked at again, an import touches few of each. */
function seenFirst(block: DealBlock, now: Sight, last: { readonly of: DealBlock; readonly seen: Seen } | null): Seen {
	const sight = last?.seen.sight ?? now;
	const deals = block.facts.map((facts, place) => {
		const before = last?.of.facts[place] === facts ? last.seen.block.deals[place] : undefined;
		return before === undefined ? inspectIn(block, block.first + place, sight) : (before?.movedTo(block, sight) ?? null);
	});
	return { sight, block: { deals, unrated: {} } };
}

/** A block by another norm: most deals stay as they are, and where all do so does the block. */
function seenBy({ sight: was, block }: Seen, name: NormName, norms: Norms): Seen {
	if (was.norms[name] === norms[name]) return { sight: was, block };
	const sight = { ...was, norms: { ...was.norms, [name]: norms[name] } };
	const deals = block.deals.map((seen) => seen?.by(sight, name) ?? null);
	if (deals.every((seen, place) => seen === block.deals[place])) return { sight, block };
	return { sight, block: { deals, unrated: name === "medianAmount" ? block.unrated : {} } };
}

/**
 * What is found in each block of a survey, one after another. What was found is kept with the block, by a name that nothing
 * else uses and a key that says what it depends on beside the block.
 */
export const gathered = <T>({ blocks }: Survey, kind: string, key: Key, find: (block: SeenBlock, at: number) => readonly T[], most?: number): T[] =>
	joined(blocks.map((block, at) => derive(block, kind, key, () => find(block, at), most)));

/** How many open deals of a survey are at each level. */
export type Levels = Readonly<Record<Light, number>>;

/** How many open deals of a survey are at each level. */
export function levelsOf(survey: Inspected): Levels {
	const levels: Record<Light, number> = { act: 0, watch: 0, calm: 0 };
	for (const seen of survey.deals) if (seen?.status === "open") levels[seen.attention.level]++;
	return levels;
}
