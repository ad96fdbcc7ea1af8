import { describe, expect, test } from "vitest";
import { at, day, makeCompany, STAGES, type TestDeal } from "../../../tests/kit/company";
import { random } from "../../../tests/kit/random";
import { LIGHTS } from "../attention/attention";
import { ownerIn, type Scope } from "../bridge/scope";
import { RULES } from "../flags/list";
import { asOf, blockOf, dayEnds } from "../history/columns";
import { pathOf } from "../history/path";
import { amountBaseOf, categoryOf, inspect, rowOf } from "../inspect";
import { normsOn } from "../norms";
import { LEVELS } from "../qualification/answer";
import { type ShareOfDeals, shareOf } from "../statistics/wilson";
import { surveyOn } from "../survey";
import { formatDay } from "../time/day";
import { quarterAt, quarterIndex } from "../time/period";
import { closedWithin } from "./closed";
import { type Due, dueIn, dueOver, endRowOf } from "./due";
import { lateChanges } from "./priced";
import { daysBefore, lastPeriods } from "./quarters";
import { accuracyOf, answerRecords, flagRecords, lightRecords } from "./records";
import { lightingSteps, weekEnds } from "./taskHelp";
import { timeInStage } from "./timeInStage";
import { severityRecords } from "./weights";

// Figures of the past counted again by plain loops, over two hundred and sixty deals that a seed made.
const TODAY = day("2026-11-24");
const roll = random(7);
const isoAt = (from: string, days: number) => formatDay(day(from) + days);
const OPEN = STAGES.slice(0, 5);

const deals: TestDeal[] = Array.from({ length: 260 }, (_, i): TestDeal => {
	const created = isoAt("2025-06-01", roll.below(420));
	const owner = roll.of([0, 1, 2, null]);
	// The first and the last day of a quarter are due in it, too.
	const close = i % 10 === 0 ? "2026-07-01" : i % 10 === 1 ? "2026-09-30" : isoAt(created, 40 + roll.below(200));
	const versions: TestDeal["versions"] = [
		{
			at: `${created} 09:00`,
			stage: roll.of(OPEN),
			amount: roll.of([null, 100 + roll.below(900), 50_000]),
			close,
			owner,
			category: roll.of(["commit", "pipeline"]),
		},
	];
	for (let n = roll.below(4), on = created; n > 0; n--) {
		on = isoAt(on, 5 + roll.below(45));
		versions.push({ at: `${on} 10:00`, stage: roll.of(OPEN), amount: roll.of([null, 100 + roll.below(900)]) });
	}
	const last = versions.at(-1)?.at.slice(0, 10) as string;
	const end = roll.of(["Won", "Lost", "Won", "Won", null, "removed"]);
	// Some are won just before they are due, after the day on which they are looked at.
	const inTime = isoAt(close, -1 - roll.below(8));
	if (i % 4 === 0 && inTime > last) versions.push({ at: `${inTime} 11:00`, stage: "Won" });
	else if (end) versions.push({ at: `${isoAt(last, 3 + roll.below(120))} 11:00`, stage: end });
	const answers = roll.below(3) ? [[0, roll.of(["heard", "unclear", "against", "shown"] as never), `${created} 12:00`] as never] : [];
	const tasks = roll.below(2)
		? [
				{
					id: `t${i}`,
					flags: [roll.of(["no-next-step", "stalled", "gone-quiet"])],
					createdDay: day("2026-06-01") + roll.below(130),
					due: day("2026-10-01"),
					state: "open" as const,
				},
			]
		: [];
	return { created, versions, answers, tasks };
});
const company = makeCompany(deals, { questions: [{ key: true }, { weight: 3, due: 2 }] });
const quarters = lastPeriods(company, "quarter", TODAY, 4, 10);
const SCOPES: [string, Scope][] = [
	["everyone", null],
	["two of them", new Set([0, 1])],
];
const due = (scope: Scope): Due[] => quarters.flatMap((one) => dueIn(company, one)).filter(({ seen }) => ownerIn(scope, seen.owner));
/** The share not won in time, its interval by how much the rows of one deal say the same. */
function shareIn(list: readonly Due[], hit: (one: Due) => boolean = ({ won }) => !won): ShareOfDeals {
	const deals = [...new Set(list.map(({ seen }) => seen.deal))];
	const [k, n] = [list.filter(hit).length, list.length];
	if (n < 5) return { ...shareOf(k, n), deals: deals.length };
	const p = k / n;
	const scatter = deals.reduce((sum, deal) => sum + list.filter(({ seen }) => seen.deal === deal).reduce((own, one) => own + Number(hit(one)) - p, 0) ** 2, 0);
	const d = p === 0 || p === 1 ? n / deals.length : Math.max(1, scatter / (n * p * (1 - p)));
	const [z2, dn, dk] = [1.959964 ** 2, n / d, k / d];
	const half = (1.959964 / (dn + z2)) * Math.sqrt((dk * (dn - dk)) / dn + z2 / 4);
	const centre = (dk + z2 / 2) / (dn + z2);
	return { k, n, share: p, low: Math.max(0, centre - half), high: Math.min(1, centre + half), deals: deals.length };
}
/** Rounded where sums may be taken in another order. */
const rounded = (value: unknown) => JSON.parse(JSON.stringify(value, (_, one) => (typeof one === "number" ? Number(one.toFixed(9)) : one)));
const missed = (list: readonly Due[]) => list.filter(({ won }) => !won).length;
const recordOf = (own: readonly Due[], all: readonly Due[]) => {
	const [has, hasNot] = [shareIn(own), shareIn(all.filter((one) => !own.includes(one)))];
	return { with: has, without: hasNot, lift: has.share === null || !hasNot.share ? null : has.share / hasNot.share };
};

