import { workingDays } from "../time/words";
import { fired, type Rule } from "./rule";

/** Open for longer than nine of ten won deals took. */
export const agingDeal: Rule = {
	code: "aging-deal",
	name: "open long",
	about: "Open longer than nine in ten won deals took from creation to signature.",
	norms: ["usual"],
	settings: {},
	fires({ norms, dealAge }) {
		const { cycle } = norms.usual;
		if (dealAge <= cycle.days) return null;
		const limit = Math.round(cycle.days);
		return fired(1, () => ({
			evidence: { days: dealAge, usualCycle: cycle.days, measured: cycle.measured, sample: cycle.sample },
			label: `Open ${dealAge} d`,
			reason: `open for ${workingDays(dealAge)}; ${
				cycle.measured ? `nine of ten of the ${cycle.sample} deals won in a year took at most ${limit}` : `${limit} is twice the configured path`
			}`,
			clears: "closing it, won or lost",
			remedy: "Decide: a close plan with dates, or let it go",
		}));
	},
};
