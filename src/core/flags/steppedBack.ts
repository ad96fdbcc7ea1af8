import { formatDay, NO_DAY } from "../time/day";
import { shortDay } from "../time/words";
import { plural } from "../words/grammar";
import { fired, type Rule } from "./rule";

/** It went to an earlier stage lately. */
export const steppedBack: Rule<"days"> = {
	code: "stepped-back",
	name: "stepped back",
	about: "The deal was moved back to an earlier stage recently.",
	settings: {
		days: { label: "looks back over", unit: "calendar days", standard: 30, min: 1, max: 1000 },
	},
	fires({ rules, path, seen }, settings) {
		const days = settings.days ?? 30;
		const day = path.lastBack;
		if (day === NO_DAY || day <= seen - days) return null;
		const into = path.visits.findLast((visit) => visit.from === day);
		const from = path.visits.findLast((visit) => visit.to === day);
		const { stages } = rules;
		const name = (visit: typeof into) => (visit ? (stages[visit.stage]?.name ?? "") : "");
		return fired(1, () => ({
			evidence: { on: formatDay(day), from: name(from), to: name(into), days },
			label: "Stepped back",
			reason: `it went back from ${name(from)} to ${name(into)} on ${shortDay(day)}`,
			clears: `${plural(days, "day")} passed without another step back`,
			remedy: "Find out what changed at the buyer",
		}));
	},
};
