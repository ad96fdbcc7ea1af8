import { isNotNull } from "drizzle-orm";
import { afterAll, afterEach, beforeAll, describe, expect, test } from "vitest";
import { loadDemo } from "@/cli/demoCompany";
import { weightsOf } from "@/core/patterns/weights";
import { shareWords } from "@/core/statistics/shareWords";
import type { Share } from "@/core/statistics/wilson";
import { surveyOn } from "@/core/survey";
import { formatDay } from "@/core/time/day";
import { quarterOf } from "@/core/time/period";
import { connection } from "@/data/db";
import { findings } from "@/data/schema";
import { patternsFile } from "@/features/patterns/server/file";
import { findingNow, findingOrProgress } from "@/features/patterns/server/find";
import type { FlagRecord, Foretelling } from "@/features/patterns/server/findings/foretelling";
import { madeOf } from "@/features/patterns/server/findings/view";
import { PATTERN_KINDS } from "@/features/patterns/server/kinds";
import { learn, usualQuestions } from "@/features/patterns/server/learn";
import { USUAL_LOOK } from "@/features/patterns/server/looking";
import { readPastWeights, takeWeights, tryWeights, undoWeights } from "@/features/patterns/server/pastWeights";
import { comparablesOfDeal, outlookHere, readOutlook } from "@/features/patterns/server/readOutlook";
import { readPattern } from "@/features/patterns/server/readPattern";
import { readPersonHabits, trackRecords } from "@/features/patterns/server/readPatterns";
import { idsOf } from "@/features/patterns/server/scopes";
import type { Cell, PatternView } from "@/features/patterns/table/view";
import { readHabits, saveHabits } from "@/features/setup/server/habitSettings";
import { scopeOf } from "@/platform/reach";
import { endThreads } from "@/platform/threads";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase } from "../kit/database";
import { faultOf } from "../kit/fault";

// What the demo company's past says, view by view: every figure is made of the deals it opens, its made-up habits are found by
// name, weights are taken from a day on, and what a thread finds is what is found in place.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("learning");
	await loadDemo(day("2026-11-24"), () => undefined);
});
afterAll(async () => {
	await endThreads();
	await database.drop();
});
afterEach(() => {
	delete process.env.PORCH_LAMP_APART;
});

const TODAY = day("2026-11-24");
const asked = (by?: string) => ({ scope: null, day: TODAY, look: USUAL_LOOK, by });
const given = (show: string, by: string | null = null) => ({ show, scope: null, day: formatDay(TODAY), ...USUAL_LOOK, by });
const viewOf = async (show: string, by?: string, who = "helena"): Promise<PatternView> => {
	const { found } = await readPattern(await as(who), show, asked(by));
	if (!found.answer) throw new Error("nothing was found");
	return found.answer;
};
const cellsOf = (view: PatternView) => view.tables.flatMap((table) => table.rows.flatMap((row) => row.cells.map((cell) => ({ table, row, cell }))));
const shareIn = (cell: Cell | undefined): Share => {
	if (cell?.kind !== "share") throw new Error("no share");
	return cell.share;
};
const rowNamed = (view: PatternView, table: string, name: string) => {
	const row = view.tables.find(({ key }) => key === table)?.rows.find((one) => one.name === name);
	if (!row) throw new Error(`no row ${name}`);
	return row;
};

