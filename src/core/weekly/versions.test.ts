import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { differing } from "../deal/fields";
import type { DealState } from "../deal/state";
import { type DealVersion, inForce, overlay, type Statement, versionsFrom } from "./versions";

const blank = overlay(null, {});
const state = fc.record({
	...Object.fromEntries(Object.keys(blank).map((field) => [field, fc.constant(null)])),
	stage: fc.constantFrom("Enquiry", "Terms", "Won", null),
	amount: fc.constantFrom(null, 100, 200),
	closeDate: fc.constantFrom(null, "2026-12-01", "2027-01-15"),
}) as fc.Arbitrary<DealState>;
const part = fc.constantFrom<(keyof DealState)[]>(["stage"], ["stage", "amount"], ["stage", "amount", "closeDate"]);
const statements = fc
	.tuple(part, fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 9 }), state), { selector: ([at]) => at, maxLength: 6 }))
	.map(([fields, list]) => list.map(([at, full]): Statement => ({ at: at * 10, state: Object.fromEntries(fields.map((field) => [field, full[field]])) })));
const fixed = fc
	.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 99 }), state), { selector: ([at]) => at, maxLength: 3 })
	.map((list) => list.map(([at, full]): DealVersion => ({ at: at + 0.5, state: full })));

describe("versions from weekly files", () => {
	test("come from the differences alone", () => {
		const said = (at: number, amount: number, stage = "Enquiry"): Statement => ({ at, state: { stage, amount } });
		expect(versionsFrom([said(1, 100), said(2, 100), said(3, 120), said(4, 120, "Terms")], []).map(({ at, state: s }) => [at, s.stage, s.amount])).toEqual([
			[1, "Enquiry", 100],
			[3, "Enquiry", 120],
			[4, "Terms", 120],
		]);
	});

	test("a late file in between brings back what the next one says", () => {
		const [first, late, next] = [100, 120, 100].map((amount, i): Statement => ({ at: i, state: { stage: "Enquiry", amount } }));
		expect(versionsFrom([first, next] as Statement[], [])).toHaveLength(1);
		expect(versionsFrom([first, next, late] as Statement[], []).map((version) => version.state.amount)).toEqual([100, 120, 100]);
	});

	test("keep what a file has no column for, and what was changed by hand in between until a file says otherwise", () => {
		const byHand: DealVersion = { at: 15, state: overlay(null, { stage: "Enquiry", amount: 130, nextStep: "Call" }) };
		const made = versionsFrom(
			[
				{ at: 10, state: { stage: "Enquiry", amount: 100 } },
				{ at: 20, state: { stage: "Terms", amount: 130 } },
			],
			[byHand],
		);
		expect(made.map(({ at, state: s }) => [at, s.stage, s.amount, s.nextStep])).toEqual([
			[10, "Enquiry", 100, null],
			[20, "Terms", 130, "Call"],
		]);
	});

	test("whatever the order of the files, the versions are the same, and each file holds at its instant", () => {
		fc.assert(
			fc.property(statements, fixed, fc.integer(), (said, others, seed) => {
				const made = versionsFrom(said, others);
				const shuffled = [...said].sort((a, b) => ((a.at * 7919 + seed) % 13) - ((b.at * 7919 + seed) % 13));
				expect(versionsFrom(shuffled, others)).toEqual(made);
				for (const statement of said) expect(inForce([...made, ...others], statement.at)).toMatchObject(statement.state);
				// Said twice is said once.
				expect(versionsFrom([...said, ...said], others)).toEqual(made);
				// No version repeats the one before it.
				const all = [...made, ...others].sort((a, b) => a.at - b.at);
				for (const version of made) {
					const before = all[all.indexOf(version) - 1];
					if (before) expect(differing(before.state, version.state)).not.toEqual([]);
				}
			}),
		);
	});
});
