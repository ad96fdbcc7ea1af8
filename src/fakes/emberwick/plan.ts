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

/** How the period goes in which a deal would be won that takes so many working days: its shift in log odds, and what else is decided for that. */
export interface Going {
	readonly shift: (workingDays: number) => number;
	readonly chance: Chance;
}

/** What a deal will come to. Where nobody signs, half as many are won; where the period goes well, more of all. */
export function makePlan(chance: Chance, habit: Habit | undefined, team: string, signs: boolean, going?: Going): Plan {
	const roll = chance.unit();
	const upTo = FAMILIES.map((_, i) => FAMILIES.slice(0, i + 1).reduce((sum, f) => sum + f.share, 0));
	const family = FAMILIES[upTo.findIndex((limit) => roll < limit)] ?? (FAMILIES[0] as Family);
	const usual = habit === "two-contacts" ? 0.62 : team === "South" ? 0.42 : 0.5;
	const winning = habit === "commits-early" ? 0.32 : signs ? usual : usual / 2;
	const fate = chance.unit();
	const ending: Ending = fate < winning ? "won" : fate < 0.93 ? "lost" : "lingers";
	const reached = ending === "won" ? STAGES.length : chance.whole(1, STAGES.length);
	const lengths = STAGES.slice(0, reached).map((stage) => lengthOf(chance, family, stage));
	if (!going) return { family, ending, lengths, habit };
	// As long as it takes to be won; how the period of its end goes says whether it is.
	const whole = [...lengths, ...STAGES.slice(reached).map((stage) => lengthOf(going.chance, family, stage))];
	const odds = (winning / (1 - winning)) * Math.exp(going.shift(whole.reduce((sum, days) => sum + days, 0)));
	if (fate < odds / (1 + odds)) return { family, ending: "won", lengths: whole, habit };
	if (ending !== "won") return { family, ending, lengths, habit };
	return { family, ending: "lost", lengths: whole.slice(0, going.chance.whole(1, STAGES.length)), habit };
}

/** Working days in a stage. */
function lengthOf(chance: Chance, family: Family, stage: (typeof STAGES)[number]): number {
	const pace = family.name === "Tunnel ovens" && stage.name === "Trial bake" ? SLOW_TRIAL : family.pace;
	return Math.max(2, Math.round(chance.around(stage.usual * pace)));
}

/** Tunnel ovens stand more than half again as long in their trial as other ovens. */
const SLOW_TRIAL = 1.6;
