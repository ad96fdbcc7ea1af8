import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { reaches, reachOf } from "@/platform/reach";

/** Somebody within reach of the person who hands over. @throws Fault 404 for anybody else */
export function reached({ organisation, actor }: Context, id: string) {
	const index = organisation.personIndex.get(id);
	const person = index === undefined ? undefined : organisation.people[index];
	if (!person || index === undefined || !reaches(reachOf(organisation, actor), index)) throw notFound("person", id);
	return { person, index };
}
