import { expect, test } from "vitest";
import { API_ROUTES, CAPABILITIES } from "@/features/registry";
import { AREAS } from "@/platform/areas";
import { databaseFault } from "@/platform/databaseFault";
import { Fault } from "@/platform/fault";

test("the areas a key may be made for are the capabilities, and those that their commands are named by", () => {
	const named = CAPABILITIES.flatMap(({ key, commands, lookups, queries }) => [
		key,
		...[...commands, ...lookups, ...queries].map(({ name }) => name.split(".")[0] as string),
	]);
	expect([...new Set(named)].sort()).toEqual([...AREAS].sort());
});

test("each call of the API names what does its work, whose right is checked first", () => {
	expect(API_ROUTES.filter(({ by }) => !by?.right || !by.kind).map(({ id }) => id)).toEqual([]);
	// An export is noted, so it is a command that is got.
	for (const { method, by, id } of API_ROUTES) if (by.kind === "command" && id !== "exportBundle") expect(method, id).not.toBe("get");
});

test("what the database refuses is said in words, and all else stays what it is", () => {
	const refused = (code: string) => databaseFault(new Error("Failed query", { cause: Object.assign(new Error("x"), { code }) }));
	for (const [code, status] of [
		["23505", 409],
		["40001", 409],
		["40P01", 409],
		["53100", 507],
		["57P03", 503],
		["57P01", 503],
	] as const)
		expect(refused(code)).toMatchObject({ status });
	const other = refused("42601");
	expect(other).not.toBeInstanceOf(Fault);
	expect(databaseFault(null)).toBeNull();
	expect(databaseFault("x")).toBe("x");
});
