import type { Chance } from "./almanac";
import type { Habit } from "./cast";
import { FAMILIES, type Family, STAGES } from "./words";

type Ending = "won" | "lost" | "lingers";

/** What becomes of a deal, settled when it is made. */
export interface Plan {
	readonly family: Family;
	readonly ending: Ending;
	/** working days in each stage that is reached, in order */
	readonly lengths: readonly number[];
	readonly habit: Habit | undefined;
}

/** What a deal will come to. Where nobody signs, half as many are won. */
export function makePlan(chance: Chance, habit: Habit | undefined, team: string, signs: boolean): Plan {
	const roll = chance.unit();
	const upTo = FAMILIES.map((_, i) => FAMILIES.slice(0, i + 1).reduce((sum, f) => sum + f.share, 0));
	const family = FAMILIES[upTo.findIndex((limit) => roll < limit)] ?? (FAMILIES[0] as Family);
	const usual = habit === "two-contacts" ? 0.62 : team === "South" ? 0.42 : 0.5;
	const winning = habit === "commits-early" ? 0.32 : signs ? usual : usual / 2;
	const fate = chance.unit();
	const ending: Ending = fate < winning ? "won" : fate < 0.93 ? "lost" : "lingers";
	const reached = ending === "won" ? STAGES.length : chance.whole(1, STAGES.length);
	const lengths = STAGES.slice(0, reached).map((stage) => {
		const pace = family.name === "Tunnel ovens" && stage.name === "Trial bake" ? SLOW_TRIAL : family.pace;
		return Math.max(2, Math.round(chance.around(stage.usual * pace)));
	});
	return { family, ending, lengths, habit };
}

/** Tunnel ovens stand more than half again as long in their trial as other ovens. */
const SLOW_TRIAL = 1.6;
