import { derived } from "@/core/derive";
import type { Block } from "@/core/history/columns";
import type { Day } from "@/core/time/day";
import { ALWAYS } from "@/core/time/period";
import type { OrganisationState } from "@/data/organisation/state";

const firstIn = derived("first known", ({ day }: Block): Day => day.reduce((first, one) => Math.min(first, one), ALWAYS.end));

/** The first day of which anything is known. */
export const firstKnown = ({ company: { history } }: Pick<OrganisationState, "company">): Day =>
	history.blocks.reduce((first, block) => Math.min(first, firstIn(block)), ALWAYS.end);
