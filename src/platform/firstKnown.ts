import type { Day } from "@/core/time/day";
import { ALWAYS } from "@/core/time/period";
import type { OrganisationState } from "@/data/organisation/state";
import { cached } from "./cached";

/** The first day of which anything is known; kept with the history, since it looks at every version. */
export function firstKnown({ company: { history } }: Pick<OrganisationState, "company">): Day {
	return cached(history, "first known", "", () => history.day.reduce((first, day) => Math.min(first, day), ALWAYS.end));
}