test("the made-up deals say something: many are due, of every kind", () => {
	const all = due(null);
	expect(all.length).toBeGreaterThan(60);
	expect(missed(all)).toBeGreaterThan(20);
	expect(missed(all)).toBeLessThan(all.length - 6);
});

describe.each(SCOPES)("what became of the deals due of %s", (_, scope) => {
	const all = due(scope);
	test("by flag: those that had it beside those that didn’t", () => {
		const records = flagRecords(company, quarters, TODAY, scope);
		expect(records.map(({ code }) => code)).toEqual(RULES.map(({ code }) => code));
		for (const { code, with: has, without, lift, p, apart, shrunkLift: shrunk, laterWon } of records) {
			const own = all.filter(({ seen }) => seen.flags.some((flag) => flag.code === code));
			expect(rounded([code, { with: has, without, lift }])).toEqual(rounded([code, recordOf(own, all)]));
			expect(p === null).toBe(has.n < 8 || without.n < 8);
			if (apart) expect(p).toBeLessThanOrEqual(0.1);
			expect(shrunk === null).toBe(has.share === null || without.share === null);
			const late = own.filter(({ won, seen, period }) => {
				const [after] = [quarterAt(quarterIndex(period.start, 1) + 2, 1)];
				const then = inspect(company, seen.deal, normsOn(company, Math.min(after.end, TODAY)));
				return !won && then?.status === "won";
			}).length;
			expect(laterWon).toBe(has.share === null ? null : late);
		}
		expect(records.filter(({ lift }) => lift !== null).length).toBeGreaterThan(4);
	});
	test("by level of attention", () => {
		const at = (level: string) => all.filter(({ seen }) => seen.ownLevel === level);
		expect(rounded(lightRecords(company, quarters, scope))).toEqual(rounded(LIGHTS.map((level) => ({ level, ...shareIn(at(level)) }))));
	});
	test("by question and level, those levels only that any deal was at", () => {
		const found = answerRecords(company, quarters, scope);
		const plain = ["q1", "q2"].flatMap((question, i) =>
			LEVELS.flatMap((level) => {
				const own = all.filter(({ seen }) => (seen.qualification.standings[i]?.level ?? "unknown") === level);
				return own.length ? [{ question, level, ...shareIn(own) }] : [];
			}),
		);
		expect(rounded(found)).toEqual(rounded(plain));
		expect(found.length).toBeGreaterThan(4);
	});
	test("in commit, by count and by amount, all in all and by owner in their order", () => {
		const committed = all.filter(({ seen }) => categoryOf(company, seen) === "commit");
		const worth = (list: readonly Due[]) =>
			list.reduce((sum, { seen, day: on }) => sum + amountBaseOf(company, blockOf(company.history, seen.deal), rowOf(company.history, seen), on), 0);
		const largestIn = (list: readonly Due[]) => {
			const parts = [...new Set(list.map(({ seen }) => seen.deal))].map((deal) => ({
				deal,
				part: worth(list.filter(({ seen }) => seen.deal === deal)) / worth(list),
			}));
			return parts.find(({ part }) => part > 1 / 3) ?? null;
		};
		const shares = (own: readonly Due[]) => {
			const kept = own.filter(({ won }) => won);
			const said = own.length >= 10;
			const [k, n] = said ? [worth(kept), worth(own)] : [null, null];
			return { count: shareIn(own, ({ won }) => won), amount: { k, n, share: k === null || !n ? null : k / n, largest: n === null ? null : largestIn(own) } };
		};
		const { people, ...whole } = accuracyOf(company, quarters, "commit", scope);
		expect(whole).toEqual(shares(committed));
		const owners = [...new Set(committed.map(({ seen }) => seen.owner))].sort((a, b) => a - b);
		expect(people).toEqual(owners.map((owner) => ({ owner, ...shares(committed.filter(({ seen }) => seen.owner === owner)) })));
	});
});

