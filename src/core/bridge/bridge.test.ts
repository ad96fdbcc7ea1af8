import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { histories as history, RATES as rates, version } from "../../../tests/kit/histories";
import { bridge, closingBySteps } from "./bridge";
import { STEP_KINDS } from "./steps";

const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };
const [A, B] = [day("2026-11-09"), day("2026-11-24")];
const before = "2026-09-01";

const steps = (deals: TestDeal[], scope: ReadonlySet<number> | null = null) => {
	const result = bridge(makeCompany(deals), A, B, Q4, scope);
	expect(closingBySteps(result)).toBe(result.closing.amount);
	return {
		opening: result.opening.amount / 100,
		closing: result.closing.amount / 100,
		...(result.lostOutside.deals.length ? { lostOutside: result.lostOutside.amount / 100 } : {}),
		steps: Object.fromEntries(result.steps.filter((s) => s.deals.length).map((s) => [s.kind, s.amount / 100])),
	};
};

describe("the bridge", () => {
	test("of the worked example adds up to 250", () => {
		const deals: TestDeal[] = [
			{
				versions: [
					{ at: before, amount: 100, close: "2026-12-01" },
					{ at: "2026-11-12", amount: 120 },
				],
			},
			{
				versions: [
					{ at: before, amount: 200, close: "2026-12-10" },
					{ at: "2026-11-12", amount: 180, close: "2027-01-20" },
				],
			},
			{ versions: [{ at: "2026-11-10", amount: 50, close: "2026-12-15" }] },
			{
				versions: [
					{ at: before, amount: 80, close: "2026-09-30" },
					{ at: "2026-11-12", close: "2026-12-18" },
				],
			},
			{
				versions: [
					{ at: before, amount: 300, close: "2026-12-05" },
					{ at: "2026-11-20", amount: 310, close: "2026-11-20", stage: "Won" },
				],
			},
			{
				versions: [
					{ at: "2026-11-11", amount: 40, close: "2026-12-05" },
					{ at: "2026-11-19", stage: "Lost", close: "2026-11-19" },
				],
			},
			{
				versions: [
					{ at: before, amount: 500, close: "2027-02-26" },
					{ at: "2026-11-18", stage: "Lost", close: "2026-11-18" },
				],
			},
		];
		expect(steps(deals)).toEqual({
			opening: 600,
			closing: 250,
			lostOutside: 500,
			steps: { new: 90, "rolled-in": 80, grew: 30, shrank: 20, "pushed-out": 180, won: 310, lost: 40 },
		});
	});
	test("names every way in and out", () => {
		const at = "2026-11-12";
		const inside = { at: before, amount: 10, close: "2026-12-01" };
		const only = (versions: TestDeal["versions"], scope?: ReadonlySet<number>) => steps([{ versions }], scope).steps;
		expect(
			only([
				{ ...inside, stage: "Lost" },
				{ at, stage: "Trial" },
			]),
		).toEqual({ reopened: 10 });
		expect(
			only([
				{ ...inside, close: "2027-02-01" },
				{ at, close: "2026-12-20" },
			]),
		).toEqual({ "pulled-in": 10 });
		expect(
			only([
				{ ...inside, close: null },
				{ at, close: "2026-12-20" },
			]),
		).toEqual({ "pulled-in": 10 });
		expect(only([inside, { at, close: null }])).toEqual({ "pushed-out": 10 });
		expect(only([inside, { at, close: "2026-09-01" }])).toEqual({ "moved-earlier": 10 });
		expect(only([inside, { at, owner: 1 }], new Set([0]))).toEqual({ "handed-out": 10 });
		expect(only([inside, { at, owner: 1 }], new Set([1]))).toEqual({ "handed-in": 10 });
		expect(only([inside, { at, owner: null }], new Set([0]))).toEqual({ "handed-out": 10 });
		expect(only([inside, { at, stage: "removed", amount: 99 }])).toEqual({ removed: 10 });
		expect(only([inside, { at, owner: null }])).toEqual({});
	});
	test("a deal won by a colleague after it was handed over leaves as won", () => {
		expect(
			steps(
				[
					{
						versions: [
							{ at: before, close: "2026-12-01", amount: 10 },
							{ at: "2026-11-12", owner: 1, stage: "Won" },
						],
					},
				],
				new Set([0]),
			).steps,
		).toEqual({ won: 10 });
	});
	test("lost from outside the period is told apart, by the last open day-end; won from outside was pulled in", () => {
		const outside = { at: before, amount: 10, close: "2027-02-01" };
		const told = (versions: TestDeal["versions"]) => {
			const { steps: kinds, lostOutside } = steps([{ versions }]);
			return { ...kinds, lostOutside };
		};
		const lost = { at: "2026-11-18", stage: "Lost", close: "2026-11-18" };
		expect(told([outside, lost])).toEqual({ lostOutside: 10 });
		expect(told([{ ...outside, close: null }, lost])).toEqual({ lostOutside: 10 });
		expect(told([{ ...outside, close: "2026-09-01" }, lost])).toEqual({ lostOutside: 10 });
		expect(told([outside, { ...lost, stage: "Won" }])).toEqual({ "pulled-in": 10, won: 10 });
		// Pulled in on a day before it was lost, and on the very day, which never was a day's end.
		expect(told([outside, { at: "2026-11-17", close: "2026-12-01" }, lost])).toEqual({ "pulled-in": 10, lost: 10 });
		expect(told([outside, { at: "2026-11-18 08:00", close: "2026-12-01" }, { ...lost, at: "2026-11-18 17:00" }])).toEqual({ lostOutside: 10 });
		// It was never open by any day's end.
		expect(told([{ ...lost, amount: 10 }])).toEqual({ new: 10, lost: 10 });
		// Taken off the books in between: the last open state still says where it lay.
		expect(told([outside, { at: "2026-10-05", stage: "removed" }, lost])).toEqual({ lostOutside: 10 });
	});
	test("a deal closed before the first day and still closed isn’t in it", () => {
		expect(steps([{ versions: [{ at: before, stage: "Won", close: "2026-11-01" }] }]).steps).toEqual({});
	});
	test("a deal without an amount counts as nothing, but is listed", () => {
		const result = bridge(makeCompany([{ versions: [{ at: "2026-11-12", amount: null, close: "2026-12-01" }] }]), A, B, Q4, null);
		const step = result.steps.find((s) => s.kind === "new");
		expect(step?.amount).toBe(0);
		expect([...(step?.deals ?? [])]).toMatchObject([{ deal: 0, rowA: -1, rowB: 0 }]);
	});
	test("takes both ends at the later rates, so that exchange never looks like growth", () => {
		const rates: [string, string, string][] = [
			["GBP", "2026-01-01", "1.10"],
			["GBP", "2026-11-20", "1.30"],
		];
		const company = makeCompany([{ versions: [{ at: before, amount: 100, currency: "GBP", close: "2026-12-01" }] }], { rates });
		const result = bridge(company, A, B, Q4, null);
		expect([result.opening.amount, result.closing.amount]).toEqual([13_000, 13_000]);
		expect(result.steps.every((s) => s.deals.length === 0)).toBe(true);
	});

	test("always adds up to the cent, for everyone and for some", () => {
		fc.assert(
			fc.property(history, fc.constantFrom(null, new Set([0]), new Set([1, 2])), (deals, scope) => {
				const result = bridge(makeCompany(deals, { rates }), A, B, Q4, scope);
				expect(closingBySteps(result)).toBe(result.closing.amount);
				expect(result.steps.map((s) => s.kind)).toEqual([...STEP_KINDS]);
			}),
		);
	});
	test("of disjoint scopes, opening and closing add up to those of all of them together", () => {
		fc.assert(
			fc.property(history, (deals) => {
				const company = makeCompany(deals, { rates });
				const part = (scope: Set<number>) => bridge(company, A, B, Q4, scope);
				const whole = part(new Set([0, 1, 2, 3]));
				const parts = [part(new Set([0, 3])), part(new Set([1, 2]))];
				expect(parts.reduce((sum, b) => sum + b.opening.amount, 0)).toBe(whole.opening.amount);
				expect(parts.reduce((sum, b) => sum + b.closing.amount, 0)).toBe(whole.closing.amount);
			}),
		);
	});
	test("what comes after the later day changes nothing", () => {
		fc.assert(
			fc.property(history, version, (deals, later) => {
				const more = deals.map((deal) => ({ ...deal, versions: [...deal.versions, { ...later, at: "2026-11-25 00:00" }] }));
				expect(bridge(makeCompany(more, { rates }), A, B, Q4, null).steps.map((s) => s.amount)).toEqual(
					bridge(makeCompany(deals, { rates }), A, B, Q4, null).steps.map((s) => s.amount),
				);
			}),
		);
	});
});
