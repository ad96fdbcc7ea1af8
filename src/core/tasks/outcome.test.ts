import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { histories, RATES as rates } from "../../../tests/kit/histories";
import { NONE } from "../history/columns";
import { formatDay, NO_DAY } from "../time/day";
import { FOLLOWED, followedAs, followThrough, tooLate } from "./followThrough";
import { OUTCOMES, outcomesOf } from "./outcome";
import { movesOf, type TaskFacts } from "./task";

const TODAY = day("2026-11-24");
const task = (given: Partial<TaskFacts>): TaskFacts => ({
	id: "t",
	assignee: 0,
	team: null,
	flags: ["overdue"],
	createdDay: day("2026-11-10"),
	due: day("2026-11-13"),
	state: "open",
	doneDay: NO_DAY,
	doneAt: Number.NaN,
	former: [],
	...given,
});
const was = (until: string, due: string, rest: Partial<TaskFacts["former"][number]> = {}) => ({
	until: day(until),
	due: day(due),
	assignee: 0,
	team: null,
	state: "open" as const,
	doneDay: NO_DAY,
	doneAt: Number.NaN,
	note: null,
	...rest,
});
/** Due on 3 Nov, so overdue from the 4th on, until the later versions say otherwise. */
const overdue = (...later: TestDeal["versions"]): TestDeal => ({ versions: [{ at: "2026-09-01", close: "2026-11-03", amount: 100 }, ...later] });
const outcome = (deal: TestDeal, given: Partial<TaskFacts> = {}, seen = TODAY) => {
	const [found] = outcomesOf(makeCompany([deal]), 0, task(given), seen);
	return [found?.state, found && found.on !== NO_DAY ? formatDay(found.on) : null, found?.closed];
};

describe("what became of a flag that a task names", () => {
	test("out, on the first day-end on which it doesn’t fire", () => {
		expect(outcome(overdue({ at: "2026-11-17", close: "2026-12-18" }))).toEqual(["out", "2026-11-17", null]);
	});
	test("out on the day the task was created, if it still fired the day before", () => {
		expect(outcome(overdue({ at: "2026-11-10", close: "2026-12-18" }))).toEqual(["out", "2026-11-10", null]);
	});
	test("not lit, where it fired neither the day before nor on the day", () => {
		expect(outcome(overdue({ at: "2026-11-09", close: "2026-11-10" }))).toEqual(["not_lit", null, null]);
		expect(outcome({ versions: [{ at: "2026-09-01", close: "2026-12-18" }] })).toEqual(["not_lit", null, null]);
		expect(outcomesOf(makeCompany([]), NONE, task({}), TODAY)).toEqual([{ flag: "overdue", state: "not_lit", on: NO_DAY, closed: null }]);
	});
	test("closed, where the flag fired until the deal was won or lost", () => {
		expect(outcome(overdue({ at: "2026-11-18", stage: "Won" }))).toEqual(["closed", "2026-11-18", "won"]);
		expect(outcome(overdue({ at: "2026-11-18", stage: "Lost" }))).toEqual(["closed", "2026-11-18", "lost"]);
		expect(outcome(overdue({ at: "2026-11-12", close: "2026-12-18" }, { at: "2026-11-18", stage: "Won" }))).toEqual(["out", "2026-11-12", null]);
	});
	test("lit while the task is open; once it is done too early to tell for fifteen working days, and lit after them", () => {
		expect(outcome(overdue())).toEqual(["lit", null, null]);
		const done = { state: "done" as const, doneDay: day("2026-11-12"), doneAt: Date.parse("2026-11-12T09:00:00Z") };
		expect(outcome(overdue(), done)).toEqual(["early", null, null]);
		expect(outcome(overdue(), done, day("2026-12-03"))).toEqual(["early", null, null]);
		expect(outcome(overdue(), done, day("2026-12-04"))).toEqual(["lit", null, null]);
		expect(outcome(overdue(), done, day("2026-11-11"))).toEqual(["lit", null, null]);
	});
	test("what happens later than fifteen working days after it was done is no merit of the task", () => {
		const done = { state: "done" as const, doneDay: day("2026-11-10"), doneAt: Date.parse("2026-11-10T09:00:00Z") };
		expect(outcome(overdue({ at: "2026-12-01", close: "2026-12-18" }), done, day("2026-12-20"))).toEqual(["out", "2026-12-01", null]);
		expect(outcome(overdue({ at: "2026-12-02", close: "2026-12-18" }), done, day("2026-12-20"))).toEqual(["lit", null, null]);
	});
	test("is never changed by what happens after the seen day", () => {
		fc.assert(
			fc.property(histories, fc.integer({ min: 0, max: 60 }), (deals, back) => {
				const seen = TODAY - back;
				const cut = deals.map((deal) => ({ ...deal, versions: deal.versions.filter(({ at }) => at.slice(0, 10) <= formatDay(seen)) }));
				if (cut.some(({ versions }) => !versions.length)) return;
				const of = (all: TestDeal[]) =>
					all.map((_, i) => outcomesOf(makeCompany(all, { rates }), i, task({ createdDay: seen - 20, flags: ["overdue", "no-next-step", "slipped"] }), seen));
				expect(of(deals)).toEqual(of(cut));
			}),
			{ numRuns: 40 },
		);
	});
});

