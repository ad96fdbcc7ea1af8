import { RULES } from "@/core/flags/list";
import { type Lighting, lightingSteps, type TaskHelp, taskHelp } from "@/core/patterns/taskHelp";
import type { Context } from "@/platform/context";
import { runCooperatively } from "@/platform/runCooperatively";
import { counting, dayOf, finding, type Given, scopeOf } from "../given";

/** Whether flags are out more often where a task names them, by flag: those that lit at all, in the order of the rules. */
export interface FlagHelp extends TaskHelp {
	readonly code: string;
	readonly name: string;
	readonly lightings: readonly Lighting[];
}

/** The lightings of some people's deals, flag by flag, and what they say. */
export async function helpOf(context: Context, given: Given, told?: (done: number) => void): Promise<FlagHelp[]> {
	const { company } = context.organisation;
	const all = await runCooperatively(lightingSteps(company, scopeOf(context, given), dayOf(given.day)), counting(told));
	return RULES.flatMap(({ code, name }) => {
		const lightings = all.filter(({ flag }) => flag === code);
		return lightings.length ? [{ code, name, lightings, ...taskHelp(lightings) }] : [];
	});
}

/** The same without its deals. */
export const helpFound = finding({
	// It pauses after each two thousand deals; how many there are isn’t known here.
	steps: () => 30,
	compute: async (context, given, told) => (await helpOf(context, given, told)).map(({ lightings: _, ...one }) => one),
});
