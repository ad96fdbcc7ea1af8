import { derive, keyOf } from "@/core/derive";
import { blockIndex } from "@/core/history/columns";
import { wonSpans } from "@/core/history/won";
import type { TaskOfDeal } from "@/core/tasks/followThrough";
import { type Outcome, outcomesOf } from "@/core/tasks/outcome";
import type { Day } from "@/core/time/day";
import type { Context } from "@/platform/context";

/** The outcomes of a task's flags as seen on a day. Flags of its deal depend on others only by the wins that usual times are measured on. */
export function outcomesOn({ organisation: { company } }: Context, { task, deal }: TaskOfDeal, day: Day): readonly Outcome[] {
	const key = keyOf(company.blocks[blockIndex(deal)], company.rules, company.people, wonSpans(company), day);
	return derive(task, "outcomes", key, () => outcomesOf(company, deal, task, day), 4);
}