describe("a task that is moved", () => {
	const moved = task({ due: day("2026-11-27"), former: [was("2026-11-12", "2026-11-13"), was("2026-11-16", "2026-11-18"), was("2026-11-17", "2026-11-16")] });
	const { calendar } = makeCompany([]).rules;
	test("counts its moves to a later day and their working days, up to the seen day", () => {
		expect(movesOf(moved, calendar, TODAY)).toEqual({ times: 2, workingDays: 3 + 9 });
		expect(movesOf(moved, calendar, day("2026-11-16"))).toEqual({ times: 1, workingDays: 3 });
		expect(movesOf(moved, calendar, day("2026-11-11"))).toEqual({ times: 0, workingDays: 0 });
	});
	test("was overdue when it was, whatever it is due now", () => {
		const late = task({ due: day("2026-12-01"), former: [was("2026-11-20", "2026-11-13")] });
		expect([followedAs(late, day("2026-11-13")), followedAs(late, day("2026-11-19")), followedAs(late, day("2026-11-20"))]).toEqual([
			"open",
			"overdue",
			"open",
		]);
	});
});

describe("follow-through", () => {
	const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };
	const company = makeCompany([overdue({ at: "2026-11-17", close: "2026-12-18" }), overdue(), overdue({ at: "2026-11-18", stage: "Won" })]);
	const done = (on: string) => ({ state: "done" as const, doneDay: day(on), doneAt: Date.parse(`${on}T09:00:00Z`) });
	const tasks = [
		{ task: task({ id: "a", ...done("2026-11-13") }), deal: 0 },
		{ task: task({ id: "b", ...done("2026-11-16"), assignee: 1 }), deal: 1 },
		{ task: task({ id: "c" }), deal: 1 },
		{ task: task({ id: "d", due: day("2026-11-24"), flags: [] }), deal: NONE },
		{ task: task({ id: "e", ...done("2026-11-12"), state: "dropped" }), deal: 2 },
		{ task: task({ id: "f", due: NO_DAY, ...done("2026-11-20"), flags: [] }), deal: NONE },
		{ task: task({ id: "g", assignee: NONE, team: "North" }), deal: 1 },
		{ task: task({ id: "h", createdDay: day("2026-09-30") }), deal: 1 },
		{ task: task({ id: "i", createdDay: day("2026-11-25") }), deal: 1 },
	];
	const of = (scope: ReadonlySet<number> | null) =>
		followThrough(tasks, { scope, period: Q4, seen: TODAY }, ({ task: one, deal }) => outcomesOf(company, deal, one, TODAY));
	test("counts what was given to people in the period, by what became of it, and of the flags", () => {
		const { people, flags, ...whole } = of(null);
		expect(whole).toEqual({ set: 6, onTime: 2, late: 1, dropped: 1, overdue: 1, open: 1, outcomes: { not_lit: 0, closed: 1, out: 1, lit: 1, early: 1 } });
		expect(people.get(1)).toMatchObject({ set: 1, late: 1, outcomes: { early: 1 } });
		expect(flags.get("overdue")).toEqual(whole.outcomes);
	});
	test("each task is of one kind, and people and flags add up to the whole", () => {
		const whole = of(null);
		expect(FOLLOWED.reduce((sum, kind) => sum + whole[kind], 0)).toBe(whole.set);
		for (const kind of ["set", ...FOLLOWED] as const) expect([...whole.people.values()].reduce((sum, own) => sum + own[kind], 0)).toBe(whole[kind]);
		for (const state of OUTCOMES) {
			expect([...whole.people.values()].reduce((sum, own) => sum + own.outcomes[state], 0)).toBe(whole.outcomes[state]);
			expect([...whole.flags.values()].reduce((sum, own) => sum + own[state], 0)).toBe(whole.outcomes[state]);
		}
		expect(of(new Set([1])).set + of(new Set([0])).set).toBe(whole.set);
	});
	test("says what won’t be done in time: overdue, after its deal’s close, after the period", () => {
		const of = (due: string, deal: number) => tooLate(company, { task: task({ due: day(due) }), deal }, Q4, TODAY);
		expect([of("2026-11-23", NONE), of("2026-11-24", NONE), of("2026-12-21", 0), of("2026-12-18", 0), of("2027-01-04", NONE)]).toEqual([
			"overdue",
			null,
			"after the close",
			null,
			"after the period",
		]);
		expect(tooLate(company, { task: task(done("2026-11-20")), deal: 0 }, Q4, TODAY)).toBeNull();
	});
});
