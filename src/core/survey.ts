import type { Light } from "./attention/attention";
import type { Company, DealBlock } from "./company";
import type { DealSeen } from "./dealSeen";
import { derive, derived, type Key } from "./derive";
import type { NormName, Norms } from "./flags/rule";
import { type Inspected, inspect, inspectAgain } from "./inspect";
import { joined } from "./joined";
import { normsOn } from "./norms";
import type { Day } from "./time/day";

/** The deals of a block seen on a day. The same object until one of them, or what they are measured against, differs. */
export interface SeenBlock {
	/** by place; null for those that weren't there */
	readonly deals: readonly (DealSeen | null)[];
	/** the same object while nothing but scores and levels differs, which move with the amounts of the whole: what doesn't show those is kept with it */
	readonly unrated: object;
}

/** All deals seen on a day, by index and by block. */
export interface Survey extends Inspected {
	readonly blocks: readonly SeenBlock[];
}

const DAYS_KEPT = 8;

/** All deals of a company inspected on a day. After a write only the blocks are inspected anew that it touched. */
export const surveyOn = derived(
	"survey",
	(company: Company, day: Day): Survey => {
		const norms = normsOn(company, day);
		const blocks = company.blocks.map((block) => seenIn(company, block, norms));
		return { norms, blocks, deals: joined(blocks.map(({ deals }) => deals)) };
	},
	DAYS_KEPT,
);

/**
 * What is found in each block of a survey, one after another. What was found is kept with the block, by a name that nothing
 * else uses and a key that says what it depends on beside the block.
 */
export const gathered = <T>({ blocks }: Survey, kind: string, key: Key, find: (block: SeenBlock, at: number) => readonly T[], most?: number): T[] =>
	joined(blocks.map((block, at) => derive(block, kind, key, () => find(block, at), most)));

const NORMS: readonly NormName[] = ["usual", "medianAmount", "bigAmount"];

interface Seen {
	readonly of: DealBlock;
	readonly norms: Norms;
	readonly block: SeenBlock;
}
/** How the deals at a block's place were seen last on a day, under some rules and with some people. */
const lastSeen = derived(
	"block seen",
	(_place: object, _rules: object, _people: object, _attention: object, _day: Day): { seen: Seen | null } => ({ seen: null }),
	DAYS_KEPT,
);

function seenIn(company: Company, block: DealBlock, norms: Norms): SeenBlock {
	const last = lastSeen(block.place, company.rules, company.people, norms.attention, norms.day);
	last.seen = {
		of: block,
		norms,
		block: last.seen ? seenAgain(company, seenAnew(company, last.seen, block), norms) : { deals: inspected(company, block, norms, null), unrated: {} },
	};
	return last.seen.block;
}

/** The deals of a block inspected; those that another block of its place has in common are as they were seen there, by the same norms. */
const inspected = (company: Company, block: DealBlock, norms: Norms, before: Seen | null): SeenBlock["deals"] =>
	block.facts.map((facts, place) => {
		const seen = before?.of.facts[place] === facts ? before.block.deals[place] : undefined;
		return seen === undefined ? inspect(company, block.first + place, norms) : seen;
	});

/** A block seen by the norms that another of its place was seen by last. */
const seenAnew = (company: Company, last: Seen, block: DealBlock): Seen =>
	last.of === block ? last : { of: block, norms: last.norms, block: { deals: inspected(company, block, last.norms, last), unrated: {} } };

/** What other norms make of deals: most stay as they are. */
function seenAgain(company: Company, { norms: before, block }: Seen, norms: Norms): SeenBlock {
	const differ = new Set(NORMS.filter((name) => norms[name] !== before[name]));
	if (!differ.size) return block;
	const deals = block.deals.map((seen) => seen && inspectAgain(company, seen, norms, differ));
	if (deals.every((seen, place) => seen === block.deals[place])) return block;
	const lit = deals.some((seen, place) => seen?.flags !== block.deals[place]?.flags);
	return { deals, unrated: lit ? {} : block.unrated };
}

/** How many open deals of a survey are at each level. */
export type Levels = Readonly<Record<Light, number>>;

/** How many open deals of a survey are at each level. */
export function levelsOf(survey: Inspected): Levels {
	const levels: Record<Light, number> = { act: 0, watch: 0, calm: 0 };
	for (const seen of survey.deals) if (seen?.status === "open") levels[seen.attention.level]++;
	return levels;
}
