import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { makeCompany as company, day, type TestDeal } from "../../../tests/kit/company";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
import type { TaskFacts } from "../tasks/task";
import { NO_DAY } from "../time/day";
import { ASKS, asksOf, preparedOf } from "./asks";
import { isWithin } from "./call";
import { CALL_KINDS, CALLS, callKind, findCall } from "./calls";
import { cameTrue, heldOf } from "./held";
import { countFates, FATES, fateOn, promisedFor } from "./promise";
import { type Counting, countsByCall, countsByWord, differences, totalsOf } from "./totals";

const PERIOD = { start: 100, end: 190 };
const counting = fc.record({
	owner: fc.integer({ min: 0, max: 4 }),
	amount: fc.integer({ min: 0, max: 1_000_000 }),
	close: fc.oneof(fc.integer({ min: 50, max: 250 }), fc.constant(NO_DAY)),
	category: fc.constantFrom("commit", "best_case", "pipeline", "left_out"),
	called: fc.option(fc.record({ call: fc.constantFrom(...CALLS), to: fc.oneof(fc.integer({ min: 50, max: 250 }), fc.constant(NO_DAY)) })),
}) as fc.Arbitrary<Counting>;

describe("what a period comes to", () => {
	test("by the calls is the reps’ word as long as nothing is called", () => {
		fc.assert(
			fc.property(fc.array(counting), fc.nat(), (deals, won) => {
				const { byWord, byCalls, called } = totalsOf(
					PERIOD,
					won,
					deals.map((deal) => ({ ...deal, called: null })),
				);
				expect([byCalls, called]).toEqual([byWord, 0]);
			}),
		);
	});
	test("adds up over any parting of the deals, and differs by what the owners’ parts differ", () => {
		fc.assert(
			fc.property(fc.array(counting), fc.nat(), fc.nat({ max: 20 }), (deals, won, at) => {
				const whole = totalsOf(PERIOD, won, deals);
				const [a, b] = [totalsOf(PERIOD, won, deals.slice(0, at)), totalsOf(PERIOD, 0, deals.slice(at))];
				for (const key of ["byWord", "byCalls", "shaky", "called"] as const) expect(whole[key]).toBe(a[key] + b[key]);
				const apart = differences(PERIOD, deals);
				expect(apart.reduce((sum, one) => sum + one.byCalls - one.byWord, 0)).toBe(whole.byCalls - whole.byWord);
				const gaps = apart.map((one) => Math.abs(one.byCalls - one.byWord));
				expect(gaps).toEqual([...gaps].sort((x, y) => y - x));
				expect(gaps.every((gap) => gap > 0)).toBe(true);
			}),
		);
	});
	test("counts a deal whole or not at all, and only where it is called to close in the period", () => {
		fc.assert(
			fc.property(counting, (deal) => {
				for (const counted of [countsByWord(PERIOD, deal), countsByCall(PERIOD, deal)]) expect([0, deal.amount]).toContain(counted);
				if (deal.called?.call === "gone" || deal.called?.call === "shaky") expect(countsByCall(PERIOD, deal)).toBe(0);
				if (deal.called?.call === "holds") expect(countsByCall(PERIOD, deal)).toBe(deal.amount);
			}),
		);
	});
});

const task = (given: Partial<TaskFacts> = {}): TaskFacts => ({
	id: "t",
	assignee: 0,
	team: null,
	flags: [],
	createdDay: 10,
	due: 15,
	state: "open",
	doneDay: NO_DAY,
	doneAt: Number.NaN,
	former: [],
	...given,
});

describe("a promise", () => {
	test("is kept by its day, late after it, not done once it has passed; and one that is moved is held against its first day", () => {
		const done = (doneDay: number) => task({ state: "done", doneDay, doneAt: doneDay });
		expect([fateOn(done(15), 20), fateOn(done(16), 20), fateOn(done(16), 15), fateOn(done(16), 16)]).toEqual(["kept", "late", "open", "late"]);
		expect([fateOn(task(), 15), fateOn(task(), 16), fateOn(task({ due: NO_DAY }), 99)]).toEqual(["open", "not done", "open"]);
		expect(fateOn(task({ state: "dropped", doneDay: 12, doneAt: 12 }), 20)).toBe("dropped");
		const { createdDay: _, id: __, flags: ___, former: ____, ...was } = task();
		const moved = task({ due: 30, former: [{ ...was, until: 14, note: null }] });
		expect([promisedFor(moved), fateOn(moved, 20)]).toEqual([15, "not done"]);
	});
	test("fates are counted, each in one place", () => {
		fc.assert(
			fc.property(fc.array(fc.constantFrom(...FATES)), (fates) => {
				const counts = countFates(fates);
				expect(FATES.reduce((sum, fate) => sum + counts[fate], 0)).toBe(fates.length);
			}),
		);
	});
});

