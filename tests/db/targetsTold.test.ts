import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { carryTargets, readTargets, saveTargets, undoTargets } from "@/features/period/server/targets";
import { more, small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf, wordsOf } from "../kit/fault";

// Targets told again by hand, from the lines of the files. The day is Tuesday, 24 November 2026.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("targets_told");
});
afterAll(() => database.drop());

const Q4 = { start: "2026-10-01", end: "2026-12-31" };
const TOLD = {
	...more("people.csv", "soon,Ira Moss,ira@firm.example,rep,North,Firm,2027-01-01,", "loose,Uma Vale,uma@firm.example,rep,,,,"),
	"rates.csv": ["currency,date,rate", "GBP,2026-01-01,1.25", "CHF,2027-01-01,1.1"],
	"deal_lines.csv": ["deal_id,product,family,quantity,unit_price,list_price,currency", "d1,Deck oven,Ovens,3,100,110,EUR"],
	"targets.csv": [
		"person_id,period_start,period_end,amount,currency,family",
		"rep1,2026-10-01,2026-12-31,900,EUR,",
		"rep2,2026-10-01,2026-12-31,400,GBP,",
		"gone,2026-10-01,2026-12-31,100,EUR,",
		"rep1,2026-10-01,2026-12-31,50,EUR,Mixers",
	],
};
beforeEach(() => refill(small(TOLD)));

const cell = (personId: string, amount: number | null, rest: Partial<{ family: string; currency: string; start: string; end: string }> = {}) => ({
	personId,
	amount,
	family: "",
	currency: "EUR",
	...Q4,
	...rest,
});
const save = async (cells: ReturnType<typeof cell>[], who = "boss", beside = false) => saveTargets(await as(who), { cells, beside });
const stored = async () =>
	readTargets(await as("boss"))
		.targets.map(({ personId, start, end, family, amount, currency }) => [personId, start, end, family, amount, currency].join(" "))
		.sort();

describe("the targets that somebody sets", () => {
	test("are for reps who work, and for those who left with a target; by team, then by name", async () => {
		const { people } = readTargets(await as("boss"));
		expect(people.map(({ id, team, left }) => [id, team, left])).toEqual([
			["loose", null, false],
			["gone", "North", true],
			["rep1", "North", false],
			["rep2", "South", false],
		]);
		expect(readTargets(await as("north")).people.map(({ id }) => id)).toEqual(["gone", "rep1"]);
	});
	test("are of the quarter before, this one and four ahead", async () => {
		const { quarters } = readTargets(await as("boss"));
		expect(quarters.map(({ start, end, label }) => [start, end, label])).toEqual([
			["2026-07-01", "2026-09-30", "Jul–Sep 2026"],
			["2026-10-01", "2026-12-31", "Oct–Dec 2026"],
			["2027-01-01", "2027-03-31", "Jan–Mar 2027"],
			["2027-04-01", "2027-06-30", "Apr–Jun 2027"],
			["2027-07-01", "2027-09-30", "Jul–Sep 2027"],
			["2027-10-01", "2027-12-31", "Oct–Dec 2027"],
		]);
	});
	test("name families of deals and of targets once each, and are worth what today’s rate makes of them", async () => {
		const { families, targets, currency, rates } = readTargets(await as("boss"));
		expect(families).toEqual(["Mixers", "Ovens"]);
		expect(targets.map(({ personId, family, amount, currency: own, base }) => [personId, family, amount, own, base]).sort()).toEqual(
			[
				["gone", "", 100_00, "EUR", 100_00],
				["rep1", "", 900_00, "EUR", 900_00],
				["rep1", "Mixers", 50_00, "EUR", 50_00],
				["rep2", "", 400_00, "GBP", 500_00],
			].sort(),
		);
		// No deal is in any of them; the rate of francs is the oldest there is.
		expect([currency, rates]).toEqual(["EUR", { CHF: 1.1, GBP: 1.25 }]);
	});
});

