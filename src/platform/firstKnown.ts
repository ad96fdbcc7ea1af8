import type { Day } from "@/core/time/day";
import { ALWAYS } from "@/core/time/period";
import type { OrganisationState } from "@/data/organisation/state";

const known = new WeakMap<OrganisationState["company"], Day>();

/** The first day of which anything is known; kept with the company, since it looks at every version. */
export function firstKnown({ company }: Pick<OrganisationState, "company">): Day {
	const found = known.get(company) ?? company.history.day.reduce((least, day) => Math.min(least, day), ALWAYS.end);
	known.set(company, found);
	return found;
}
