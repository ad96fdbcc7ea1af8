import type { Company } from "@/core/company";
import type { TaskOfDeal } from "@/core/tasks/followThrough";
import { lastLookedAt, type Outcome, outcomesOf } from "@/core/tasks/outcome";
import type { Day } from "@/core/time/day";
import { whenPatched } from "@/data/organisation/follow";
import { cached, cachedOf } from "@/platform/cached";
import type { Context } from "@/platform/context";

const KIND = "outcomes";
/** An import may write of days long past; what a person writes is of now, and leaves other deals' past alone. */
const FEW = 20;

interface Known extends TaskOfDeal {
	readonly outcomes: readonly Outcome[];
	/** nothing that happens from the seen day on changes it */
	readonly settled: boolean;
}
type ByTask = Map<string, Known>;

const knownOn = (company: Company, day: Day): ByTask => cached(company, KIND, String(day), () => new Map());

whenPatched(KIND, (from, to, changed) => {
	if (changed.size > FEW) return;
	for (const [day, known] of cachedOf<ByTask>(from, KIND)) {
		const kept = [...known].filter(([, { deal, settled }]) => settled && !changed.has(deal));
		cached(to, KIND, day, () => new Map(kept));
	}
});

/** The outcomes of a task's flags as seen on a day; kept with the company, and what is settled also after others' writes. */
export function outcomesOn({ organisation: { company } }: Context, { task, deal }: TaskOfDeal, day: Day): readonly Outcome[] {
	if (!task.flags.length) return [];
	const known = knownOn(company, day);
	const before = known.get(task.id);
	if (before?.task === task) return before.outcomes;
	const outcomes = outcomesOf(company, deal, task, day);
	const settled = lastLookedAt(company, task, day) < day || outcomes.every(({ state, on }) => state !== "lit" && state !== "early" && on < day);
	known.set(task.id, { task, deal, outcomes, settled });
	return outcomes;
}