describe("every figure", () => {
	const cases = PATTERN_KINDS.flatMap(({ key }) => ["rep", "family", "kind"].map((by) => [key, by] as const));
	test.each(cases)("of %s by %s is made of the deals that it opens", async (key, by) => {
		const context = await as("helena");
		const { view, openings } = await madeOf(context, given(key, by));
		for (const { cell } of cellsOf(view)) {
			if (!("opens" in cell) || !cell.opens) continue;
			const behind = openings.get(cell.opens)?.cases();
			if (!behind) throw new Error(`${cell.opens} opens nothing`);
			const hits = behind.filter(({ hit }) => hit).length;
			if (cell.kind === "share") expect([hits, behind.length], cell.opens).toEqual([cell.share.k, cell.share.n]);
			if (cell.kind === "count") expect(behind.length, cell.opens).toBe(cell.value);
			if (cell.kind === "times") expect([hits, behind.length - hits], cell.opens).toEqual([cell.finished, cell.unfinished]);
			if (cell.kind === "money")
				expect(
					behind.reduce((sum, { amount }) => sum + (amount ?? 0), 0),
					cell.opens,
				).toBe(cell.minor);
		}
	});
	test("says nothing of fewer than five, and draws an interval around each share", async () => {
		for (const { key } of PATTERN_KINDS) {
			for (const { cell } of cellsOf(await viewOf(key))) {
				if (cell.kind !== "share") continue;
				const { n, share, low, high } = cell.share;
				expect(share === null).toBe(n < 5);
				if (share !== null) expect((low as number) <= share + 1e-9 && share - 1e-9 <= (high as number)).toBe(true);
			}
		}
	});
	test("of people adds up to the whole, and so do quarters", async () => {
		const { tables } = await viewOf("commits");
		const rows = tables.find(({ key }) => key === "reps")?.rows ?? [];
		const all = rows.find(({ total }) => total);
		for (const column of [0, 3]) {
			const own = rows.filter(({ total }) => !total).map(({ cells }) => shareIn(cells[column]));
			expect(own.reduce((sum, { n }) => sum + n, 0)).toBe(shareIn(all?.cells[column]).n);
			expect(own.reduce((sum, { k }) => sum + k, 0)).toBe(shareIn(all?.cells[column]).k);
		}
		const quarters = tables.find(({ key }) => key === "quarters")?.rows ?? [];
		expect(quarters.reduce((sum, { cells }) => sum + shareIn(cells[0]).n, 0)).toBe(shareIn(all?.cells[0]).n);
	});
	test("goes out as a file with what it is made of", async () => {
		const helena = await as("helena");
		const viewpoint = resolveViewpoint(helena, { whose: "all" });
		for (const { key } of PATTERN_KINDS) {
			const view = await viewOf(key);
			for (const { key: part, rows } of view.tables.filter((table) => table.rows.length)) {
				const content = await patternsFile.read(helena, viewpoint, (name) => ({ show: key, part })[name as "show"]);
				expect(content.rows).toHaveLength(rows.length);
				for (const row of content.rows) expect(row).toHaveLength(content.columns.length);
			}
		}
		const flags = await patternsFile.read(helena, viewpoint, (name) => ({ show: "foretell" })[name as "show"]);
		const [first] = flags.rows;
		const share = shareIn((await viewOf("foretell")).tables[0]?.rows[0]?.cells[0]);
		expect(first?.slice(1, 4)).toEqual([share.k, share.n, Math.round(10_000 * (share.share ?? 0)) / 100]);
		const outlook = await patternsFile.read(helena, viewpoint, () => undefined);
		expect(outlook.sheets?.map(({ name }) => name)).toEqual(["Outlook", "Track record"]);
		expect(await faultOf(() => patternsFile.read(helena, viewpoint, (name) => ({ show: "foretell", part: "nothing" })[name as "show"]))).toMatchObject({
			status: 404,
		});
	});
	test("is of what one reaches: others’ deals behind a figure are counted and not named", async () => {
		const ines = await as("ines");
		const { behind } = await readPattern(ines, "foretell", asked(), "flag:no-signatory:with");
		const whole = await readPattern(await as("helena"), "foretell", asked(), "flag:no-signatory:with");
		expect(behind?.sum).toBe(whole.behind?.sum);
		expect((behind?.lines.length ?? 0) + (behind?.hidden ?? 0)).toBe(whole.behind?.lines.length);
		expect(behind?.hidden).toBeGreaterThan(0);
		const { personIndex } = ines.organisation;
		for (const { id, day: on } of behind?.lines ?? []) {
			const seen = surveyOn(ines.organisation.company, day(on)).deals[ines.organisation.dealIndex.get(id) ?? -1];
			expect(seen?.owner).toBe(personIndex.get("ines"));
		}
	});
	test("of a day before knows nothing of what came later", async () => {
		const before = day("2026-06-15");
		const reasons = await readPattern(await as("helena"), "reasons", { ...asked(), day: before });
		const { openings } = await madeOf(await as("helena"), { ...given("reasons"), day: formatDay(before) });
		for (const [key, opening] of openings) for (const one of opening.cases()) expect(one.day, key).toBeLessThanOrEqual(before);
		expect(reasons.found.answer?.headline).not.toBe((await viewOf("reasons")).headline);
	});
});

