import { worksOn } from "@/core/people/person";
import type { Context } from "./context";
import { chosenName } from "./names";
import { reaches, reachOf } from "./reach";

/** Whom somebody may give a deal or an account to: reps and managers within their reach who work here. */
export const ownersFor = ({ organisation, actor, now }: Context): { id: string; name: string }[] => {
	const reach = reachOf(organisation, actor);
	return organisation.people.flatMap((person, index) =>
		reaches(reach, index) && worksOn(person, now.day) && (person.role === "rep" || person.role === "manager")
			? [{ id: person.id, name: chosenName(organisation, index) }]
			: [],
	);
};
