import { formatDay } from "../time/day";
import { shortDay } from "../time/words";
import { plural } from "../words/grammar";
import { fired, type Rule } from "./rule";

/** The close date was pushed again and again, or out of a quarter. */
export const slipped: Rule<"pushes" | "crossings"> = {
	code: "slipped",
	name: "slipped",
	about: "The close date was pushed several times, or past the end of a fiscal quarter.",
	settings: {
		pushes: { label: "fires from this many pushes", unit: "pushes", standard: 2, min: 1, max: 50 },
		crossings: { label: "or from this many quarter ends crossed", unit: "quarter ends", standard: 1, min: 1, max: 50 },
	},
	fires({ trail }, settings) {
		const { pushes, crossings, pushedDays, netDays } = trail;
		if (pushes < (settings.pushes ?? 2) && crossings < (settings.crossings ?? 1)) return null;
		const crossed = () => (crossings ? `, over ${plural(crossings, "quarter end")}` : "");
		return fired(pushes >= 3 || crossings >= 2 ? 3 : 2, () => ({
			evidence: { pushes, crossings, pushedDays, netDays, firstCloseDate: formatDay(trail.first) },
			label: `Slipped ×${pushes}`,
			reason: `${plural(pushes, "push", "pushes")}, ${plural(pushedDays, "calendar day")} in all${crossed()}; it was first due ${shortDay(trail.first)}`,
			clears: "the deal closed; the trail keeps its history",
			remedy: "Find out what the close date depends on",
		}));
	},
};
