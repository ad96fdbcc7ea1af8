import { worksOn } from "@/core/people/person";
import { isoOrNull } from "@/core/time/day";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";

/** People and the tree of teams, for everyone to read. Addresses are shown to ops and managers only. */
export const readPeople = query("people.read", "readPeople", (context: Context) => {
	const { organisation, now, actor } = context;
	const shown = actor.person.role === "ops" || actor.person.role === "manager";
	const people = organisation.people.map((person) => ({
		id: person.id,
		name: person.name,
		role: person.role,
		team: person.team,
		email: shown ? person.email : null,
		active: worksOn(person, now.day),
		until: isoOrNull(person.activeTo),
	}));
	const depthOf = (team: string): number => {
		const parent = organisation.teams.get(team);
		return parent ? 1 + depthOf(parent) : 0;
	};
	const teams: { name: string; parent: string | null; depth: number; people: typeof people }[] = [];
	const walk = (parent: string | null) => {
		for (const [name, above] of organisation.teams) {
			if (above !== parent) continue;
			teams.push({ name, parent, depth: depthOf(name), people: people.filter((person) => person.team === name) });
			walk(name);
		}
	};
	walk(null);
	return { teams, without: people.filter((person) => !person.team) };
});
export type PeopleView = ReturnType<typeof readPeople>;