test("of nothing that is worth anything there is no share by amount", () => {
	const blank = Array.from({ length: 12 }, (): TestDeal => ({ versions: [{ at: "2026-05-01", close: "2026-09-15", amount: null, category: "commit" }] }));
	const { amount, count } = accuracyOf(makeCompany(blank), lastPeriods(makeCompany(blank), "quarter", TODAY, 1, 10), "commit", null);
	expect([amount, count.n]).toEqual([{ k: 0, n: 0, share: null, largest: null }, 12]);
	const ten = blank.map(
		(deal, i): TestDeal => ({
			versions: [{ ...(deal.versions[0] as TestDeal["versions"][number]), amount: i < 10 ? 5 : 0, category: i < 10 ? "commit" : "pipeline" }],
		}),
	);
	expect(accuracyOf(makeCompany(ten), lastPeriods(makeCompany(ten), "quarter", TODAY, 1, 10), "commit", null).amount).toMatchObject({
		k: 0,
		n: 5000,
		share: 0,
	});
});

test("by severity: deals with a flag of it beside those without, and the weight of its lift", () => {
	const all = due(null);
	const records = severityRecords(company, quarters);
	for (const { severity, weight, lift, ...record } of records) {
		const own = all.filter(({ seen }) => seen.flags.some((flag) => flag.severity === severity));
		const { lift: plain, ...arms } = recordOf(own, all);
		expect(rounded(record)).toEqual(rounded(arms));
		const q = missed(all) / all.length;
		const drawn = (list: readonly Due[]) => (missed(list) + 8 * q) / (list.length + 8);
		expect(lift === null).toBe(plain === null);
		if (lift !== null) expect(lift).toBeCloseTo(drawn(own) / drawn(all.filter((one) => !own.includes(one))), 9);
		expect(weight).toBe(lift === null ? null : Math.round(100 * Math.max(0, 1 - 1 / lift)) / 100);
	}
	expect(records.map(({ severity }) => severity)).toEqual([1, 2, 3]);
});

describe("deals that are due", () => {
	test("are the open ones whose close date lies in the period, its first and last day too; each is followed to the period’s end", () => {
		for (const looked of quarters) {
			const { period, day: on } = looked;
			const found = dueIn(company, looked);
			const plain = surveyOn(company, on).deals.filter((seen) => seen?.status === "open" && seen.close >= period.start && seen.close <= period.end);
			expect(found.map(({ seen }) => seen.deal).sort((a, b) => a - b)).toEqual(plain.map((seen) => seen?.deal));
			for (const one of found) {
				const row = asOf(company.history, one.seen.deal, period.end);
				expect(endRowOf(company, one)).toBe(row);
				expect(one.won).toBe(STAGES[blockOf(company.history, one.seen.deal).stage[row] as number] === "Won");
			}
		}
		const ends = dueOver(company, quarters).map(({ seen }) => formatDay(seen.close));
		expect(ends).toEqual(expect.arrayContaining(["2026-07-01", "2026-09-30"]));
	});
});

