import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { blockInWords } from "@/../tests/kit/plain";
import { day, makeCompany, type TestVersion } from "../../../tests/kit/company";
import { percentile } from "../statistics/percentile";
import { NO_DAY } from "../time/day";
import { trailOf } from "../trail/trail";
import { asOf, BLANK_VERSION, blockIndex, blockOf, dayEnds, NONE, type VersionRow } from "./columns";
import { makeHistory, renumbered, withVersions } from "./make";
import { pathOf, stageTotal } from "./path";
import { usualTimes } from "./usual";

const seenOn = (versions: TestVersion[], iso: string, created?: string) => {
	const company = makeCompany([{ versions, ...(created ? { created } : {}) }]);
	const ends = dayEnds(company.history, 0, day(iso));
	const { stages, calendar } = company.rules;
	return { company, trail: trailOf(blockOf(company.history, 0), ends, 1), path: pathOf(blockOf(company.history, 0), ends, stages, calendar, day(iso)) };
};

describe("seen on a day", () => {
	const company = makeCompany([
		{ versions: [{ at: "2026-03-02 09:00" }, { at: "2026-03-02 17:00", amount: 2 }, { at: "2026-03-05 00:00", amount: 3 }] },
		{ versions: [{ at: "2026-04-01 09:00" }] },
	]);
	test("the last version of that day or before is in force", () => {
		expect(asOf(company.history, 0, day("2026-03-01"))).toBe(-1);
		expect(asOf(company.history, 0, day("2026-03-02"))).toBe(1);
		expect(asOf(company.history, 0, day("2026-03-04"))).toBe(1);
		expect(asOf(company.history, 0, day("2026-03-05"))).toBe(2);
	});
	test("another deal’s versions don’t count", () => {
		expect(asOf(company.history, 1, day("2026-03-31"))).toBe(-1);
		expect(asOf(company.history, 1, day("2026-12-31"))).toBe(3);
	});
	test("never sees the future, and the order of rows doesn’t matter", () => {
		const row = fc.record({ deal: fc.integer({ min: 0, max: 4 }), hour: fc.integer({ min: 0, max: 24 * 40 }) });
		fc.assert(
			fc.property(fc.uniqueArray(row, { selector: (r) => `${r.deal} ${r.hour}`, maxLength: 40 }), fc.integer({ min: 0, max: 41 }), (rows, offset) => {
				const { zone } = company.rules;
				const start = day("2026-03-01");
				const versions = rows.map((r, i) => ({
					...BLANK_VERSION,
					deal: r.deal,
					at: start * 86_400_000 + r.hour * 3_600_000,
					stage: 0,
					amount: r.hour,
					currency: 0,
					close: NO_DAY,
					owner: 0,
					category: 0,
					id: i,
				}));
				const history = makeHistory(5, versions, zone);
				const mirrored = makeHistory(5, [...versions].reverse(), zone);
				expect(mirrored).toEqual(history);
				for (let deal = 0; deal < 5; deal++) {
					const known = versions.filter((v) => v.deal === deal && zone.dayOf(v.at) <= start + offset).map((v) => v.at);
					const found = asOf(history, deal, start + offset);
					expect(found < 0 ? undefined : blockOf(history, deal).at[found]).toBe(known.length ? Math.max(...known) : undefined);
				}
			}),
		);
	});
});

