import { describe, expect, test } from "vitest";
import { withMergedPeople } from "@/formats/bundle/merged";
import type { Row } from "@/formats/bundle/model";
import { SPECS } from "@/formats/bundle/spec";

const MERGED = new Map([["old", "new"]]);
const spec = (file: string) => SPECS.find((one) => one.file === file) as (typeof SPECS)[number];
const rows = (...fields: Row["fields"][]): Row[] => fields.map((one, i) => ({ line: i + 2, fields: one }) as Row);
const read = (file: string, ...fields: Row["fields"][]) => withMergedPeople(spec(file), rows(...fields), MERGED).map((row) => row.fields);

describe("a bundle from before two entries of one person became one", () => {
	test("has no row of whoever went, and every other", () => {
		expect(read("people.csv", { id: "old", name: "O" }, { id: "new", name: "N" }, { id: "x", name: "X" })).toEqual([
			{ id: "new", name: "N" },
			{ id: "x", name: "X" },
		]);
	});
	test("names whoever stays wherever it named whoever went, in each column that names a person", () => {
		const [version] = read("deal_versions.csv", { deal_id: "old", at: "1", owner_id: "old", by_id: "old", next_step: "old" });
		expect(version).toEqual({ deal_id: "old", at: "1", owner_id: "new", by_id: "new", next_step: "old" });
		expect(read("deal_versions.csv", { deal_id: "d", owner_id: null, by_id: "x" })).toEqual([{ deal_id: "d", owner_id: null, by_id: "x" }]);
	});
	test("has of a row that both have only that of whoever stays, and keeps one that only the other had", () => {
		const target = (person_id: string, from: string, amount: string) => ({ person_id, period_start: from, period_end: "2026-12-31", amount });
		const { key } = spec("targets.csv");
		expect(key).toContain("person_id");
		expect(read("targets.csv", target("old", "2026-10-01", "1"), target("new", "2026-10-01", "2"), target("old", "2026-07-01", "3"))).toEqual([
			target("new", "2026-10-01", "2"),
			target("new", "2026-07-01", "3"),
		]);
	});
	test("is as it was where nobody was merged, and in files that name nobody", () => {
		const given = rows({ id: "old" });
		expect(withMergedPeople(spec("people.csv"), given, new Map())).toBe(given);
		expect(withMergedPeople(spec("stages.csv"), given, MERGED)).toBe(given);
	});
});
