import { derived } from "../derive";
import type { Stage } from "../history/stage";
import type { Percentile } from "../history/usual";
import { formatDay, NO_DAY } from "../time/day";
import { shortDay, workingDays } from "../time/words";
import { plural } from "../words/grammar";
import { fired, type Rule, type Settings, type Subject } from "./rule";
import { ofWon, percentileOf, percentileSetting } from "./usualSetting";

/** Working days that are left, and those that won deals needed from here at a percentile. */
export interface Runway {
	readonly percentile: Percentile;
	readonly left: number;
	readonly needed: number;
	/** whether what is needed was measured on won deals */
	readonly measured: boolean;
	readonly sample: number;
	/** the open stage after this one, or null in the last */
	readonly next: string | null;
}

/** The index of the open stage after one; −1 after the last. */
const stageAfter = (stages: readonly Stage[], { rank }: Stage): number => places(stages)[rank + 1] ?? -1;
/** The indices of open stages, by rank. */
const places = derived("places of open stages", (stages: readonly Stage[]): readonly (number | undefined)[] => {
	const found: number[] = [];
	stages.forEach(({ kind, rank }, place) => {
		if (kind === "open" && found[rank] === undefined) found[rank] = place;
	});
	return found;
});

/** The runway of a deal by this rule's settings, or null when it has no close date or that has passed. */
export function runwayOf({ rules, close, seen, norms, stage, stageIndex, stageAge }: Subject, settings: Settings): Runway | null {
	if (close === NO_DAY || close < seen) return null;
	const { stages, calendar } = rules;
	const percentile = percentileOf(settings.percentile ?? null, 25);
	const here = norms.usual.stages[stageIndex]?.remaining[percentile];
	const after = stageAfter(stages, stage);
	const there = norms.usual.stages[after]?.remaining[percentile];
	const rest = (here?.days ?? 0) - stageAge;
	const next = there?.days ?? 1;
	const source = there && next >= rest ? there : here;
	return {
		percentile,
		left: calendar.between(seen, close),
		needed: Math.max(next, rest),
		measured: source?.measured ?? false,
		sample: source?.sample ?? 0,
		next: stages[after]?.name ?? null,
	};
}

/** Less time is left until the close date than even the quicker won deals needed from this stage. */
export const shortRunway: Rule<"percentile"> = {
	code: "short-runway",
	name: "short runway",
	about: "Fewer working days are left to the close date than even the fast won deals needed from this stage.",
	norms: ["usual"],
	settings: { percentile: percentileSetting("this share of won deals needed at most as long, in %", 25) },
	fires(subject, settings) {
		const runway = runwayOf(subject, settings);
		if (!runway || runway.left >= runway.needed) return null;
		const { close, stage } = subject;
		const how = () => (runway.measured ? `measured on ${plural(runway.sample, "won deal")}` : "as configured");
		return fired(2, () => ({
			evidence: {
				left: runway.left,
				needed: runway.needed,
				percentile: runway.percentile,
				measured: runway.measured,
				sample: runway.sample,
				closeDate: formatDay(close),
			},
			label: "Short runway",
			reason: `${workingDays(runway.left)} to the close date on ${shortDay(close)}, and from ${stage.name} only ${ofWon(runway.percentile)} needed ${Math.round(runway.needed * 10) / 10} or fewer (${how()})`,
			clears: "a later close date or a step to a later stage",
			remedy: "Move the close date or shorten the path to it",
		}));
	},
};
