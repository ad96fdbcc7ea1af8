import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { through } from "../../../tests/kit/steps";
import type { Scope } from "../bridge/scope";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
import { quarterOf } from "../time/period";
import { type Ground, groundSteps, type Outlook, outlookSteps } from "./outlook";
import { foretellPast, missesOf, recordOf } from "./record";
import { coursesOf, spreadOf } from "./shock";

const TODAY = day("2026-11-24");
const Q4 = quarterOf(TODAY, 1);
/** First month of each past quarter, the first first. */
const QUARTERS = ["2025-10", "2026-01", "2026-04", "2026-07"];

const lastMonth = (first: string) => `${first.slice(0, 5)}${String(Number(first.slice(5)) + 2).padStart(2, "0")}`;

/** Twelve deals due at each quarter’s end, of four kinds, so many of them won on its 27th day; the third owner’s one deal a quarter is won early. */
function companyOf(wins: readonly number[]) {
	const deals = QUARTERS.flatMap((first, q): TestDeal[] => {
		const end = lastMonth(first);
		const due = Array.from({ length: 12 }, (_, i): TestDeal => {
			const begin = {
				at: `${first}-05`,
				stage: i % 2 ? "Terms" : "Survey",
				category: i % 3 ? "commit" : "pipeline",
				amount: 100 + 10 * i,
				close: `${end}-28`,
				owner: i % 2,
			};
			const closed = { at: `${end}-27`, stage: i < (wins[q] ?? 0) ? "Won" : "Lost" };
			return { versions: [begin, closed] } as TestDeal;
		});
		const early = {
			versions: [
				{ at: `${first}-05`, stage: "Terms", amount: 500, close: `${first}-20`, owner: 2 },
				{ at: `${first}-20`, stage: "Won" },
			],
		} as TestDeal;
		return [...due, early];
	});
	const open = Array.from(
		{ length: 6 },
		(_, i): TestDeal => ({ versions: [{ at: "2026-10-05", stage: "Terms", category: "commit", amount: 100, close: "2026-12-28", owner: i % 2 }] }) as TestDeal,
	);
	return makeCompany([...deals, ...open]);
}

function foretold(wins: readonly number[], scope: Scope = null) {
	const company = companyOf(wins);
	const norms = normsOn(company, TODAY);
	const survey = { norms, deals: company.deals.map((_, deal) => inspect(company, deal, norms)) };
	const { past, samples, courses } = through(groundSteps(company, survey, Q4, scope, TODAY)) as Ground;
	return { company, made: foretellPast(company, past, samples, courses, scope, TODAY) };
}

describe("a past period foretold by the others", () => {
	test("has the wins and the total that came, and misses by as many spreads as that is from its centre", () => {
		const { made } = foretold([6, 3, 9, 6]);
		expect(made).toHaveLength(4);
		made.forEach(({ won, total, stakes, moments, miss, empty }, q) => {
			const wins = [6, 3, 9, 6][q] as number;
			const came = Array.from({ length: wins }, (_, i) => (100 + 10 * i) * 100).reduce((sum, amount) => sum + amount, 0);
			expect([won, total, stakes.length, empty]).toEqual([500_00, 500_00 + came, 12, false]);
			expect(moments.deviation).toBeGreaterThan(0);
			expect(miss).toBeCloseTo((total - moments.centre) / moments.deviation, 12);
		});
	});
	test("learns nothing of itself: whatever becomes of it, its chances are the same, and the others’ aren’t", () => {
		// The last one: of another the wins are among the usual times by which deals of later periods are told.
		const [one, other] = [foretold([6, 3, 9, 6]).made, foretold([6, 3, 9, 12]).made];
		const chances = (made: typeof one, q: number) => made[q]?.stakes.map(({ chance }) => chance);
		expect(chances(other, 3)).toEqual(chances(one, 3));
		expect(other[3]?.moments.mean).toBe(one[3]?.moments.mean);
		// How far periods go apart is told by the courses of the others, each of which is held against all but itself.
		expect(other[3]?.learnt.spread).toBe(spreadOf(coursesOf(other.map(({ past }) => past.tally)).slice(0, 3)));
		expect(other[3]?.total).toBeGreaterThan(one[3]?.total as number);
		for (const q of [0, 1, 2]) expect(Math.max(...(chances(other, q) ?? []))).toBeGreaterThan(Math.max(...(chances(one, q) ?? [])));
	});
	test("of people who had nothing open has no spread, so that it misses by nothing that could be said", () => {
		const { made } = foretold([6, 3, 9, 6], new Set([2]));
		expect(made.map(({ won, total, miss, empty }) => [won, total, miss, empty])).toEqual(made.map(() => [500_00, 500_00, null, false]));
		expect(missesOf(made)).toEqual([]);
		expect(missesOf(foretold([6, 3, 9, 6]).made)).toHaveLength(4);
	});
	test("of nobody’s is empty", () => {
		expect(foretold([6, 3, 9, 6], new Set([3])).made.map(({ empty }) => empty)).toEqual([true, true, true, true]);
	});
});