describe("a target of other days", () => {
	test("is refused where a day is shared, be it the first or the last", async () => {
		for (const days of [
			{ start: "2026-12-31", end: "2027-01-31" },
			{ start: "2026-09-01", end: "2026-10-01" },
			{ start: "2026-11-01", end: "2026-11-30" },
		]) {
			const fault = await faultOf(() => save([cell("rep1", 10_00, days)]));
			expect([fault.status, fault.title, fault.detail]).toEqual([
				409,
				"Already counted",
				`Rae Penn has a target for 2026-10-01 to 2026-12-31, which counts in ${days.start} to ${days.end} already. Carry it over first, or save this one in addition.`,
			]);
		}
		const mixers = await faultOf(() => save([cell("rep1", 10_00, { family: "Mixers", start: "2026-12-31", end: "2027-01-31" })]));
		expect(mixers.title).toBe("Already counted");
		expect(await stored()).toHaveLength(4);
	});
	test("is taken where no day is shared, for another family or person, where the other goes with it, or in addition", async () => {
		await save([cell("rep1", 10_00, { start: "2027-01-01", end: "2027-01-31" }), cell("rep1", 11_00, { start: "2026-09-01", end: "2026-09-30" })]);
		await save([
			cell("rep1", 12_00, { family: "Ovens", start: "2026-12-01", end: "2026-12-31" }),
			cell("loose", 13_00, { start: "2026-12-01", end: "2026-12-31" }),
		]);
		await save([cell("gone", null), cell("gone", 14_00, { start: "2026-12-01", end: "2026-12-31" })]);
		await save([cell("rep2", 15_00, { start: "2026-12-01", end: "2026-12-31" })], "boss", true);
		expect(await stored()).toEqual([
			"gone 2026-12-01 2026-12-31  1400 EUR",
			"loose 2026-12-01 2026-12-31  1300 EUR",
			"rep1 2026-09-01 2026-09-30  1100 EUR",
			"rep1 2026-10-01 2026-12-31  90000 EUR",
			"rep1 2026-10-01 2026-12-31 Mixers 5000 EUR",
			"rep1 2026-12-01 2026-12-31 Ovens 1200 EUR",
			"rep1 2027-01-01 2027-01-31  1000 EUR",
			"rep2 2026-10-01 2026-12-31  40000 GBP",
			"rep2 2026-12-01 2026-12-31  1500 EUR",
		]);
	});
});

describe("targets that were set", () => {
	test("come back as they stood, with their currency, and only while nobody set others since", async () => {
		const before = await stored();
		const { change } = await save([cell("rep2", 700_00), cell("loose", 1_00), cell("rep1", null, { family: "Mixers" })]);
		expect(await stored()).toEqual([
			"gone 2026-10-01 2026-12-31  10000 EUR",
			"loose 2026-10-01 2026-12-31  100 EUR",
			"rep1 2026-10-01 2026-12-31  90000 EUR",
			"rep2 2026-10-01 2026-12-31  70000 EUR",
		]);
		await undoTargets(await as("boss"), { change });
		expect(await stored()).toEqual(before);
		const again = await save([cell("rep1", 1_00)]);
		await save([cell("rep1", 2_00)]);
		expect((await faultOf(async () => undoTargets(await as("boss"), again))).detail).toBe("The targets were changed again since, so they can’t be undone.");
		expect(await stored()).toContain("rep1 2026-10-01 2026-12-31  200 EUR");
	});
	test("are refused without a rate, for others’ people, of nobody, twice or none at all: with words, and nothing is written", async () => {
		const before = await stored();
		const refused = async (cells: ReturnType<typeof cell>[], who = "boss") => {
			const { status, detail } = await faultOf(() => save([cell("rep1", 3_00), ...cells], who));
			return [status, detail];
		};
		expect(await refused([cell("loose", 1, { currency: "JPY" })])).toEqual([
			422,
			"There is no rate from JPY to EUR; import one first, or set the target in EUR.",
		]);
		expect(await refused([cell("rep2", 1)], "north")).toEqual([403, "You can set targets only for your own people."]);
		expect(await refused([cell("noone", 1)])).toEqual([404, "Nobody has the number noone."]);
		expect(await wordsOf(() => save([cell("rep1", 1), cell("rep1", 2)]))).toContain("A target appears twice.");
		expect(await wordsOf(() => save([]))).toContain("Nothing was changed.");
		expect(await stored()).toEqual(before);
	});
	test("are carried over to quarters: a quarter’s own is added to, and one that is gone is named", async () => {
		await save([cell("loose", 92_00, { start: "2026-12-01", end: "2027-01-31" })]);
		await save([cell("loose", 8_00, { start: "2027-01-01", end: "2027-03-31" })], "boss", true);
		const one = { personId: "loose", start: "2026-12-01", end: "2027-01-31", family: "" };
		await carryTargets(await as("boss"), { targets: [one] });
		expect((await stored()).filter((row) => row.startsWith("loose"))).toEqual([
			"loose 2026-10-01 2026-12-31  4600 EUR",
			"loose 2027-01-01 2027-03-31  5400 EUR",
		]);
		const fault = await faultOf(async () => carryTargets(await as("boss"), { targets: [one] }));
		expect([fault.status, fault.detail]).toEqual([404, "There is no target for 2026-12-01 to 2027-01-31 any more. Reload the page."]);
	});
});
