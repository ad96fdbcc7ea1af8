import type { Company } from "../company";
import { workingDays } from "../time/words";
import { fired, type Norms, type Rule, valuesOf } from "./rule";
import { ofWon, percentileOf, percentileSetting } from "./usualSetting";

/** Longer in its stage than visits of won deals at a percentile. */
export const agingStage: Rule<"percentile"> = {
	code: "aging-stage",
	name: "long in stage",
	about: "In its stage longer than nearly all deals that were won.",
	norms: ["usual"],
	settings: { percentile: percentileSetting("longer than so many of a hundred visits of won deals", 90) },
	fires({ norms, stageIndex, stage, stageAge }, settings) {
		const times = norms.usual.stages[stageIndex]?.visit;
		if (!times) return null;
		const percentile = percentileOf(settings.percentile, 90);
		const limit = times[percentile];
		if (stageAge <= limit.days) return null;
		const usual = times[50];
		const most = Math.round(limit.days * 10) / 10;
		const how = limit.measured ? `measured on ${limit.sample} visits of won deals` : "as configured";
		return fired(2, () => ({
			evidence: {
				stage: stage.name,
				days: stageAge,
				usual: usual.days,
				percentile,
				limit: limit.days,
				measured: limit.measured,
				sample: limit.sample,
			},
			label: `${stageAge} d in stage, usual ${Math.round(usual.days)}`,
			reason: `${workingDays(stageAge)} in ${stage.name}; usual ${Math.round(usual.days)}, and ${ofWon(percentile)} take no more than ${most} (${how})`,
			clears: "a move to another stage",
			remedy: `Resolve what ${stage.name} still needs`,
		}));
	},
};

/** How long deals that were won stood in a stage, and from when on a deal is long in it by the rule's settings, whether it is on or off. */
export function stageTimes({ rules }: Company, { usual }: Norms, stageIndex: number) {
	const times = usual.stages[stageIndex]?.visit;
	const percentile = percentileOf(valuesOf(agingStage, rules.flags, rules.stages[stageIndex]?.name ?? null).percentile ?? null, 90);
	return {
		usual: times?.[50].days ?? 0,
		limit: times?.[percentile].days ?? 0,
		/** how many of the won deals took no more than the limit, in words */
		most: ofWon(percentile),
		measured: times?.[50].measured ?? false,
		sample: times?.[50].sample ?? 0,
	};
}