test("time in stage: every visit begun within a year, by stage and group in their order; of fewer than five nothing is said", () => {
	const groupsOf = (deal: number) => (deal % 7 === 0 ? [] : deal % 5 === 0 ? ["b", "a"] : deal < 20 ? ["few"] : ["a"]);
	const found = timeInStage(company, TODAY, groupsOf);
	const { stages, calendar } = company.rules;
	const visits = deals.flatMap((_, deal) =>
		pathOf(blockOf(company.history, deal), dayEnds(company.history, deal, TODAY), stages, calendar, TODAY).visits.map((visit) => ({ ...visit, deal })),
	);
	const recent = visits.filter(({ from }) => from > TODAY - 365 && from <= TODAY);
	const keys = [...new Set(recent.flatMap(({ stage, deal }) => groupsOf(deal).map((group) => `${stage} ${group}`)))].sort();
	expect(found.map(({ stage, group }) => `${stage} ${group}`)).toEqual(keys);
	for (const { stage, group, finished, unfinished, mean, restrictedMean, upTo, median, interval, curve, visits: own } of found) {
		const plain = recent.filter((visit) => visit.stage === stage && groupsOf(visit.deal).includes(group));
		const done = plain.filter((visit) => visit.finished);
		expect([finished, unfinished, own.length]).toEqual([done.length, plain.length - done.length, plain.length]);
		const said = plain.length >= 5;
		if (said && done.length) expect(mean).toBeCloseTo(done.reduce((sum, { length }) => sum + length, 0) / done.length, 9);
		else expect(mean).toBeNull();
		if (!said) expect([restrictedMean, upTo, median, interval, curve]).toEqual([null, null, null, { low: null, high: null }, []]);
		else expect(curve.length).toBeGreaterThan(0);
		if (!said) continue;
		// The greatest length that five visits of every group of the stage lasted, and day by day what goes on.
		const groups = found.filter((other) => other.stage === stage && other.visits.length >= 5);
		const reached = (t: number) => groups.every((other) => other.visits.filter(({ length }) => length >= t).length >= 5);
		const end = Array.from({ length: 400 }, (_, t) => t).findLast(reached) as number;
		expect(upTo).toBe(end);
		const goesOn = (t: number) => curve.findLast(({ length }) => length <= t)?.share ?? 1;
		expect(restrictedMean).toBeCloseTo(
			Array.from({ length: end }, (_, t) => goesOn(t)).reduce((sum, share) => sum + share, 0),
			6,
		);
	}
	expect(found.some(({ visits: own }) => own.length < 5) && found.some(({ visits: own }) => own.length >= 5)).toBe(true);
	const five = makeCompany(
		Array.from(
			{ length: 5 },
			(): TestDeal => ({
				versions: [
					{ at: "2026-10-01", stage: "Survey" },
					{ at: "2026-10-06", stage: "Trial" },
				],
			}),
		),
	);
	expect(timeInStage(five, TODAY, () => ["all"])[0]).toMatchObject({ stage: 1, finished: 5, mean: 3, upTo: 3, restrictedMean: 3, handedOn: 0 });
	const handed = makeCompany([
		...Array.from({ length: 5 }, (): TestDeal => ({ versions: [{ at: "2026-10-01", stage: "Survey", owner: 1 }] })),
		{
			versions: [
				{ at: "2026-10-01", stage: "Survey", owner: 0 },
				{ at: "2026-10-05", owner: 1 },
			],
		},
		{
			versions: [
				{ at: "2026-10-01", stage: "Survey", owner: 1 },
				{ at: "2026-10-05", owner: 0 },
				{ at: "2026-10-06", owner: 1 },
			],
		},
	]);
	const by = timeInStage(
		handed,
		TODAY,
		(_, owner) => ["all", String(owner)],
		(group) => group !== "all",
	);
	expect(by.map(({ group, visits, handedOn }) => [group, visits.length, handedOn])).toEqual([
		["1", 5, 2],
		["all", 7, 0],
	]);
});

test("what was given away late: only of deals that were open and priced ten working days before, above nothing", () => {
	const won = closedWithin(company, surveyOn(company, TODAY), null, TODAY).filter((one) => one.won);
	const { calendar } = company.rules;
	const worthOn = (deal: number, on: number) => {
		const row = asOf(company.history, deal, on);
		const block = blockOf(company.history, deal);
		const open = row >= 0 && OPEN.includes(STAGES[block.stage[row] as number] as string);
		return { open, blank: Number.isNaN(block.amount[row] as number), amount: row < 0 ? 0 : amountBaseOf(company, block, row, TODAY) };
	};
	const plain = won.flatMap((closed) => {
		const then = worthOn(closed.seen.deal, daysBefore(calendar, closed.day, 10));
		return then.open && !then.blank && then.amount > 0 ? [{ closed, before: then.amount, after: worthOn(closed.seen.deal, closed.day).amount }] : [];
	});
	expect(lateChanges(company, won, TODAY)).toEqual(plain);
	expect(plain.length).toBeGreaterThan(2);
	expect(plain.length).toBeLessThan(won.length);
	const nothing = makeCompany([
		{
			versions: [
				{ at: "2026-09-01", amount: 0 },
				{ at: "2026-11-20", stage: "Won", amount: 9 },
			],
		},
	]);
	expect(lateChanges(nothing, closedWithin(nothing, surveyOn(nothing, TODAY), null, TODAY), TODAY)).toEqual([]);
});

