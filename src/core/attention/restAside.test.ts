import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { through } from "../../../tests/kit/steps";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
import { dueKind, kindFrom } from "../outlook/kind";
import { comparablesOf, groundSteps, outlookSteps } from "../outlook/outlook";
import { lastPeriods } from "../patterns/quarters";
import { accuracyOf, flagRecords, lightRecords } from "../patterns/records";
import { severityRecords, sortingOf } from "../patterns/weights";

// A rest leaves a deal alone for a while; it says nothing of the deal's chance. Whatever is learnt is the same with and without it.
const TODAY = day("2026-11-24");
const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };
const FLAGS = [
	"overdue",
	"stalled",
	"no-next-step",
	"slipped",
	"aging-stage",
	"under-qualified",
	"short-runway",
	"blank-fields",
	"no-signatory",
	"lone-contact",
];

/** Deals of three quarters, half of them lost, each lit in its last weeks; and two that are open. */
function deals(rests: TestDeal["rests"]): TestDeal[] {
	const past = ["2026-01", "2026-04", "2026-07"].flatMap((month) =>
		[0, 1, 2, 3].map((i): TestDeal => {
			const last = `${month.slice(0, 5)}${String(Number(month.slice(5)) + 2).padStart(2, "0")}`;
			return {
				created: `${month}-05`,
				rests,
				versions: [
					{ at: `${month}-05`, stage: "Survey", amount: 1000 * (i + 1), close: `${last}-25`, category: "commit" },
					{ at: `${last}-28`, stage: i % 2 ? "Won" : "Lost" },
				],
			};
		}),
	);
	const open = [1, 2].map(
		(i): TestDeal => ({ created: "2026-10-05", rests, versions: [{ at: "2026-10-05", stage: "Survey", amount: 2000 * i, close: "2026-12-18" }] }),
	);
	return [...past, ...open];
}
const always = [{ from: day("2026-01-01"), until: day("2027-06-01"), flags: FLAGS }];
const [plain, rested] = [makeCompany(deals([])), makeCompany(deals(always))];
const surveyOf = (company: typeof plain, on = TODAY) => {
	const norms = normsOn(company, on);
	return { norms, deals: company.deals.map((_, deal) => inspect(company, deal, norms)) };
};

describe("a rest", () => {
	test("makes a lit deal calm where it is looked at, and keeps the level of its score beside", () => {
		const [lit, atRest] = [surveyOf(plain).deals.at(-1), surveyOf(rested).deals.at(-1)];
		expect(lit?.attention.level).not.toBe("calm");
		expect(atRest?.attention.level).toBe("calm");
		expect(atRest?.ownLevel).toBe(lit?.ownLevel);
		expect(atRest?.ownLevel).toBe(lit?.attention.level);
		const { norms } = surveyOf(rested);
		const again = atRest?.by({ ...rested, norms: { ...norms, medianAmount: norms.medianAmount + 1 } }, "medianAmount");
		expect([again?.ownLevel, again?.attention.level]).toEqual([lit?.ownLevel, "calm"]);
	});
	test.each([
		["the level of a deal’s kind", (company: typeof plain) => surveyOf(company).deals.map((seen) => seen && dueKind(company, seen))],
		["the outlook", (company: typeof plain) => through(outlookSteps(company, surveyOf(company), Q4, null, TODAY, 1_000_000, "with and without"))],
		["chances", (company: typeof plain) => through(groundSteps(company, surveyOf(company), Q4, null, TODAY))?.deals],
		[
			"comparables",
			(company: typeof plain) => comparablesOf(company, Q4, TODAY, kindFrom(true, ["1", "commit", "moving", "watch"]), 2).map(({ deal, won }) => [deal, won]),
		],
		["records of levels", (company: typeof plain) => lightRecords(company, quarters(company))],
		["records of flags", (company: typeof plain) => flagRecords(company, quarters(company), TODAY)],
		["accuracy", (company: typeof plain) => accuracyOf(company, quarters(company), "commit", null)],
		["weights", (company: typeof plain) => severityRecords(company, quarters(company))],
		["how attention sorted", (company: typeof plain) => sortingOf(company, quarters(company), {})],
	])("changes nothing of %s", (_, learnt) => {
		const found = learnt(plain);
		expect(learnt(rested)).toEqual(found);
		expect(JSON.stringify(found)?.length).toBeGreaterThan(20);
	});
	test("is not what a level’s record counts: the lit deals are counted as lit", () => {
		const lit = lightRecords(rested, quarters(rested)).filter(({ level }) => level !== "calm");
		expect(lit.reduce((sum, { n }) => sum + n, 0)).toBe(12);
	});
});

function quarters(company: typeof plain) {
	return lastPeriods(company, "quarter", TODAY, 4, 20);
}