describe("the calls", () => {
	test("have their words, what is asked with them, and how they count", () => {
		expect(CALL_KINDS.map(({ key, label, means, comesTrue, asks, beside }) => [key, label, means, comesTrue, asks ?? null, beside ?? false])).toEqual([
			["holds", "Holds", "closes in this period", "the deal is won in the round’s period", null, false],
			["shaky", "Shaky", "may close, with work", "it is won after all", null, true],
			["moves", "Moves", "will close on another day", "it isn’t won in the period, or the new date is met", "day", false],
			["gone", "Gone", "will not be won", "it is lost", "loss", false],
		]);
		expect(findCall("remedy")).toBeUndefined();
		expect(() => callKind("remedy" as never)).toThrow("no call is called remedy");
	});
	test("count by the period’s days, its first and last among them", () => {
		const { start, end } = PERIOD;
		const days = [start - 1, start, end, end + 1, NO_DAY];
		expect(days.map((to) => isWithin(PERIOD, to))).toEqual([false, true, true, false, false]);
		expect(days.map((to) => callKind("moves").counts(PERIOD, to))).toEqual([false, true, true, false, false]);
		expect(days.map((to) => callKind("moves").trueIfWon(PERIOD, to))).toEqual([true, true, true, false, false]);
		expect(days.map((to) => callKind("moves").trueIfNot(PERIOD, to))).toEqual([false, false, false, true, true]);
		const deal = (close: number, category = "commit", called: Counting["called"] = null): Counting => ({ owner: 0, amount: 7, close, category, called });
		expect(days.map((close) => countsByWord(PERIOD, deal(close)))).toEqual([0, 7, 7, 0, 0]);
		expect(countsByWord(PERIOD, deal(start, "best_case"))).toBe(0);
		const shaky = deal(start, "pipeline", { call: "shaky", to: NO_DAY });
		const holds = deal(end + 1, "pipeline", { call: "holds", to: NO_DAY });
		expect(totalsOf(PERIOD, 100, [shaky, holds, deal(start), deal(start, "commit", { call: "gone", to: NO_DAY })])).toEqual({
			byWord: 114,
			byCalls: 114,
			shaky: 7,
			called: 3,
		});
		const ofTwo = (owner: number): Counting => ({ ...deal(start), owner, called: { call: "gone", to: NO_DAY } });
		expect(differences(PERIOD, [ofTwo(2), ofTwo(1)]).map(({ owner }) => owner)).toEqual([1, 2]);
	});
});

describe("whether a call came true", () => {
	const won = (closedDay: number) => ({ status: "won" as const, closedDay });
	const lost = { status: "lost" as const, closedDay: 150 };
	const open = { status: "open" as const, closedDay: NO_DAY };
	const all = (came: Parameters<typeof cameTrue>[2], seen: number, to = NO_DAY) => CALLS.map((call) => cameTrue({ call, to }, PERIOD, came, seen));
	test("is told by what became of the deal, and by the period’s end where nothing did", () => {
		expect(all(won(150), 160)).toEqual([true, true, false, false]);
		expect(all(lost, 160)).toEqual([false, false, false, true]);
		expect(all(open, 160)).toEqual([null, null, null, null]);
		expect(all(open, 200)).toEqual([false, false, true, null]);
		expect(all(won(195), 200, 195)).toEqual([false, false, true, null]);
		expect(cameTrue({ call: "moves", to: 180 }, PERIOD, won(175), 200)).toBe(true);
		// The period’s last day is still in it.
		const { end } = PERIOD;
		expect([all(won(end), end), all(won(end + 1), end + 1)]).toEqual([
			[true, true, false, false],
			[false, false, true, null],
		]);
		expect([all(open, end), all(open, end + 1)]).toEqual([
			[null, null, null, null],
			[false, false, true, null],
		]);
	});
	test("is counted so that called is true, false and open together", () => {
		fc.assert(
			fc.property(fc.array(fc.record({ call: fc.constantFrom(...CALLS), came: fc.constantFrom(true, false, null) })), (calls) => {
				const held = heldOf(calls);
				for (const call of CALLS) expect(held[call].called).toBe(held[call].true + held[call].false + held[call].open);
				expect(CALLS.reduce((sum, call) => sum + held[call].called, 0)).toBe(calls.length);
				for (const call of CALLS) {
					const came = calls.filter((one) => one.call === call).map((one) => one.came);
					expect([held[call].true, held[call].false, held[call].open]).toEqual([true, false, null].map((what) => came.filter((one) => one === what).length));
				}
			}),
		);
	});
});

