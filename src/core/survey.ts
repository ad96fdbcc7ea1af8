import type { Light } from "./attention/attention";
import type { Company, DealBlock } from "./company";
import { derived } from "./derive";
import type { NormName, Norms } from "./flags/rule";
import { type DealSeen, type Inspected, inspect, inspectAgain } from "./inspect";
import { normsOn } from "./norms";
import type { Day } from "./time/day";

/** The deals of a block seen on a day, by place; null for those that weren't there. The same object until one of them, or what they are measured against, differs. */
export type SeenBlock = readonly (DealSeen | null)[];

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
		return { norms, blocks, deals: blocks.flat() };
	},
	DAYS_KEPT,
);

const NORMS: readonly NormName[] = ["usual", "medianAmount", "bigAmount"];

interface Seen {
	readonly norms: Norms;
	readonly deals: SeenBlock;
}
/** How a block was seen last on a day, under some rules and with some people. */
const lastSeen = derived(
	"block seen",
	(_block: DealBlock, _rules: object, _people: object, _attention: object, _day: Day): { seen: Seen | null } => ({ seen: null }),
	DAYS_KEPT,
);

function seenIn(company: Company, block: DealBlock, norms: Norms): SeenBlock {
	const last = lastSeen(block, company.rules, company.people, norms.attention, norms.day);
	const deals = last.seen ? seenAgain(company, last.seen, norms) : block.facts.map((_, place) => inspect(company, block.first + place, norms));
	last.seen = { norms, deals };
	return deals;
}

/** What other norms make of deals: most stay as they are. */
function seenAgain(company: Company, { norms: before, deals }: Seen, norms: Norms): SeenBlock {
	const differ = new Set(NORMS.filter((name) => norms[name] !== before[name]));
	if (!differ.size) return deals;
	const again = deals.map((seen) => seen && inspectAgain(company, seen, norms, differ));
	return again.every((seen, place) => seen === deals[place]) ? deals : again;
}

/** How many open deals of a survey are at each level. */
export type Levels = Readonly<Record<Light, number>>;

/** How many open deals of a survey are at each level. */
export function levelsOf(survey: Inspected): Levels {
	const levels: Record<Light, number> = { act: 0, watch: 0, calm: 0 };
	for (const seen of survey.deals) if (seen?.status === "open") levels[seen.attention.level]++;
	return levels;
}
