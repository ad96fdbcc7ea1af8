import { plural } from "../words/grammar";
import { fired, type Rule } from "./rule";

/** A key question is open, or the deal is known much less well than its stage expects. */
export const underQualified: Rule<"margin"> = {
	code: "under-qualified",
	name: "under-qualified",
	about: "A key question due at this stage hasn’t been answered by the buyer, or strength is far below what the stage expects.",
	needs: "questions",
	settings: {
		margin: { label: "fires when strength is more than this below expected", unit: "points", standard: 15, min: 0, max: 100 },
	},
	fires({ qualification }, settings) {
		const { strength, expected, gaps, questions } = qualification;
		const margin = settings.margin ?? 15;
		const weak = strength < expected - margin;
		if (!weak && !gaps.some((i) => questions[i]?.key)) return null;
		return fired(2, () => {
			const key = gaps.flatMap((i) => (questions[i]?.key ? [questions[i]] : []));
			const asked = gaps.slice(0, 3).map((i) => questions[i]?.prompt ?? "");
			const reasons = [key.length ? `${plural(key.length, "key question")} open` : "", weak ? `strength ${strength} where ${expected} is expected` : ""];
			return {
				evidence: { strength, expected, margin, keyGaps: key.map((q) => q.id) },
				label: "Under-qualified",
				reason: reasons.filter(Boolean).join(", "),
				clears: "key questions heard from the buyer, and strength near what the stage expects",
				remedy: asked.length ? `Ask the buyer: ${asked.join(" · ")}` : "Ask the buyer what is still only assumed",
			};
		});
	},
};
