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

test("a short name is as short as it can be, and says no more than it must", () => {
	const names = (...people: (string | { name: string; team: string | null })[]) =>
		shortNames(people.map((one) => (typeof one === "string" ? { name: one } : one)));
	expect(names("  Ana   Ruiz ", "Bo Sable")).toEqual(["Ana", "Bo"]);
	expect(names("Ana Ruiz", "Ana Roth")).toEqual(["Ana Ru.", "Ana Ro."]);
	expect(names("Ana Ruiz", "Ana Ruin")).toEqual(["Ana Ruiz", "Ana Ruin"]);
	expect(names("Ana Maria Ruiz", "Ana Maria Sole")).toEqual(["Ana R.", "Ana S."]);
	expect(names("Ana", "Ana Ruiz")).toEqual(["Ana", "Ana R."]);
	expect(names({ name: "Ana Ruiz", team: "North" }, { name: "Ana Ruiz", team: "South" })).toEqual(["Ana Ruiz, North", "Ana Ruiz, South"]);
	expect(names({ name: "Ana Ruiz", team: null }, { name: "Ana Ruiz", team: null })).toEqual(["Ana Ruiz", "Ana Ruiz"]);
	expect(names("")).toEqual([""]);
});

test("people of one name are told by their team, else by their address or id", () => {
	const ana = { name: "Ana Ruiz", team: null, email: null };
	expect(
		toldApart([
			{ ...ana, id: "1", team: "North" },
			{ ...ana, id: "2" },
		]),
	).toEqual(["Ana Ruiz, North", "Ana Ruiz"]);
	expect(
		toldApart([
			{ ...ana, id: "1" },
			{ ...ana, id: "2", email: "a@firm.example" },
		]),
	).toEqual(["Ana Ruiz, 1", "Ana Ruiz, a@firm.example"]);
	expect(toldApart([{ ...ana, id: "1", team: "North" }])).toEqual(["Ana Ruiz"]);
});
