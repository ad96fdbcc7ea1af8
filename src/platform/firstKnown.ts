import { derive } from "@/core/derive";
import type { Block } from "@/core/history/columns";
import type { Day } from "@/core/time/day";
import { ALWAYS } from "@/core/time/period";
import type { OrganisationState } from "@/data/organisation/state";

/** The first day of which anything is known. */
export function firstKnown({ company: { history } }: Pick<OrganisationState, "company">): Day {
	const firstOf = (block: Block) => derive(block, "first known", "", () => block.day.reduce((first, day) => Math.min(first, day), ALWAYS.end));
	return history.blocks.reduce((first, block) => Math.min(first, firstOf(block)), ALWAYS.end);
}
