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
		from: isoOrNull(person.activeFrom),
		until: isoOrNull(person.activeTo),
	}));
	const teams: { name: string; parent: string | null; depth: number; people: typeof people }[] = [];
	const place = (name: string, depth: number) => {
		if (teams.some((team) => team.name === name)) return;
		teams.push({ name, parent: organisation.teams.get(name) ?? null, depth, people: people.filter((person) => person.team === name) });
		for (const [below, above] of organisation.teams) if (above === name) place(below, depth + 1);
	};
	for (const [name, above] of organisation.teams) if (above === null || !organisation.teams.has(above)) place(name, 0);
	// Teams that stand above one another in a circle are shown all the same.
	for (const name of organisation.teams.keys()) place(name, 0);
	return { teams, without: people.filter((person) => !person.team) };
});
export type PeopleView = ReturnType<typeof readPeople>;