describe("the trail", () => {
	test("counts pushes, pulls, days and quarter ends, and forgets what was corrected the same day", () => {
		const { trail } = seenOn(
			[
				{ at: "2026-03-03", close: "2026-06-30" },
				{ at: "2026-03-10 09:00", close: "2026-07-31" },
				{ at: "2026-03-10 17:00", close: "2026-06-30" },
				{ at: "2026-05-20", close: "2026-07-15" },
				{ at: "2026-07-01", close: "2026-07-10" },
				{ at: "2026-07-09", close: "2026-10-09" },
			],
			"2026-07-20",
		);
		expect(trail).toMatchObject({ pushes: 2, pulls: 1, pushedDays: 106, netDays: 101, crossings: 2, first: day("2026-06-30"), current: day("2026-10-09") });
		expect(trail.points).toHaveLength(4);
	});
	test("begins with the first date that was ever set, and skips blanks", () => {
		const { trail } = seenOn(
			[{ at: "2026-03-03" }, { at: "2026-03-05", close: "2026-05-01" }, { at: "2026-03-09", close: null }, { at: "2026-03-12", close: "2026-05-04" }],
			"2026-04-01",
		);
		expect(trail).toMatchObject({ first: day("2026-05-01"), pushes: 1, netDays: 3, crossings: 0 });
	});
	test("is empty without any date", () => {
		expect(seenOn([{ at: "2026-03-03" }], "2026-04-01").trail).toMatchObject({ first: NO_DAY, current: NO_DAY, pushes: 0, netDays: 0 });
	});
	test("a correction on the same day leaves no trace in trail or visits", () => {
		const stage = fc.constantFrom("Enquiry", "Survey", "Trial", "Won");
		const close = fc.constantFrom("2026-06-30", "2026-07-31", null);
		const step = fc.record({ stage, close, slipStage: stage, slipClose: close });
		fc.assert(
			fc.property(fc.array(step, { minLength: 1, maxLength: 12 }), (steps) => {
				const iso = (i: number) => `2026-03-${String(i + 2).padStart(2, "0")}`;
				const plain = steps.map((s, i) => ({ at: `${iso(i)} 15:00`, stage: s.stage, close: s.close }));
				const withSlips = steps.flatMap((s, i) => [{ at: `${iso(i)} 09:00`, stage: s.slipStage, close: s.slipClose }, plain[i] as TestVersion]);
				const [a, b] = [seenOn(plain, "2026-04-01"), seenOn(withSlips, "2026-04-01")];
				expect(b.trail).toEqual(a.trail);
				expect(b.path).toEqual(a.path);
			}),
		);
	});
});

describe("stages", () => {
	const walk: TestVersion[] = [
		{ at: "2026-03-02", stage: "Enquiry" },
		{ at: "2026-03-09", stage: "Survey" },
		{ at: "2026-03-16", stage: "Enquiry" },
		{ at: "2026-03-18", stage: "Survey" },
	];
	test("each run of days in a stage is a visit of its own, and the last is unfinished", () => {
		const { path } = seenOn(walk, "2026-03-20");
		expect(path.visits.map((v) => [v.stage, v.length, v.finished])).toEqual([
			[0, 5, true],
			[1, 5, true],
			[0, 2, true],
			[1, 2, false],
		]);
		expect(stageTotal(path, 1)).toBe(7);
		expect(path.lastForward).toBe(day("2026-03-18"));
		expect(path.lastBack).toBe(day("2026-03-16"));
	});
	test("a deal is closed on the day it enters won or lost, and open again after", () => {
		const closed = [...walk, { at: "2026-03-25", stage: "Lost" }, { at: "2026-03-30", amount: 5 }];
		expect(seenOn(closed, "2026-04-01").path.closedDay).toBe(day("2026-03-25"));
		expect(seenOn([...closed, { at: "2026-04-02", stage: "Trial" }], "2026-04-03").path.closedDay).toBe(NO_DAY);
	});
	test("percentiles lie between order statistics", () => {
		expect(percentile([1, 2, 3, 4], 0.5)).toBe(2.5);
		expect(percentile([4, 1, 3, 2], 0.75)).toBe(3.25);
		expect(percentile([7], 0.9)).toBe(7);
		expect(percentile([], 0.5)).toBeNaN();
	});
});

describe("usual times", () => {
	/** Won deals that spend n working days in each of Enquiry and Survey, closing on 13 March at the latest. */
	const won = (n: number) => ({
		versions: [
			{ at: iso(-2 * n), stage: "Enquiry" },
			{ at: iso(-n), stage: "Survey" },
			{ at: iso(0), stage: "Won" },
		],
	});
	const calendar = makeCompany([]).rules.calendar;
	const end = day("2026-03-13");
	function iso(workingDays: number): string {
		let at = end;
		for (let left = -workingDays; left > 0; ) if (calendar.isWorking(at--)) left--;
		while (!calendar.isWorking(at)) at--;
		return new Date(at * 86_400_000).toISOString().slice(0, 10);
	}
	test("are configured with fewer than eight visits of won deals, and measured from eight on", () => {
		const seven = usualTimes(makeCompany([1, 2, 3, 4, 5, 6, 7].map(won)), day("2026-04-01"));
		expect(seven.stages[0]).toMatchObject({
			visit: { 25: { days: 6 }, 50: { days: 10, measured: false }, 75: { days: 15 }, 90: { days: 20 } },
			remaining: { 25: { days: 30 }, 50: { days: 50 }, 75: { days: 75 }, 90: { days: 100 } },
		});
		expect(seven.cycle).toMatchObject({ days: 100, measured: false });
		const eight = usualTimes(makeCompany([1, 2, 3, 4, 5, 6, 7, 8].map(won)), day("2026-04-01"));
		expect(eight.stages[0]).toMatchObject({
			visit: { 25: { days: 2.75 }, 50: { days: 4.5, measured: true, sample: 8 }, 75: { days: 6.25 }, 90: { days: 7.3 } },
			remaining: { 25: { days: 5.5 }, 50: { days: 9 } },
		});
		expect(eight.stages[1]?.remaining[50].days).toBe(4.5);
		expect(eight.cycle.days).toBeCloseTo(14.6);
	});
	test("are the same in whatever order days are asked for", () => {
		const made = () => makeCompany(Array.from({ length: 60 }, (_, i) => i + 1).map(won));
		const asked = [end, end + 3, end - 9, end + 200, end - 30, end + 363, end + 400, end - 2, end + 1];
		const one = made();
		for (const seen of [...asked, ...asked.toReversed()]) expect(usualTimes(one, seen)).toEqual(usualTimes(made(), seen));
	});
	test("rest on deals won in the year up to the seen day, not on lost or older ones", () => {
		const company = makeCompany([1, 2, 3, 4, 5, 6, 7, 8].map(won));
		expect(usualTimes(company, end + 364).cycle.measured).toBe(true);
		expect(usualTimes(company, end + 365).cycle.measured).toBe(false);
		expect(usualTimes(company, end - 1).cycle.measured).toBe(false);
	});
});

