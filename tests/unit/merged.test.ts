import { describe, expect, test } from "vitest";
import { withMerged } from "@/formats/bundle/merged";
import type { Row } from "@/formats/bundle/model";
import { SPECS } from "@/formats/bundle/spec";

const NOBODY = new Map<string, string>();
const MERGED = { "people.csv": new Map([["old", "new"]]), "accounts.csv": new Map([["mill", "bread"]]) };
const spec = (file: string) => SPECS.find((one) => one.file === file) as (typeof SPECS)[number];
const rows = (...fields: Row["fields"][]): Row[] => fields.map((one, i) => ({ line: i + 2, fields: one }) as Row);
const read = (file: string, ...fields: Row["fields"][]) => withMerged(spec(file), rows(...fields), MERGED).map((row) => row.fields);

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
		expect(withMerged(spec("people.csv"), given, { "people.csv": NOBODY, "accounts.csv": NOBODY })).toBe(given);
		expect(withMerged(spec("stages.csv"), given, MERGED)).toBe(given);
	});
});

describe("a bundle from before two accounts became one", () => {
	test("has no row of the one that went, and names the one that stays wherever an account is named", () => {
		expect(read("accounts.csv", { id: "mill", name: "M" }, { id: "bread", name: "B" })).toEqual([{ id: "bread", name: "B" }]);
		expect(read("deals.csv", { id: "mill", account_id: "mill", name: "mill" })).toEqual([{ id: "mill", account_id: "bread", name: "mill" }]);
		for (const file of ["contacts.csv", "activities.csv", "orders.csv", "account_notes.csv", "attachments.csv", "tasks.csv", "former_facts.csv"])
			expect(read(file, { account_id: "mill" }), file).toEqual([{ account_id: "bread" }]);
		// Both in one row: an account of somebody who was merged too.
		expect(read("accounts.csv", { id: "bread", owner_id: "old" })).toEqual([{ id: "bread", owner_id: "new" }]);
	});
});
