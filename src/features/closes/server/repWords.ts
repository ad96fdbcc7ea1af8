import { ownerIn, type Scope } from "@/core/bridge/scope";
import { daysBefore } from "@/core/patterns/quarters";
import type { CloseRep } from "@/core/period/closeAccount";
import type { Committed } from "@/core/period/committed";
import type { Period } from "@/core/time/period";
import { callsTold } from "@/features/rounds";
import { readFollowThrough } from "@/features/tasks";
import type { Context } from "@/platform/context";
import { chosenName } from "@/platform/names";
import { LAST_DAYS, type Pushed } from "./went";

/** What of each rep’s commits, of the calls on their deals and of their tasks came true in a period, and what they pushed out of it; those of whom there is anything to say. */
export async function repWords(
	context: Context,
	period: Period,
	scope: Scope,
	committed: readonly Committed[],
	pushed: readonly Pushed[],
): Promise<CloseRep[]> {
	const { organisation } = context;
	const { calendar } = organisation.company.rules;
	const lastFrom = daysBefore(calendar, period.end, LAST_DAYS - 1);
	const calls = (await callsTold(context, period.end)).filter(({ day, came }) => day >= period.start && came !== null);
	const { people } = readFollowThrough(context, scope, period, period.end);
	return organisation.people.flatMap(({ id }, index): CloseRep[] => {
		if (!ownerIn(scope, index)) return [];
		const own = committed.filter(({ owner }) => owner === index);
		const called = calls.filter(({ of }) => of === id);
		const left = pushed.filter(({ owner }) => owner === index);
		const outcomes = people.find((one) => one.id === id)?.outcomes;
		const told = outcomes ? outcomes.out + outcomes.closed + outcomes.lit : 0;
		if (!own.length && !called.length && !left.length && !told) return [];
		return [
			{
				id,
				name: chosenName(organisation, index),
				commit: { of: own.length, won: own.filter(({ came }) => came !== null).length },
				calls: { of: called.length, held: called.filter(({ came }) => came).length },
				pushed: { n: left.length, late: left.filter(({ day }) => day !== null && day >= lastFrom).length },
				flags: { of: told, out: outcomes?.out ?? 0 },
			},
		];
	});
}
