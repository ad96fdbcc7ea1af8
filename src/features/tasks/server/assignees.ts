import { worksOn } from "@/core/people/person";
import { formatDay } from "@/core/time/day";
import { type Person, teamsUnder } from "@/data/organisation/state";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { reaches, reachOf } from "@/platform/reach";
import { sharingTeams } from "@/platform/sharing";

/** The people within reach of the actor who do tasks: themselves, and all but viewers. Those who have left are among them. */
function withinReach(context: Context): Person[] {
	const { organisation, actor } = context;
	const reach = reachOf(organisation, actor);
	return organisation.people.filter((person, i) => (i === actor.index || reaches(reach, i)) && person.role !== "viewer");
}

/** Whom the actor may give a task to today, by name. */
export const assignablePeople = (context: Context): { id: string; name: string }[] =>
	withinReach(context)
		.filter((person) => worksOn(person, context.now.day))
		.map(({ id, name }) => ({ id, name }))
		.sort((a, b) => a.name.localeCompare(b.name));

/** Somebody within reach who does tasks, by id, whether they still work here or not; throws a 404 for anybody else. */
export function withinReachById(context: Context, id: string): Person {
	const person = withinReach(context).find((one) => one.id === id);
	if (!person) throw notFound("person", id);
	return person;
}

/** Somebody whom the actor may give a task to today; throws a 404 for somebody out of reach, a 422 for somebody who has left. */
export function assignable(context: Context, id: string): Person {
	const person = withinReachById(context, id);
	if (!worksOn(person, context.now.day))
		throw new Fault(422, "Not with the company", `${person.name} isn’t with the company on ${formatDay(context.now.day)}; give it to someone else.`);
	return person;
}

/** The teams that a task may be given to: those the actor belongs to, leads, or stands above. */
export function assignableTeams(context: Context): string[] {
	const { organisation, actor } = context;
	const { role, team: own } = actor.person;
	const below = own !== null && role !== "rep" ? teamsUnder(organisation, own) : new Set<string>();
	const above = sharingTeams(context);
	return [...organisation.teams.keys()].filter((team) => below.has(team) || above.includes(team));
}

/** Throws a 404 for a team that the actor can't give a task to. */
export function demandTeam(context: Context, team: string): void {
	if (!assignableTeams(context).includes(team)) throw notFound("team", team);
}
