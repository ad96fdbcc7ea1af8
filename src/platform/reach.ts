import { ownerIn, type Scope } from "@/core/bridge/scope";
import { type OrganisationState, teamsUnder } from "@/data/organisation/state";
import type { Context } from "./context";
import { notFound } from "./fault";
import type { Actor } from "./rights";

/**
 * Whose deals a person reaches: a rep their own; a manager or viewer those of their team and the teams below;
 * ops, and whoever stands above all teams, everyone's and the unowned ones (null).
 */
export function reachOf(organisation: OrganisationState, actor: Actor): Scope {
	const { role, team } = actor.person;
	if (role === "ops") return null;
	if (role === "rep") return new Set([actor.index]);
	if (!team) return new Set([actor.index]);
	const under = teamsUnder(organisation, team);
	if (organisation.teams.size > 0 && under.size === organisation.teams.size) return null;
	return peopleIn(organisation, under);
}

/** People of some teams, whether they still work here or not: their deals stay the team's. */
export function peopleIn(organisation: OrganisationState, teams: ReadonlySet<string>): Set<number> {
	return new Set(organisation.people.flatMap((person, i) => (person.team && teams.has(person.team) ? [i] : [])));
}

/** What both scopes hold. */
export function within(scope: Scope, reach: Scope): Scope {
	if (scope === null) return reach;
	return reach === null ? scope : new Set([...scope].filter((owner) => reach.has(owner)));
}

/** Whether deals of an owner are reached; unowned ones only by those who reach everyone's. */
export const reaches = ownerIn;

/** The scope a query asks for, within what the actor reaches. */
export function scopeOf(context: Context, team: string | undefined, owner: string | undefined): Scope {
	const { organisation, actor } = context;
	let scope = reachOf(organisation, actor);
	if (team !== undefined) {
		if (!organisation.teams.has(team)) throw notFound("team", team);
		scope = within(peopleIn(organisation, teamsUnder(organisation, team)), scope);
	}
	if (owner !== undefined) {
		const index = organisation.personIndex.get(owner);
		if (index === undefined) throw notFound("person", owner);
		scope = within(new Set([index]), scope);
	}
	return scope;
}