describe("the demo’s habits are found by name", () => {
	test("whose commits come true less often, and who pushes at month’s end", async () => {
		const view = await viewOf("commits");
		const [, k, n, others] = /^Of Tobias Renn’s commits (\d+) of (\d+) came true in time, of others’ (\d+)%$/.exec(view.headline) ?? [];
		expect(Number(k) / Number(n)).toBeLessThan(0.6);
		expect(Number(others)).toBeGreaterThanOrEqual(80);
		expect(view.beside.join(" ")).toMatch(/Maeve Okonjo made \d+ of the \d+ pushes in months’ last three working days/);
		expect(view.beside.join(" ")).toMatch(/stand on the word of 1 rep/);
	});
	test("which product is slow, and in which stage", async () => {
		const view = await viewOf("stages", "family");
		expect(view.headline).toMatch(/^Tunnel ovens: half of the visits to Trial bake take/);
	});
	test("who gives a discount of late, and who gives most and least off the list", async () => {
		const view = await viewOf("price");
		expect(view.headline).toMatch(/^Luca Ferrandi gives a discount of 1[0-4]% in the last two weeks/);
		const off = view.tables.find(({ key }) => key === "discount")?.rows.filter(({ total }) => !total) ?? [];
		expect([off[0]?.name, off.at(-1)?.name]).toEqual(["Luca Ferrandi", "Celine Abiodun"]);
	});
	test("that short runway signals a miss, more than chance would, and that stale answers do as little as can be told", async () => {
		const view = await viewOf("foretell");
		expect(view.headline).toMatch(/^Of deals with “[a-z ]+”, \d+% weren’t won in time; without it \d+%/);
		expect(rowNamed(view, "flags", "short runway").cells[4]).toMatchObject({ words: "signals a miss" });
		expect(rowNamed(view, "flags", "stale answers").cells[4]).toMatchObject({ words: "can’t be told" });
		expect(rowNamed(view, "flags", "no signatory").cells[2]).toMatchObject({ kind: "number" });
	});
	test("that tasks go with replies given, and not with deals that are open long coming to an end", async () => {
		const view = await viewOf("tasks");
		expect(view.headline).toContain("“reply owed”");
		expect(rowNamed(view, "tasks", "reply owed").cells[4]).toMatchObject({ words: "cleared more often with one" });
		expect(rowNamed(view, "tasks", "open long").cells[4]).not.toMatchObject({ words: "cleared more often with one" });
		expect(view.beside.join(" ")).toContain("This doesn’t show what a task achieves");
	});
	test("that losses to one competitor cluster in the South", async () => {
		const view = await viewOf("reasons");
		expect(view.beside[0]).toMatch(/losses to Kelloran Thermal, \d+ were in the South team/);
	});
	test("on the pages of those who have them, and of the deals that nobody but them could tell apart", async () => {
		const apartOf = async (id: string) => ((await readPersonHabits(await as("helena"), id, TODAY)).answer ?? []).filter((one) => one.apart);
		const named = async (id: string, label: RegExp) => (await apartOf(id)).find((one) => label.test(one.label));
		expect(await named("tobias", /^In commit, won in time/)).toMatchObject({ better: false, place: "commits" });
		expect(await named("maeve", /last three working days/)).toMatchObject({ better: false });
		expect(await named("luca", /last two weeks/)).toMatchObject({ better: false, own: expect.stringMatching(/^1[0-4]%$/) });
		expect(await named("celine", /^In commit, won in time/)).toBeUndefined();
	});
	test("and figures on a person’s page are those of everybody’s tables", async () => {
		const { answer } = await readPersonHabits(await as("helena"), "tobias", TODAY);
		const own = rowNamed(await viewOf("commits"), "reps", "Tobias Renn").cells;
		const { k, n } = shareIn(own[0]);
		expect(answer?.find(({ label }) => label === "In commit, won in time")?.own).toBe(shareWords({ k, n, share: k / n }));
		const late = rowNamed(await viewOf("price", "rep"), "late", "Tobias Renn").cells[3];
		if (late?.kind !== "percent") throw new Error("no percent");
		expect(answer?.find(({ label }) => label.startsWith("Discount in the last"))?.own).toBe(late.value === null ? "–" : `${Math.round(100 * late.value)}%`);
		const pushes = rowNamed(await viewOf("commits"), "pushes", "Tobias Renn").cells[0];
		if (pushes?.kind !== "number") throw new Error("no number");
		expect(answer?.find(({ label }) => label.startsWith("Pushes for"))?.own).toBe(pushes.value?.toFixed(1));
		// Nothing is told apart of what has too few.
		for (const { tested, apart } of answer ?? []) expect(tested || !apart).toBe(true);
	});
	test("no word claims a cause", async () => {
		for (const { key } of PATTERN_KINDS) {
			const { headline, beside } = await viewOf(key);
			expect(`${headline} ${beside.join(" ")}`).not.toMatch(/because|leads to|due to|thanks to/i);
		}
	});
});