test("a write of today changes nothing of what is foretold as of yesterday", () => {
	const deals = (today: boolean): TestDeal[] =>
		QUARTERS.flatMap((first, q) =>
			Array.from({ length: 9 }, (_, i): TestDeal => {
				const end = lastMonth(first);
				const lived = [
					{ at: `${first}-05`, stage: "Terms", category: "commit", amount: 100 + i, close: `${end}-28`, owner: i % 2 },
					{ at: `${end}-27`, stage: (i + q) % 3 ? "Won" : "Lost" },
				];
				return {
					versions: [...lived, ...(today && i % 2 ? [{ at: "2026-11-24 09:00", stage: "Survey", amount: 9_999, close: "2026-12-30", owner: 1 }] : [])],
				} as TestDeal;
			}),
		).concat(
			Array.from(
				{ length: 5 },
				(_, i) =>
					({
						versions: [
							{ at: "2026-10-05", stage: "Terms", category: "commit", amount: 100 + i, close: "2026-12-28", owner: i % 2 },
							...(today ? [{ at: "2026-11-24 09:00", stage: i % 2 ? "Won" : "Lost", amount: 77 }] : []),
						],
					}) as TestDeal,
			),
			today ? [{ created: "2026-11-24", versions: [{ at: "2026-11-24 08:00", stage: "Survey", amount: 5, close: "2026-12-01" }] } as TestDeal] : [],
		);
	const told = (today: boolean, seen: number) => {
		const company = makeCompany(deals(today));
		const norms = normsOn(company, seen);
		const survey = { norms, deals: company.deals.map((_, deal) => inspect(company, deal, norms)) };
		const { record, deals: open, ...rest } = through(outlookSteps(company, survey, Q4, null, seen, 500_00, "q")) as Outlook;
		return { ...rest, record, open };
	};
	expect(told(true, TODAY - 1)).toEqual(told(false, TODAY - 1));
	expect(told(true, TODAY)).not.toEqual(told(false, TODAY));
});

describe("its record", () => {
	const record = (wins: readonly number[], scope: Scope = null, of = 4) => {
		const { company, made } = foretold(wins, scope);
		return { made, told: through(recordOf(company, made.slice(0, of), "test")) };
	};
	test("is said of three periods and more", () => {
		expect(record([6, 3, 9, 6], null, 2).told).toMatchObject({ periods: [], brier: null, baseline: null, narrow: false });
		expect(record([6, 3, 9, 6], null, 3).told.periods).toHaveLength(3);
	});
	test("counts a total on the band’s edge as inside: where all was won before, the band is that alone", () => {
		const { periods } = record([6, 3, 9, 6], new Set([2])).told;
		expect(periods.map(({ low, high, total, inside }) => [low, high, total, inside])).toEqual(periods.map(() => [500_00, 500_00, 500_00, true]));
		expect(periods).toHaveLength(4);
	});
	test("leaves out periods with nothing", () => expect(record([6, 3, 9, 6], new Set([3])).told.periods).toEqual([]));
	test("holds chances and the stages’ own against what came, deal by deal", () => {
		const { made, told } = record([6, 3, 9, 6]);
		const all = made.flatMap(({ past, stakes }) => past.deals.map(({ won, stage }, i) => ({ won: Number(won), chance: stakes[i]?.chance as number, stage })));
		const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
		expect(told.brier).toBeCloseTo(mean(all.map(({ won, chance }) => (chance - won) ** 2)), 12);
		// Survey is the second of the stages, Terms the fifth.
		expect(told.baseline).toBeCloseTo(mean(all.map(({ won, stage }) => ((stage === 1 ? 0.25 : 0.8) - won) ** 2)), 12);
		for (const { from, to, n, chance, share } of told.calibration) {
			const own = all.filter((one) => one.chance >= from && one.chance < to);
			expect(n).toBe(own.length);
			if (n < 5) expect([chance, share]).toEqual([null, null]);
			else expect([chance, share]).toEqual([expect.closeTo(mean(own.map((one) => one.chance)), 10), mean(own.map(({ won }) => won))]);
		}
	});
	test("widens the band of each period by how far the others missed", () => {
		const widths = (wins: readonly number[]) => record(wins).told.periods.map(({ low, high }) => high - low);
		const [calm, wild] = [widths([6, 6, 6, 6]), widths([6, 0, 12, 6])];
		expect(wild[0] as number).toBeGreaterThan((calm[0] as number) * 1.3);
	});
});