describe("columns with other versions of some deals", () => {
	const versions = fc.array(fc.integer({ min: 0, max: 300 }), { minLength: 0, maxLength: 4 });
	const rows = (deal: number, list: readonly number[], from: number): VersionRow[] =>
		list.map((hour, i) => ({
			...BLANK_VERSION,
			deal,
			at: hour * 3_600_000,
			stage: i % 3,
			amount: i * 100,
			currency: 0,
			close: NO_DAY,
			owner: 0,
			category: 2,
			nextStep: `step ${i}`,
			id: from + deal * 10 + i,
		}));
	test("are those that would be made anew, whichever deals are new, gone or changed", () => {
		const { zone } = makeCompany([]).rules;
		const fates = fc.array(fc.tuple(versions, fc.constantFrom("kept", "changed", "gone")), { maxLength: 9 });
		fc.assert(
			fc.property(fates, fc.array(versions, { maxLength: 4 }), fc.constantFrom(0, 250, 500), (deals, come, before) => {
				// Deals that are kept stand before them, so that they lie at the edge of a block, or beyond it.
				const kept = Array.from({ length: before }, (_, deal) => rows(deal, [deal], 0)).flat();
				const all = deals.map(([list, fate], i) => ({ list, fate, deal: before + i }));
				const old = makeHistory(before + deals.length, [...kept, ...all.flatMap(({ list, deal }) => rows(deal, list, 0))], zone);
				const changed = new Set(all.flatMap(({ fate, deal }) => (fate === "kept" ? [] : [deal])));
				const fresh = [
					...all.flatMap(({ list, fate, deal }) => (fate === "changed" ? rows(deal, [...list, 400], 500) : [])),
					...come.flatMap((list, i) => rows(before + deals.length + i, list, 500)),
				];
				const count = before + deals.length + come.length;
				const patched = withVersions(old, count, changed, fresh, zone);
				const rest = all.flatMap(({ list, fate, deal }) => (fate === "kept" ? rows(deal, list, 0) : []));
				const whole = makeHistory(count, [...kept, ...rest, ...fresh], zone);
				expect(patched.blocks.map(blockInWords)).toEqual(whole.blocks.map(blockInWords));
				for (const { texts } of patched.blocks) expect(new Set(texts).size).toBe(texts.length);
				const touched = new Set([...changed, ...come.map((_, i) => before + deals.length + i)].map(blockIndex));
				old.blocks.forEach((block, i) => {
					if (!touched.has(i)) expect(patched.blocks[i]).toBe(block);
				});
			}),
		);
	});

	test("name owners and currencies by their new places, and nobody stays nobody", () => {
		const { zone } = makeCompany([]).rules;
		const history = makeHistory(
			1,
			[0, 1, NONE].flatMap((owner, i) => rows(0, [i], i * 10).map((row) => ({ ...row, owner }))),
			zone,
		);
		const [block] = renumbered(history, { owner: [4, 2], currency: [3] }).blocks;
		expect([...(block?.owner ?? [])]).toEqual([4, 2, NONE]);
		expect([...(block?.currency ?? [])]).toEqual([3, 3, 3]);
	});
});