describe("reasons that end", () => {
	test("are said in Setup, and give each lost deal a day to come back", async () => {
		const arno = await as("arno");
		const before = readHabits(arno);
		expect(before.returns).toMatchObject({ "Budget moved to next year": "year" });
		await saveHabits(arno, { ...before, returns: { Price: 6, "No such reason": 3 }, goal: 80 });
		const view = await viewOf("reasons");
		const rows = view.tables.find(({ key }) => key === "back")?.rows ?? [];
		expect(rows.length).toBeGreaterThan(0);
		for (const { cells } of rows) expect(cells[0]).toMatchObject({ words: "Price" });
		expect(readHabits(await as("arno")).returns).toEqual({ Price: 6 });
		expect((await viewOf("commits")).tables[0]?.lead).toContain("goal of 80%");
		await saveHabits(await as("arno"), before);
	});
});

describe("weights from the past", () => {
	test("are seen and taken by ops alone", async () => {
		for (const who of ["helena", "ruth", "ines", "mirela"])
			expect(await faultOf(async () => readPastWeights(await as(who), {}))).toMatchObject({ status: 403 });
		expect(await faultOf(async () => takeWeights(await as("ruth"), { attention: {} }))).toMatchObject({ status: 403 });
	});
	test("say what they would do to today’s deals before they are allowed", async () => {
		const arno = await as("arno");
		const found = await readPastWeights(arno, {});
		expect(found.now).toEqual([0.12, 0.25, 0.45]);
		expect(new Set(found.severities.map(({ with: own, without }) => own.n + without.n)).size).toBe(1);
		const same = await tryWeights(arno, { attention: found.attention });
		expect(same.after).toEqual(same.before);
		expect([same.lights, same.out]).toEqual([[], []]);
		expect(same.sorting.quarters.map(({ label }) => label)).toEqual(["Jul–Sep 2026", "Apr–Jun 2026", "Jan–Mar 2026", "Oct–Dec 2025"]);
		for (const { now, tried } of same.sorting.quarters) expect(tried).toBe(now);
		expect(same.sorting.better).toBe(false);
		// By lift each quarter is sorted by what the others say: otherwise than by weights that it had a part in.
		const byLift = { ...found.attention, ...weightsOf(found.severities) };
		const [own, others] = [await tryWeights(arno, { attention: byLift }), await tryWeights(arno, { attention: byLift, byLift: true })];
		expect(others.after).toEqual(own.after);
		expect(others.sorting.quarters.map(({ now }) => now)).toEqual(same.sorting.quarters.map(({ now }) => now));
		expect(others.sorting.quarters).not.toEqual(own.sorting.quarters);
		const nothing = await tryWeights(arno, { attention: { unweighed: ["stale-answers"] } });
		const lit = ({ act, watch }: typeof nothing.before) => act + watch;
		expect(lit(nothing.after)).toBe(lit(nothing.before) + nothing.lights.length - nothing.out.length);
		expect(nothing.lights).toEqual([]);
	});
	test("hold from the day on that they are allowed, leave days before as they were judged, and are undone once", async () => {
		const arno = await as("arno");
		const yesterday = TODAY - 1;
		const levels = (context: typeof arno, on: number) =>
			surveyOn(context.organisation.company, on).deals.map((seen) => seen && [seen.attention.score, seen.attention.level]);
		const [past, now] = [levels(arno, yesterday), levels(arno, TODAY)];
		const { change } = await takeWeights(arno, { attention: { weight1: 0.5, unweighed: ["stalled"] } });
		const after = await as("arno");
		expect(levels(after, yesterday)).toEqual(past);
		expect(levels(after, TODAY)).not.toEqual(now);
		const found = await readPastWeights(after, {});
		expect(found.taken).toEqual({ id: change, since: "2026-11-24" });
		expect(found.attention).toEqual({ weight1: 0.5, unweighed: ["stalled"] });
		// Taken again on the same day: what held before that day is still what held before it.
		const again = await takeWeights(after, { attention: { weight1: 0.3 } });
		expect(levels(await as("arno"), yesterday)).toEqual(past);
		expect(await faultOf(async () => undoWeights(await as("arno"), { change }))).toMatchObject({ status: 409 });
		const undone = await undoWeights(await as("arno"), { change: again.change });
		expect(undone.change).toBeGreaterThan(again.change);
		expect((await as("arno")).organisation.company.rules.attention).toEqual({ weight1: 0.5, unweighed: ["stalled"] });
		expect(await faultOf(async () => undoWeights(await as("arno"), { change: again.change }))).toMatchObject({ status: 409 });
		await takeWeights(await as("arno"), { attention: {} });
		expect(levels(await as("arno"), TODAY)).toEqual(now);
	});
	test("that can’t be are refused, and nothing is written", async () => {
		const arno = await as("arno");
		await expect(takeWeights(arno, { attention: { weight3: 3 } })).rejects.toThrow(/at most 1/);
		await expect(takeWeights(arno, { attention: { unweighed: ["no-such-flag"] } } as never)).rejects.toThrow();
		expect((await as("arno")).organisation.company.rules.attention).toEqual({});
	});
});