describe("what a round will ask", () => {
	const made = company([
		{
			versions: [{ at: "2026-10-01", stage: "Survey", close: "2026-11-10" }],
			tasks: [
				{ createdDay: day("2026-11-02"), due: day("2026-11-09"), id: "late" } as never,
				{ createdDay: day("2026-11-02"), due: day("2026-12-09"), id: "ahead" } as never,
			],
		},
		{ versions: [{ at: "2026-10-01", stage: "Won", close: "2026-11-10" }] },
	]);
	const today = day("2026-11-24");
	const norms = normsOn(made, today);
	test("comes in the order in which it is put right, and says what is late and what has passed", () => {
		const seen = inspect(made, 0, norms);
		if (!seen) throw new Error("no deal");
		const asks = asksOf(made, seen, today, new Set(["late"]));
		const places = asks.map(({ kind }) => ASKS.indexOf(kind));
		expect(places).toEqual([...places].sort((a, b) => a - b));
		expect(asks.map(({ words }) => words)).toEqual(expect.arrayContaining(["Its close date, 10 Nov, has passed.", "A promise was due on 9 Nov."]));
		expect(asks.filter(({ kind }) => kind === "overdue task")).toHaveLength(1);
		expect(asks.some(({ of }) => of === "overdue")).toBe(false);
	});
	test("says each kind by its own words, on the days beside those that count too", () => {
		const asked = (deal: Partial<TestDeal> & Pick<TestDeal, "versions">, on = today, promised = new Set<string>()) => {
			const one = company([deal], { questions: [{ due: 1 }, { due: 1, key: true }, { due: 5 }] });
			const seen = inspect(one, 0, normsOn(one, on));
			if (!seen) throw new Error("no deal");
			return asksOf(one, seen, on, promised).map(({ kind, words, of }) => [kind, words, of]);
		};
		const quiet = { at: "2026-11-02", stage: "Survey", close: "2026-12-10", next: "2026-11-30" };
		const answered: TestDeal["answers"] = [
			[0, "heard", "2026-11-20"],
			[1, "shown", "2026-11-20"],
		];
		const without = (asks: (string | null)[][]) => asks.filter(([kind]) => kind !== "flag");
		expect(without(asked({ versions: [quiet], answers: answered }))).toEqual([]);
		expect(without(asked({ versions: [quiet] }))).toEqual([
			["missing answer", "Question 1?", "q1"],
			["missing answer", "Question 2?", "q2"],
		]);
		expect(without(asked({ versions: [{ ...quiet, close: null, next: null }], answers: answered }))).toEqual([
			["date passed", "It has no close date.", null],
			["no next step", "It has no next step with a day.", null],
		]);
		// On its day neither date has passed; the day after both have.
		const due = { versions: [{ ...quiet, close: "2026-11-24", next: "2026-11-24" }], answers: answered };
		expect(without(asked(due))).toEqual([]);
		expect(without(asked(due, today + 1))).toEqual([
			["date passed", "Its close date, 24 Nov, has passed.", null],
			["no next step", "Its next step was due on 24 Nov.", null],
		]);
		const tasks = [
			{ id: "none", createdDay: day("2026-11-02"), due: NO_DAY },
			{ id: "on", createdDay: day("2026-11-02"), due: today },
			{ id: "late", createdDay: day("2026-11-02"), due: today - 1 },
			{ id: "done", createdDay: day("2026-11-02"), due: today - 5, state: "done" as const, doneDay: today - 5 },
		];
		expect(without(asked({ versions: [quiet], answers: answered, tasks }))).toEqual([["overdue task", "A task was due on 23 Nov.", "late"]]);
		expect(without(asked({ versions: [quiet], answers: answered, tasks }, today, new Set(["late"])))).toEqual([
			["overdue task", "A promise was due on 23 Nov.", "late"],
		]);
		// An answer that is old is asked for again, once: as old, not as missing.
		const old = asked({ versions: [{ ...quiet, at: "2026-01-02" }], answers: answered?.map(([q, level]) => [q, level, "2026-01-05"] as const) as never });
		expect(old.filter(([kind]) => kind === "stale answer").map(([, , of]) => of)).toEqual(["q1", "q2"]);
		expect(old.filter(([kind]) => kind === "missing answer")).toEqual([]);
		// Flags that have a kind of their own aren't asked twice; others are, by their label and reason.
		const flags = asked({ versions: [{ ...quiet, at: "2026-01-02", close: "2026-11-10", next: null }] }).filter(([kind]) => kind === "flag");
		const codes = flags.map(([, , of]) => of);
		for (const code of ["overdue", "no-next-step", "stale-answers", "under-qualified"]) expect(codes).not.toContain(code);
		expect(codes).toContain("stalled");
		for (const [, words] of flags) expect(words).toMatch(/^[^:]+: .{5,}/);
	});
	test("is nothing about a deal that is closed", () => {
		const seen = inspect(made, 1, norms);
		if (seen) expect(asksOf(made, seen, today, new Set())).toEqual([]);
	});
	test("who is ready is counted by owner; a deal that its rep is ready for asks nothing more", () => {
		expect(
			preparedOf([
				{ owner: 1, asks: 3, ready: true },
				{ owner: 1, asks: 0, ready: false },
				{ owner: 0, asks: 2, ready: false },
				{ owner: -1, asks: 2, ready: false },
			]),
		).toEqual([
			{ owner: 0, deals: 1, ready: 0, asks: 2 },
			{ owner: 1, deals: 2, ready: 2, asks: 0 },
		]);
	});
});
