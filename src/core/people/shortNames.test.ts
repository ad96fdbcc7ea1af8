import fc from "fast-check";
import { expect, test } from "vitest";
import { shortNames, toldApart } from "./shortNames";

const person = fc.record({
	name: fc.constantFrom("Ana Ruiz", "Ana Roth", "Ana", "Bo Sable", "Bo de Sable", "Ana R."),
	team: fc.constantFrom("North", "South", null),
	email: fc.constantFrom("a@firm.example", null),
});
const people = fc.array(person, { maxLength: 8 }).map((all) => all.map((one, i) => ({ ...one, email: one.email && `${i}${one.email}`, id: `p${i}` })));

test("where people are chosen nobody is called as another, and whoever has a name alone keeps it", () => {
	fc.assert(
		fc.property(people, (all) => {
			const words = toldApart(all);
			expect(new Set(words).size).toBe(all.length);
			all.forEach(({ name }, i) => {
				expect(words[i]).toContain(name);
				if (all.filter((other) => other.name === name).length === 1) expect(words[i]).toBe(name);
			});
		}),
	);
});

test("short names of people who differ by name and team differ", () => {
	fc.assert(
		fc.property(people, (all) => {
			const different = all.filter((one, i) => all.findIndex((other) => other.name === one.name && other.team === one.team) === i);
			const withTeam = different.filter(({ name, team }) => team !== null || different.filter((other) => other.name === name).length === 1);
			const words = shortNames(withTeam);
			expect(new Set(words).size).toBe(withTeam.length);
		}),
	);
});
