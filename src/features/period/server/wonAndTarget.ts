import { ownerIn, type Scope } from "@/core/bridge/scope";
import { targetOf } from "@/core/period/target";
import type { Day } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import type { Context } from "@/platform/context";
import { countedOn } from "./counted";

/** What some people have won in a period as seen on a day, and their target for it (null: none); base minor units. */
export function wonAndTarget(context: Context, scope: Scope, period: Period, day: Day): { won: number; target: number | null } {
	const { organisation } = context;
	const { people, unowned } = countedOn(context, period, day, day);
	let won = scope === null ? unowned.won.amount : 0;
	for (const [owner, counted] of people) if (ownerIn(scope, owner)) won += counted.won.amount;
	return { won, target: targetOf(organisation.targets, period, scope, organisation.company.rules.rates, day) };
}
