import type { Company, DealBlock } from "@/core/company";
import { derived } from "@/core/derive";
import { blockIndex } from "@/core/history/columns";
import { type Spans, wonSpans } from "@/core/history/won";
import type { TaskOfDeal } from "@/core/tasks/followThrough";
import { type Outcome, outcomesOf } from "@/core/tasks/outcome";
import type { TaskFacts } from "@/core/tasks/task";
import type { Day } from "@/core/time/day";
import type { Context } from "@/platform/context";

/** The outcomes of a block’s tasks as seen on a day; flags of its deals depend on others only by the wins that usual times are measured on. */
const outcomesIn = derived(
	"outcomes",
	(_block: DealBlock, _rules: Company["rules"], _people: object, _wins: Spans, _day: Day) => new Map<TaskFacts, readonly Outcome[]>(),
);

/** The outcomes of a task's flags as seen on a day. */
export function outcomesOn({ organisation: { company } }: Context, { task, deal }: TaskOfDeal, day: Day): readonly Outcome[] {
	const block = company.blocks[blockIndex(deal)];
	if (!task.flags.length || !block) return outcomesOf(company, deal, task, day);
	const known = outcomesIn(block, company.rules, company.people, wonSpans(company), day);
	const outcomes = known.get(task) ?? outcomesOf(company, deal, task, day);
	known.set(task, outcomes);
	return outcomes;
}