describe("what stands beside flags", () => {
	test("is the same record as on the screen of the past", async () => {
		const { items, asOf } = await trackRecords(await as("ines"), {});
		expect(asOf).toBeNull();
		const flags = (await viewOf("foretell")).tables[0]?.rows ?? [];
		for (const row of flags) {
			const record = items.find(({ code }) => code === row.key) as FlagRecord;
			expect(record.with).toEqual(shareIn(row.cells[0]));
			expect(record.without).toEqual(shareIn(row.cells[1]));
		}
	});
});

describe("the outlook on Period", () => {
	test("opens the comparables behind a chance, which come to what it says", async () => {
		const ruth = await as("ruth");
		const { outlook } = await outlookHere(ruth, {});
		if (!outlook.answer?.available) throw new Error("no outlook");
		for (const { id, steps, depth } of outlook.answer.deals.slice(0, 4)) {
			const behind = await comparablesOfDeal(ruth, { dealId: id });
			expect(behind.sum).toMatch(new RegExp(`^${steps[depth]?.won} of ${steps[depth]?.n} were won in time`));
			expect(behind.lines.length + behind.hidden).toBe(steps[depth]?.n);
			expect(behind.hidden).toBeGreaterThan(0);
		}
		const [first] = outlook.answer.deals;
		expect(await faultOf(async () => comparablesOfDeal(await as("luca"), { dealId: first?.id ?? "" }))).toMatchObject({ status: 404 });
	});
	test("tells how it moved, step by step to the mean of now", async () => {
		const { outlook, moved } = await outlookHere(await as("ruth"), {});
		if (!moved.answer?.available || !outlook.answer?.available) throw new Error("no bridge");
		const { before, after, steps } = moved.answer;
		expect(after).toBe(outlook.answer.mean);
		expect(Math.abs(before + steps.reduce((sum, { amount }) => sum + amount, 0) - after)).toBeLessThanOrEqual(steps.length);
		const earlier = await readOutlook(await as("ruth"), scopeOf(await as("ruth"), "North", undefined), quarterOf(TODAY, 1), day(moved.answer.against));
		if (!earlier.available) throw new Error("no outlook");
		expect(before).toBe(earlier.mean);
	});
	test("says why there is none for a span that is no quarter, and for one that is over", async () => {
		const helena = await as("helena");
		const odd = await outlookHere(helena, { due: "2026-10-05..2026-12-20" });
		expect(odd.outlook.answer).toMatchObject({ available: false, reason: expect.stringContaining("a quarter or a month") });
		const over = await outlookHere(helena, { due: "2026-Q3" });
		expect(over.outlook.answer).toMatchObject({ available: false, reason: "The period is over." });
	});
});

