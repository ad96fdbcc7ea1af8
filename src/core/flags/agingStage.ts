import { workingDays } from "../time/words";
import { fired, type Rule } from "./rule";

/** Longer in its stage than three of four visits of won deals. */
export const agingStage: Rule = {
	code: "aging-stage",
	name: "long in stage",
	about: "Longer in its stage than three quarters of the deals that were won.",
	norms: ["usual"],
	settings: {},
	fires({ norms, stageIndex, stage, stageAge }) {
		const usual = norms.usual.stages[stageIndex];
		if (!usual || stageAge <= usual.threeQuarters.days) return null;
		const half = Math.round(usual.half.days);
		const limit = Math.round(usual.threeQuarters.days * 10) / 10;
		const how = usual.threeQuarters.measured ? `measured on ${usual.threeQuarters.sample} visits of won deals` : "as configured";
		return fired(2, () => ({
			evidence: {
				stage: stage.name,
				days: stageAge,
				usual: usual.half.days,
				threeQuarters: usual.threeQuarters.days,
				measured: usual.threeQuarters.measured,
				sample: usual.threeQuarters.sample,
			},
			label: `${stageAge} d in stage, usual ${half}`,
			reason: `${workingDays(stageAge)} in ${stage.name}; usual ${half}, and three of four take no more than ${limit} (${how})`,
			clears: "a move to another stage",
			remedy: `Settle what ${stage.name} still needs`,
		}));
	},
};
