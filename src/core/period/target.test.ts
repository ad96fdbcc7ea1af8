import fc from "fast-check";
import { expect, test } from "vitest";
import { day, makeRules } from "../../../tests/kit/company";
import { type Target, targetOf } from "./target";

const { rates } = makeRules({ rates: [["GBP", "2026-01-01", "1.2"]] });
const Q4: Target = { person: 0, start: day("2026-10-01"), end: day("2026-12-31"), amount: 920_000, currency: "EUR" };
const of = (targets: Target[], start: string, end: string, scope: ReadonlySet<number> | null = null) =>
	targetOf(targets, { start: day(start), end: day(end) }, scope, rates, day("2026-11-24"));

test("a target counts whole in its own period, and by its days where it only overlaps", () => {
	expect(of([Q4], "2026-10-01", "2026-12-31")).toBe(920_000);
	expect(of([Q4], "2026-12-01", "2027-02-28")).toBe(310_000);
	expect(of([Q4], "2027-01-01", "2027-03-31")).toBeNull();
	expect(of([{ ...Q4, amount: 0 }], "2026-10-01", "2026-12-31")).toBe(0);
});

test("targets of people out of scope don’t count, and other currencies count in the base", () => {
	const two = [Q4, { ...Q4, person: 1, amount: 100_000, currency: "GBP" }];
	expect(of(two, "2026-10-01", "2026-12-31")).toBe(1_040_000);
	expect(of(two, "2026-10-01", "2026-12-31", new Set([1]))).toBe(120_000);
	expect(of(two, "2026-10-01", "2026-12-31", new Set([7]))).toBeNull();
});

test("the parts of a period hold the whole, but for the rounding of each", () => {
	fc.assert(
		fc.property(fc.integer({ min: 0, max: 5_000_000 }), fc.integer({ min: 1, max: 90 }), (amount, cut) => {
			const target = [{ ...Q4, amount }];
			const at = (start: number, end: number) => targetOf(target, { start, end }, null, rates, Q4.start) ?? 0;
			const parts = at(Q4.start, Q4.start + cut - 1) + at(Q4.start + cut, Q4.end);
			expect(Math.abs(parts - amount)).toBeLessThanOrEqual(1);
		}),
	);
});
