import { isTouchAt } from "../contact/activities";
import { plural } from "../words/grammar";
import { fired, type Rule } from "./rule";

/** Late in its path, and only one person of the buyer's is spoken to. */
export const loneContact: Rule<"from" | "days"> = {
	code: "lone-contact",
	name: "one contact",
	about: "From a set stage on, fewer than two people at the buyer were in contact recently.",
	needs: "activities",
	settings: {
		from: { label: "from this open stage on", unit: "stage position", standard: 3, min: 1, max: 1000 },
		days: { label: "looks back over", unit: "calendar days", standard: 60, min: 1, max: 1000 },
	},
	fires({ facts, stage, seen }, settings) {
		const days = settings.days ?? 60;
		if (stage.rank < (settings.from ?? 3)) return null;
		let met: number | null = null;
		const { columns, from, end } = facts.activities;
		const { day, contacts: who, contactOffsets } = columns;
		for (let row = from; row < end; row++) {
			if ((day[row] as number) > seen || (day[row] as number) <= seen - days || !isTouchAt(columns, row)) continue;
			for (let at = contactOffsets[row] as number; at < (contactOffsets[row + 1] as number); at++) {
				if (met !== null && who[at] !== met) return null;
				met = who[at] as number;
			}
		}
		const contacts = met === null ? 0 : 1;
		return fired(2, () => ({
			evidence: { contacts, days, stage: stage.name },
			label: contacts ? "One contact" : "No contact",
			reason: `${contacts ? "only one person" : "nobody"} of theirs was in touch in the last ${plural(days, "day")}, in ${stage.name}`,
			clears: "contact with a second person at the buyer",
			remedy: "Meet a second person at the buyer",
		}));
	},
};