describe("worked out by a thread", () => {
	const until = async (holds: () => Promise<boolean>) => {
		for (let i = 0; i < 200; i++) {
			if (await holds()) return;
			await new Promise((resolve) => setTimeout(resolve, 100));
		}
		throw new Error("it took too long");
	};
	test("it is what is found in place, kept for the day, and no one is waiting for it", async () => {
		const helena = await as("helena");
		const inPlace = await findingNow<Foretelling>(helena, "foretelling", given("foretell"));
		process.env.PORCH_LAMP_APART = "10";
		const first = await findingOrProgress<Foretelling>(helena, "foretelling", given("foretell"));
		expect(first.answer).toBeNull();
		expect(first.progress?.steps).toBeGreaterThan(0);
		await until(async () => (await findingOrProgress(helena, "foretelling", given("foretell"))).answer !== null);
		const kept = await findingOrProgress<Foretelling>(helena, "foretelling", given("foretell"));
		expect(kept.answer).toEqual(JSON.parse(JSON.stringify(inPlace)));
		expect([kept.asOf, kept.progress]).toEqual([null, null]);
	});
	test("after a write it is given as of before, says so, and is worked out anew", async () => {
		const arno = await as("arno");
		const before = readHabits(arno);
		process.env.PORCH_LAMP_APART = "10";
		const question = { scope: idsOf(arno.organisation, null), day: formatDay(TODAY), from: "2026-10-01", to: "2026-12-31" };
		await findingNow(arno, "outlook", question);
		// Something is written that changes no rule of these figures.
		await saveHabits(arno, { ...before, bands: [10, 40, 90] });
		const later = await as("arno");
		const stale = await findingOrProgress<{ available: boolean }>(later, "outlook", question);
		expect(stale.answer?.available).toBe(true);
		expect(stale.asOf).toMatch(/^\d{4}-/);
		expect(stale.progress).not.toBeNull();
		await until(async () => (await findingOrProgress(later, "outlook", question)).asOf === null);
		await saveHabits(await as("arno"), before);
	});
	test("every night and after imports what is asked first is found before anybody asks", async () => {
		expect(await learn()).toEqual([]);
		process.env.PORCH_LAMP_APART = "10";
		await connection().db.delete(findings);
		const [done = ""] = await learn();
		expect(done).toMatch(/^\d+ findings of the past$/);
		const ruth = await as("ruth");
		for (const { what, given: own } of usualQuestions(ruth)) {
			const found = await findingOrProgress(ruth, what, own);
			expect(found.answer, `${what} ${own.show ?? ""}`).not.toBeNull();
			expect(found.progress).toBeNull();
		}
		// Once a day is enough.
		expect(await learn()).toEqual([]);
	}, 120_000);
	test("what fails is told, and is tried again", async () => {
		const helena = await as("helena");
		process.env.PORCH_LAMP_APART = "10";
		const odd = given("no such view");
		await expect(findingNow(helena, "view", odd)).rejects.toThrow("There is no view no such view");
		expect(await faultOf(() => findingOrProgress(helena, "view", odd))).toMatchObject({ status: 503, detail: expect.stringContaining("tried again") });
		expect(await connection().db.select({ failed: findings.failed }).from(findings).where(isNotNull(findings.failed))).toHaveLength(1);
	});
});
