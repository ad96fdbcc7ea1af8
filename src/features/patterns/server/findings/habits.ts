import { NONE } from "@/core/history/columns";
import { dayOf, finding } from "../given";
import { habitsOf } from "../habits";
import { USUAL_LOOK } from "../looking";

/** What the past says of one person (`by`), beside all others. */
export const habits = finding({
	steps: () => 1,
	compute(context, { by, day, quarters = USUAL_LOOK.quarters, lead = USUAL_LOOK.lead }) {
		const owner = context.organisation.personIndex.get(by ?? "") ?? NONE;
		return habitsOf({ context, personId: by ?? "", owner, day: dayOf(day), look: { quarters, lead } });
	},
});
