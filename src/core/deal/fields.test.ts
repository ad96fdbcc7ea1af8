import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { makeCompany, STAGES } from "../../../tests/kit/company";
import { blockOf, CATEGORIES } from "../history/columns";
import { BLANK_STATE, differing, FIELD_KEYS, FIELDS, type FieldSetting, fieldOf, stateAt, stateOf, valueWords } from "./fields";
import type { DealState, FieldKey, FieldValue } from "./state";

const setting: FieldSetting = {
	stages: STAGES.map((name, i) => ({ name, kind: name === "Won" ? "won" : name === "Lost" ? "lost" : "open", rank: i + 1 })),
	currency: "EUR",
	person: (value) => (value === null ? "No owner" : `person ${value}`),
	near: 2026,
};
const better = (key: FieldKey, before: FieldValue, after: FieldValue, more: Partial<FieldSetting> = {}) =>
	fieldOf(key).better?.(before, after, { ...setting, ...more });
const told = (key: FieldKey, before: FieldValue, after: FieldValue, more: Partial<FieldSetting> = {}) =>
	fieldOf(key).told?.(before, after, { ...setting, ...more });

describe("whether a change is better for the period", () => {
	test("a later stage and winning are, an earlier one and losing are not", () => {
		expect([better("stage", "Survey", "Terms"), better("stage", "Terms", "Survey"), better("stage", "Terms", "Terms")]).toEqual([true, false, false]);
		expect([better("stage", "Terms", "Won"), better("stage", "Won", "Terms"), better("stage", "Enquiry", "Lost"), better("stage", "Lost", "Enquiry")]).toEqual([
			true,
			false,
			false,
			true,
		]);
	});
	test("a stage that nobody knows counts as the first of all, before which only losing is", () => {
		expect([better("stage", "gone", "Enquiry"), better("stage", "gone", "Lost"), better("stage", null, "Enquiry")]).toEqual([true, false, true]);
	});
	test("a larger amount is, a blank one counting as nothing", () => {
		expect([better("amount", 100, 200), better("amount", 200, 100), better("amount", null, 1), better("amount", 1, null), better("amount", null, 0)]).toEqual([
			true,
			false,
			true,
			false,
			false,
		]);
	});
	test("an earlier close date is; without one before, or once it is closed, it is neither", () => {
		const [soon, late] = ["2026-11-20", "2026-12-20"];
		expect([better("closeDate", late, soon), better("closeDate", soon, late), better("closeDate", soon, soon), better("closeDate", soon, null)]).toEqual([
			true,
			false,
			false,
			false,
		]);
		expect([better("closeDate", null, soon), better("closeDate", late, soon, { closed: true })]).toEqual([null, null]);
	});
	test("a surer category is; where one is blank, or the deal is closed, it is neither", () => {
		CATEGORIES.forEach((category, i) => {
			CATEGORIES.forEach((other, j) => {
				expect(better("category", category, other)).toBe(j < i);
				expect(better("category", category, other, { closed: true })).toBeNull();
			});
		});
		expect([better("category", null, "commit"), better("category", "commit", null)]).toEqual([null, null]);
	});
	test("other fields are neither", () => {
		for (const key of ["currency", "ownerId", "nextStep", "nextStepDate"] as const) expect(fieldOf(key).better).toBeUndefined();
	});
});

describe("by how much a field changed, in words", () => {
	test("stages and categories move on and back; not once the deal is closed", () => {
		expect([told("stage", "Survey", "Terms"), told("stage", "Terms", "Survey")]).toEqual(["moved on", "moved back"]);
		expect(told("stage", "Terms", "Won", { closed: true })).toBeNull();
		expect([told("category", "pipeline", "commit"), told("category", "commit", "pipeline")]).toEqual(["surer", "less sure"]);
		expect(told("category", "pipeline", "commit", { closed: true })).toBeNull();
	});
	test("amounts by their difference, unless the currency changed too", () => {
		expect([told("amount", 100_000, 350_000), told("amount", 350_000, 100_000)]).toEqual(["€2\u00a0500 more", "€2\u00a0500 less"]);
		expect(told("amount", 100_000, 350_000, { currencyDiffers: true })).toBeNull();
	});
	test("days by how many", () => {
		expect([told("closeDate", "2026-11-20", "2026-11-21"), told("closeDate", "2026-12-01", "2026-11-21")]).toEqual(["1 day later", "10 days earlier"]);
	});
});

