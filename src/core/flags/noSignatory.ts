import { buyersOn } from "../people/buyers";
import { fired, type Rule } from "./rule";

/** Late in its path, and nobody on it can sign. */
export const noSignatory: Rule<"from"> = {
	code: "no-signatory",
	name: "no signatory",
	about: "From a set stage on, no contact on the deal is the signatory.",
	needs: "contacts",
	settings: {
		from: { label: "from this open stage on", unit: "stage position", standard: 3, min: 1, max: 1000 },
	},
	fires({ facts, stage, seen }, settings) {
		if (stage.rank < (settings.from ?? 3)) return null;
		const { count: contacts, signatory } = buyersOn(facts.buyers, seen);
		if (signatory) return null;
		return fired(2, () => ({
			evidence: { stage: stage.name, contacts },
			label: "No signatory",
			reason: `the deal is in ${stage.name}, and ${contacts ? "none of its contacts" : "nobody"} is known to decide`,
			clears: "a signatory among the deal’s contacts",
			remedy: "Find out who signs, and meet them",
		}));
	},
};