test("lightings at the ends of weeks: each run by itself, looked at again by plain loops", () => {
	const { calendar } = company.rules;
	const scope = new Set([0, 1]);
	const ends = weekEnds(company, TODAY, 27).reverse();
	expect(ends).toHaveLength(27);
	// A company keeps the surveys of a few days only.
	const surveys = new Map([...ends, ...ends.map((end) => calendar.add(end, 15))].map((on) => [on, surveyOn(company, on).deals]));
	const litOn = (deal: number, on: number, flag: string) => {
		const seen = surveys.get(on)?.[deal];
		return seen?.status === "open" && seen.flags.some(({ code }) => code === flag);
	};
	const plain: unknown[] = [];
	deals.forEach((_, deal) => {
		for (const { code } of RULES) {
			let week = -1;
			let over = litOn(deal, ends[0] as number, code);
			for (const end of ends.slice(1)) {
				if (!litOn(deal, end, code)) {
					[week, over] = [-1, false];
					continue;
				}
				week++;
				if (over) continue;
				const tasks = company.deals[deal]?.tasks ?? [];
				const withTask = tasks.some((task) => task.flags.includes(code) && task.createdDay <= end);
				const age = week >= 3 ? 3 : week >= 1 ? 1 : 0;
				if (withTask) over = true;
				if (!withTask && ![0, 1, 3].includes(week)) continue;
				if (!ownerIn(scope, surveys.get(end)?.[deal]?.owner as number)) continue;
				const later = surveys.get(calendar.add(end, 15))?.[deal];
				const fate = later?.status === "won" ? "won" : later?.status !== "open" ? "gone" : litOn(deal, calendar.add(end, 15), code) ? "lit" : "out";
				plain.push({ deal, flag: code, day: end, age, withTask, fate });
			}
		}
	});
	const found = lightingsFor(company, scope);
	const sorted = (list: readonly unknown[]) => list.map((one) => JSON.stringify(one)).sort();
	expect(sorted(found)).toEqual(sorted(plain));
	expect(found.filter(({ withTask }) => withTask).length).toBeGreaterThan(10);
	expect(new Set(found.map(({ fate }) => fate)).size).toBe(4);
});

function lightingsFor(of: typeof company, scope: Scope) {
	const steps = lightingSteps(of, scope, TODAY);
	let next = steps.next();
	while (!next.done) next = steps.next();
	return next.value;
}

test("a task that was done counts for the five working days after it was given, and no longer", () => {
	// The flag is lit from Friday, 25 September, on.
	const done = (given: string): TestDeal => ({
		created: "2026-09-21",
		versions: [{ at: "2026-09-21", stage: "Survey", close: "2026-12-30" }],
		tasks: [{ id: "t", flags: ["no-next-step"], createdDay: day(given), due: day("2026-12-01"), state: "done", doneDay: day(given), doneAt: at(given) }],
	});
	const withTask = (given: string) => {
		const own = makeCompany([done(given)]);
		return lightingsFor(own, null).flatMap((one) => (one.flag === "no-next-step" && one.withTask ? [formatDay(one.day)] : []));
	};
	expect(withTask("2026-10-02")).toEqual(["2026-10-02"]);
	expect(withTask("2026-09-28")).toEqual(["2026-10-02"]);
	expect(withTask("2026-09-25")).toEqual(["2026-09-25"]);
	expect(withTask("2026-10-03")).toEqual([]);
});

test("a deal that holds more than a third of the amounts is named, in all its quarters together", () => {
	const deals = (first: number) =>
		Array.from(
			{ length: 12 },
			(_, i): TestDeal => ({ versions: [{ at: "2026-05-01", close: "2026-09-15", amount: i === 7 ? first : 10, category: "commit" }] }),
		);
	const largest = (first: number) => {
		const company = makeCompany(deals(first));
		return accuracyOf(company, lastPeriods(company, "quarter", TODAY, 1, 10), "commit", null).amount.largest;
	};
	expect(largest(60)).toEqual({ deal: 7, part: 60 / 170 });
	// Exactly a third is not over it.
	expect(largest(55)).toBe(null);
	expect(largest(10)).toBe(null);
});