describe("a field’s value in words", () => {
	const words = (key: FieldKey, value: FieldValue, more: Partial<FieldSetting> = {}) => valueWords(fieldOf(key), value, { ...setting, ...more });
	test("says what a reader would", () => {
		expect([words("stage", "Terms"), words("amount", 120_000), words("amount", 0), words("category", "best_case"), words("nextStep", "Call_back")]).toEqual([
			"Terms",
			"€1\u00a0200",
			"€0",
			"best case",
			"Call back",
		]);
		expect([words("closeDate", "2026-11-18"), words("closeDate", "2027-11-18")]).toEqual(["18 Nov", "18 Nov 2027"]);
		expect(words("closeDate", "2026-11-18", { near: undefined })).toBe("18 Nov 2026");
	});
	test("is blank where there is none, and an owner who is none is said as such", () => {
		expect([words("amount", null), words("nextStep", ""), words("closeDate", null), words("ownerId", null), words("ownerId", "ana")]).toEqual([
			"blank",
			"blank",
			"blank",
			"No owner",
			"person ana",
		]);
	});
});

describe("the fields", () => {
	const company = makeCompany([
		{
			versions: [
				{
					at: "2026-11-02",
					stage: "Survey",
					amount: 12.5,
					currency: "GBP",
					close: "2026-12-01",
					owner: 1,
					category: "best_case",
					next: "2026-11-20",
				},
				{ at: "2026-11-03", stage: "Terms", amount: null, close: null, owner: null, next: null },
			],
		},
	]);
	test("are read from the columns, blanks as blanks", () => {
		const whole: Partial<DealState> = {
			stage: "Survey",
			amount: 1250,
			currency: "GBP",
			closeDate: "2026-12-01",
			ownerId: "p1",
			category: "best_case",
			nextStep: null,
			nextStepDate: "2026-11-20",
		};
		expect(stateAt(company, blockOf(company.history, 0), 0, (person) => `p${person}`)).toMatchObject(whole);
		expect(stateAt(company, blockOf(company.history, 0), 1, (person) => `p${person}`)).toMatchObject({
			stage: "Terms",
			amount: null,
			closeDate: null,
			ownerId: null,
			category: "best_case",
			nextStep: null,
			nextStepDate: null,
		});
	});
	test("each has its key, its words, and whose box changes it", () => {
		expect(FIELDS.slice(0, 8).map(({ key, label, kind, edited, endsWithDeal }) => [key, label, kind, edited, endsWithDeal ?? false])).toEqual([
			["stage", "Stage", "stage", "alone", false],
			["amount", "Amount", "money", "alone", false],
			["currency", "Currency", "currency", null, false],
			["closeDate", "Close date", "day", "alone", false],
			["ownerId", "Owner", "person", "alone", false],
			["category", "Category", "category", "alone", false],
			["nextStep", "Next step", "text", "alone", true],
			["nextStepDate", "Next step’s day", "day", "nextStep", true],
		]);
		expect(() => fieldOf("colour" as never)).toThrow("no versioned field is called colour");
	});
	const values = fc.record(
		Object.fromEntries(FIELD_KEYS.map((key) => [key, fc.constantFrom<FieldValue>(null, "", "x", 0, 7)])),
	) as unknown as fc.Arbitrary<DealState>;
	test("that differ are told, an empty text being a blank; no state is the same as a blank one", () => {
		fc.assert(
			fc.property(values, values, (before, after) => {
				const blank = (value: FieldValue) => (value === "" ? null : value);
				expect(differing(before, after)).toEqual(FIELD_KEYS.filter((key) => blank(before[key]) !== blank(after[key])));
				expect(differing(null, after)).toEqual(differing(BLANK_STATE, after));
				expect(differing(after, after)).toEqual([]);
				expect(stateOf({ ...after, other: 1 } as DealState)).toEqual(after);
			}),
		);
	});
});
