import { worksOn } from "../people/person";
import { isoOrNull, NO_DAY } from "../time/day";
import { shortDay } from "../time/words";
import { fired, type Rule } from "./rule";

/** Nobody who works here looks after it. */
export const unowned: Rule = {
	code: "unowned",
	name: "no owner",
	about: "The deal has no owner, or its owner wasn’t with the company on that day.",
	settings: {},
	fires({ people, owner, seen }) {
		const person = people[owner];
		if (person && worksOn(person, seen)) return null;
		const left = person && person.activeTo !== NO_DAY && person.activeTo < seen;
		return fired(3, () => ({
			evidence: { left: isoOrNull(left ? person.activeTo : NO_DAY) },
			label: "No owner",
			reason: !person ? "nobody owns it" : left ? `its owner left on ${shortDay(person.activeTo)}` : "its owner hasn’t started yet",
			clears: "a current employee as owner",
			remedy: "Assign an owner",
		}));
	},
};
