import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day, makeCompany, STAGES, type TestDeal } from "../../../tests/kit/company";
import { histories, RATES } from "../../../tests/kit/histories";
import { takesAway } from "../bridge/step";
import { stepOf } from "../bridge/steps";
import { trend } from "../bridge/trend";
import { blockOf, dayEnds, firstRow } from "../history/columns";
import { closedDayOf, pathOf } from "../history/path";
import { formatDay } from "../time/day";
import { ALWAYS } from "../time/period";
import { trailOf } from "../trail/trail";
import { ledgerOf, riverColumns, takeDeals } from "./columns";
import { type RiverWeek, river, weeksOf } from "./river";
import { pushesOf, standing } from "./thread";

const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };
const [FIRST, LAST] = [day("2026-11-04"), day("2026-11-24")];
const weeks = weeksOf(FIRST, LAST);
const scopes = fc.constantFrom(null, new Set([0]), new Set([1, 2]));
const columnsOf = (deals: TestDeal[]) => {
	const company = makeCompany(deals, { rates: RATES });
	const all = deals.map((_, i) => i);
	return { company, all, columns: riverColumns(company, all, FIRST, LAST) };
};
const sum = (values: Iterable<number>) => [...values].reduce((a, b) => a + b, 0);
const stepped = (week: RiverWeek) => sum(week.steps.map((step) => (takesAway(stepOf(step.kind)) ? -step.amount : step.amount)));

test("weeks run from Monday to Sunday, and the outer ones are cut to the span", () => {
	expect(weeks.map(({ start, end }) => [formatDay(start), formatDay(end)])).toEqual([
		["2026-11-04", "2026-11-08"],
		["2026-11-09", "2026-11-15"],
		["2026-11-16", "2026-11-22"],
		["2026-11-23", "2026-11-24"],
	]);
	expect(weeksOf(LAST, FIRST)).toEqual([]);
});

describe("the river", () => {
	test("of one deal: in, on, back, pushed within the period, pushed out", () => {
		const { columns } = columnsOf([
			{
				versions: [
					{ at: "2026-10-20", amount: 100, close: "2026-12-01", stage: "Survey" },
					{ at: "2026-11-05", stage: "Trial", amount: 120 },
					{ at: "2026-11-12", stage: "Survey", close: "2026-12-20" },
					{ at: "2026-11-18", close: "2027-01-20" },
				],
			},
		]);
		const ledger = ledgerOf(columns);
		const found = river(ledger, weeks, Q4, null);
		expect(found.start).toMatchObject({ open: 10_000, count: 1 });
		expect(found.weeks.map((week) => week.moves.map(({ from, to, before, after }) => [from, to, before, after]))).toEqual([
			[[1, 2, 10_000, 12_000]],
			[[2, 1, 12_000, 12_000]],
			[[1, "pushed-out", 12_000, 12_000]],
			[],
		]);
		expect(found.weeks.map((week) => week.later.length)).toEqual([0, 1, 0, 0]);
		expect(pushesOf(ledger, FIRST, LAST, Q4, null).map((push) => [formatDay(push.day), formatDay(push.from), formatDay(push.to), push.amount])).toEqual([
			["2026-11-12", "2026-12-01", "2026-12-20", 12_000],
			["2026-11-18", "2026-12-20", "2027-01-20", 12_000],
		]);
	});

	test("adds up: each week’s steps lead from its start to its end, and its moves hold each band at both", () => {
		fc.assert(
			fc.property(histories, scopes, (deals, scope) => {
				const found = river(ledgerOf(columnsOf(deals).columns), weeks, Q4, scope);
				let before = found.start;
				for (const week of found.weeks) {
					expect(before.open + stepped(week)).toBe(week.open);
					expect(sum(week.bands)).toBe(week.open);
					week.bands.forEach((band, stage) => {
						expect(sum(week.moves.filter((move) => move.from === stage).map((move) => move.before))).toBe(before.bands[stage]);
						expect(sum(week.moves.filter((move) => move.to === stage).map((move) => move.after))).toBe(band);
					});
					before = week;
				}
			}),
		);
	});

	test("shows the same as the trend, and its threads stack up to its bands", () => {
		fc.assert(
			fc.property(histories, scopes, (deals, scope) => {
				const { company, columns } = columnsOf(deals);
				const ledger = ledgerOf(columns);
				const found = river(ledger, weeks, Q4, scope);
				const ends = weeks.map((week) => week.end);
				trend(company, ends, Q4, scope).forEach((point, i) => {
					const week = found.weeks[i] as RiverWeek;
					expect([week.bands, week.count]).toEqual([point.byStage, point.count]);
					const threads = standing(ledger, week.end, Q4, scope);
					week.bands.forEach((band, stage) => {
						const tops = threads.filter((thread) => thread.stage === stage).map((thread) => thread.below + thread.amount);
						expect(Math.max(0, ...tops)).toBe(band);
					});
				});
			}),
		);
	});

	test("knows the closed day from the end of a history as the whole path does", () => {
		fc.assert(
			fc.property(histories, (deals) => {
				const { company } = columnsOf(deals);
				const { history, rules } = company;
				deals.forEach((_, deal) => {
					const ends = dayEnds(history, deal, LAST);
					const last = ends.at(-1);
					if (last === undefined) return;
					const { closedDay } = pathOf(blockOf(history, deal), ends, rules.stages, rules.calendar, LAST);
					expect(closedDayOf(blockOf(history, deal), rules.stages, firstRow(blockOf(history, deal), deal), last)).toBe(closedDay);
				});
			}),
		);
	});

	test("of parts adds up to the whole", () => {
		fc.assert(
			fc.property(histories, (deals) => {
				const { columns, all } = columnsOf(deals);
				const of = (part: number[]) => river(ledgerOf(takeDeals(columns, part)), weeks, Q4, null);
				const [whole, even, odd] = [of(all), of(all.filter((i) => i % 2 === 0)), of(all.filter((i) => i % 2 === 1))];
				whole.weeks.forEach((week, w) => {
					expect(week.open).toBe((even.weeks[w]?.open ?? 0) + (odd.weeks[w]?.open ?? 0));
					week.steps.forEach((step, s) => {
						expect(step.amount).toBe((even.weeks[w]?.steps[s]?.amount ?? 0) + (odd.weeks[w]?.steps[s]?.amount ?? 0));
					});
				});
			}),
		);
	});

	test("counts the pushes of deals that stay open as their trails do", () => {
		fc.assert(
			fc.property(histories, (deals) => {
				const open = deals.map((deal) => ({ ...deal, versions: deal.versions.map((version, i) => ({ ...version, stage: STAGES[i % 5] as string })) }));
				const company = makeCompany(open, { rates: RATES });
				const columns = riverColumns(
					company,
					open.map((_, i) => i),
					day("2026-10-01"),
					LAST,
				);
				const pushes = pushesOf(ledgerOf(columns), day("2026-10-01"), LAST, ALWAYS, null);
				open.forEach((_, deal) => {
					const trail = trailOf(blockOf(company.history, deal), dayEnds(company.history, deal, LAST), 1);
					expect(pushes.filter((push) => push.deal === deal).length).toBe(trail.pushes);
				});
			}),
		);
	});
});
