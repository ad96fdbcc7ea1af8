import { CATEGORIES } from "../history/columns";
import { NO_DAY } from "../time/day";
import { listed } from "../words/grammar";
import { fired, type Rule, valuesOf } from "./rule";
import { runwayOf, shortRunway } from "./shortRunway";

/** It is promised for the period, and something says that it won't hold. */
export const shakyCommit: Rule<"strength" | "from"> = {
	code: "shaky-commit",
	name: "shaky commit",
	about: "The deal is in commit although it is weak, early, overdue or short of runway.",
	norms: ["usual"],
	settings: {
		strength: { label: "fires when strength is below this", unit: "points", standard: 60, min: 0, max: 100 },
		from: { label: "or before this open stage", unit: "stage position", standard: 3, min: 1, max: 1000 },
	},
	fires(subject, settings) {
		const { rules, category, qualification, stage, close, seen } = subject;
		if (CATEGORIES[category] !== "commit") return null;
		const runway = runwayOf(subject, valuesOf(shortRunway, rules.flags, stage.name));
		const limit = settings.strength ?? 60;
		const doubts = [
			qualification.strength < limit ? `strength is ${qualification.strength}, below ${limit}` : "",
			stage.rank < (settings.from ?? 3) ? `it is only in ${stage.name}` : "",
			close !== NO_DAY && close < seen ? "it is overdue" : "",
			runway && runway.left < runway.needed ? "its runway is short" : "",
		].filter(Boolean);
		if (!doubts.length) return null;
		return fired(3, () => ({
			evidence: { doubts, strength: qualification.strength, stage: stage.name },
			label: "Shaky commit",
			reason: `it is in commit, but ${listed(doubts)}`,
			clears: "these points resolved, or another category",
			remedy: "Show that it will close, or remove it from commit",
		}));
	},
};
