import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day, makeCompany, makeRules, type TestDeal, type TestRules } from "../../../tests/kit/company";
import { formatDay, NO_DAY } from "../time/day";
import { LEVELS } from "./answer";
import { NO_ANSWERS } from "./answers";
import { questionsOn } from "./edition";
import { scoreOf, scoresOf } from "./score";

const score = (questions: TestRules["questions"], answers: TestDeal["answers"], position: number, iso = "2026-03-10") => {
	const company = makeCompany([{ versions: [{ at: "2026-01-05" }], answers: answers ?? [] }], { questions: questions ?? [] });
	return scoreOf(questionsOn(company.rules.editions, day(iso)), company.deals[0]?.answers ?? NO_ANSWERS, position, day(iso), company.rules.calendar, 30);
};
const three = [
	{ weight: 1, due: 1 },
	{ weight: 2, due: 2 },
	{ weight: 1, due: 4 },
];

describe("qualification", () => {
	test("strength, coverage and expected of the worked example, and its one gap", () => {
		const seen = score(
			three,
			[
				[0, "shown", "2026-03-02"],
				[1, "assumed", "2026-03-02"],
			],
			2,
		);
		expect(seen).toMatchObject({ strength: 42, coverage: 75, expected: 50, gaps: [1] });
	});
	test("against us is an answer, but no strength", () => {
		expect(score([{ weight: 1 }], [[0, "against", "2026-03-02"]], 1)).toMatchObject({ strength: 0, coverage: 100, gaps: [0] });
	});
	test("the newest answer seen on the day counts", () => {
		const answers: TestDeal["answers"] = [
			[0, "shown", "2026-03-05"],
			[0, "assumed", "2026-03-02"],
			[0, "heard", "2026-03-09"],
		];
		expect(score([{}], answers, 1, "2026-03-04").strength).toBe(33);
		expect(score([{}], answers, 1, "2026-03-06").strength).toBe(100);
		expect(score([{}], answers, 1, "2026-03-10").strength).toBe(67);
	});
	test("gaps are listed key ones first, then by weight, then in the framework’s order", () => {
		expect(score([{ weight: 1 }, { weight: 3 }, { weight: 1, key: true }, { weight: 3 }], [], 1).gaps).toEqual([2, 1, 3, 0]);
	});
	test("an answer is stale after thirty working days, one that says unknown never", () => {
		const stale = (level: "heard" | "unknown", iso: string) => score([{}], [[0, level, "2026-03-02"]], 1, iso).standings[0]?.stale;
		expect(stale("heard", "2026-04-13")).toBe(false);
		expect(stale("heard", "2026-04-14")).toBe(true);
		expect(stale("unknown", "2026-12-01")).toBe(false);
	});
	test("without questions there is nothing to expect", () => {
		expect(score([], [], 3)).toMatchObject({ strength: 0, coverage: 0, expected: 0, gaps: [] });
	});
	test("a better answer never lowers strength, and strength never exceeds coverage", () => {
		const question = fc.record({ weight: fc.integer({ min: 1, max: 9 }), due: fc.integer({ min: 1, max: 5 }), key: fc.boolean() });
		fc.assert(
			fc.property(
				fc.array(question, { minLength: 1, maxLength: 8 }),
				fc.array(fc.constantFrom(...LEVELS), { minLength: 8, maxLength: 8 }),
				fc.nat(7),
				(questions, levels, at) => {
					const answers = questions.map((_, i): [number, (typeof LEVELS)[number], string] => [i, levels[i] ?? "unknown", "2026-03-02"]);
					const seen = score(questions, answers, 3);
					expect(seen.strength).toBeLessThanOrEqual(seen.coverage);
					const better = answers.map((a, i): typeof a => (i === at ? [a[0], "shown", a[2]] : a));
					expect(score(questions, better, 3).strength).toBeGreaterThanOrEqual(seen.strength);
				},
			),
		);
	});
	test("kept from day to day it says what it says anew, in whatever order the days are asked for", () => {
		const iso = fc.integer({ min: 0, max: 120 }).map((n) => formatDay(day("2026-01-05") + n));
		const answer = fc.tuple(fc.integer({ min: 0, max: 3 }), fc.constantFrom(...LEVELS), iso);
		const asked = fc.tuple(iso, fc.integer({ min: 0, max: 3 }), fc.constantFrom(3, 30));
		fc.assert(
			fc.property(fc.array(answer, { maxLength: 10 }), fc.array(asked, { minLength: 2, maxLength: 30 }), iso, (given, days, later) => {
				const company = makeCompany([{ versions: [{ at: "2026-01-05" }], answers: given }], {
					questions: [{ due: 1 }, { due: 2, weight: 3 }, { key: true }],
					later: [[later, [{ weight: 2 }, { slot: 3, id: "q4" }]]],
				});
				const { calendar, editions } = company.rules;
				const answers = company.deals[0]?.answers ?? NO_ANSWERS;
				const kept = scoresOf(answers, calendar);
				for (const [iso, position, staleAfter] of days) {
					const questions = questionsOn(editions, day(iso));
					expect(kept(questions, position, day(iso), staleAfter)).toEqual(scoreOf(questions, answers, position, day(iso), calendar, staleAfter));
				}
			}),
		);
	});
	test("rules without a framework are still rules", () => expect(makeRules().editions).toEqual([{ from: NO_DAY, questions: [] }]));
});

describe("editions", () => {
	const rules: TestRules = { questions: [{ weight: 1 }, { weight: 1 }], later: [["2026-03-09", [{ weight: 3 }, { weight: 1, slot: 2, id: "q3" }]]] };
	const company = makeCompany(
		[
			{
				versions: [{ at: "2026-01-05" }],
				answers: [
					[0, "shown", "2026-01-06"],
					[2, "heard", "2026-03-10"],
				],
			},
		],
		rules,
	);
	const on = (iso: string) =>
		scoreOf(questionsOn(company.rules.editions, day(iso)), company.deals[0]?.answers ?? NO_ANSWERS, 1, day(iso), company.rules.calendar, 30);
	test("a new edition counts from its day on and leaves earlier scores as they were", () => {
		expect(on("2026-03-08")).toMatchObject({ strength: 50, coverage: 50 });
		expect(on("2026-03-09")).toMatchObject({ strength: 75, coverage: 75 });
		expect(on("2026-03-10").strength).toBe(92);
	});
	test("a question that was taken out counts no more, and an answer to a new one finds it by its slot", () => {
		expect(on("2026-03-10").questions.map((q) => q.id)).toEqual(["q1", "q3"]);
		expect(on("2026-03-10").standings.map((s) => s.level)).toEqual(["shown", "heard"]);
	});
	test("a weight of a million weighs a million, and no figure leaves its bounds", () => {
		const heavy = makeCompany([{ versions: [{ at: "2026-01-05" }], answers: [[1, "shown", "2026-01-06"]] }], {
			questions: [{ weight: 1_000_000 }, { weight: 0.000001 }],
		});
		const of = scoreOf(
			questionsOn(heavy.rules.editions, day("2026-02-02")),
			heavy.deals[0]?.answers ?? NO_ANSWERS,
			1,
			day("2026-02-02"),
			heavy.rules.calendar,
			30,
		);
		expect(of).toMatchObject({ strength: 0, coverage: 0, expected: 67 });
	});
});
