import type { Context } from "./context";
import { notFound } from "./fault";
import { reaches, reachOf } from "./reach";

/** The index of somebody within reach, or oneself; throws a 404 for anybody else. */
export function reachPerson({ organisation, actor }: Context, id: string): number {
	const index = organisation.personIndex.get(id);
	if (index === undefined || !(index === actor.index || reaches(reachOf(organisation, actor), index))) throw notFound("person", id);
	return index;
}
