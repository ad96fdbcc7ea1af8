import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { quarterOf } from "@/core/time/period";
import { PATTERN_KINDS } from "@/features/patterns/server/kinds";
import { USUAL_LOOK } from "@/features/patterns/server/looking";
import { outlookHere, readOutlook } from "@/features/patterns/server/readOutlook";
import { readPatternNow } from "@/features/patterns/server/readPattern";
import type { Cell, PatternView } from "@/features/patterns/table/view";
import { readStages, saveStages } from "@/features/setup/server/stageSettings";
import { scopeOf } from "@/platform/reach";
import { SMALL, small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";

// Pasts that are short, odd or one-sided: each view reads sensibly, and says nothing that it can't.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("learning_edges");
});
afterAll(() => database.drop());

const TODAY = day("2026-11-24");
const QUARTER = quarterOf(TODAY, 1);

/** Deals with their versions: each `[day, stage, amount, close, owner, category]`, as a bundle has them. */
type Version = [at: string, stage: string, amount: number | "", close: string, owner?: string, category?: string];
function bundleWith(deals: readonly (readonly Version[])[], changes: Record<string, string[]> = {}) {
	return small({
		"deals.csv": ["id,account_id,name,source,created_at", ...deals.map(([first], i) => `e${i},a${1 + (i % 2)},Deal ${i},Web,${first?.[0]}T08:00:00Z`)],
		"deal_versions.csv": [
			"deal_id,at,stage,amount,currency,close_date,owner_id,category,next_step,next_step_date",
			...deals.flatMap((versions, i) =>
				versions.map(
					([at, stage, amount, close, owner = "rep1", category = "commit"]) => `e${i},${at}T08:00:00Z,${stage},${amount},EUR,${close},${owner},${category},,`,
				),
			),
		],
		...changes,
	});
}

const OPEN = (SMALL["stages.csv"] ?? []).slice(1).map((line) => line.split(","));
const named = (kind: string) => OPEN.find((cells) => cells[2] === kind)?.[1] ?? "";
const STAGE = named("open");

async function views(who = "boss", scope: ReadonlySet<number> | null = null): Promise<Record<string, PatternView>> {
	const context = await as(who);
	return Object.fromEntries(
		await Promise.all(PATTERN_KINDS.map(async ({ key }) => [key, await readPatternNow(context, key, { scope, day: TODAY, look: USUAL_LOOK, by: undefined })])),
	);
}
const cells = (view: PatternView | undefined): Cell[] => (view?.tables ?? []).flatMap(({ rows }) => rows.flatMap((row) => [...row.cells]));
const sane = (all: Record<string, PatternView>) => {
	for (const [key, view] of Object.entries(all)) {
		expect(view.headline.length, key).toBeGreaterThan(10);
		expect(JSON.stringify(view), key).not.toMatch(/NaN|Infinity|undefined|null%/);
		for (const cell of cells(view)) if (cell.kind === "share" && cell.share.n < 5) expect(cell.share.share).toBeNull();
	}
};

const quarterDays = ["2025-01", "2025-04", "2025-07", "2025-10", "2026-01", "2026-04", "2026-07"];
/** So many deals in each of seven past quarters, and some in this one; `came` says what becomes of each. */
const pastOf = (many: number, came: (i: number, quarter: number) => "won" | "lost" | "open", owner = (_: number) => "rep1"): Version[][] => [
	...quarterDays.flatMap((month, q) =>
		Array.from({ length: many }, (_, i): Version[] => {
			const last = `${month.slice(0, 5)}${String(Number(month.slice(5)) + 2).padStart(2, "0")}`;
			const end = came(i, q);
			return [
				[`${month}-03`, STAGE, 1000 + i, `${last}-20`, owner(i)],
				...(end === "open" ? [] : [[`${last}-24`, end === "won" ? named("won") : named("lost"), 1000 + i, `${last}-24`, owner(i)] as Version]),
			];
		}),
	),
	...Array.from({ length: 4 }, (_, i): Version[] => [["2026-10-05", STAGE, 2000 + i, "2026-12-15", owner(i)]]),
];

describe("an organisation", () => {
	test("with no deal at all has views that say so", async () => {
		await refill(bundleWith([]));
		const all = await views();
		sane(all);
		for (const view of Object.values(all)) for (const { rows, empty, key } of view.tables) if (!rows.length) expect(empty.length, key).toBeGreaterThan(5);
		expect(await readOutlook(await as("boss"), null, QUARTER, TODAY)).toMatchObject({ available: false, reason: expect.stringContaining("there are 0") });
	});
	test("three weeks old says that its past is too short, and shows no share", async () => {
		await refill(
			bundleWith([
				[["2026-11-03", STAGE, 900, "2026-12-10"]],
				[
					["2026-11-04", STAGE, 800, "2026-12-11"],
					["2026-11-20", named("won"), 800, "2026-11-20"],
				],
			]),
		);
		const all = await views();
		sane(all);
		expect(all.foretell?.headline).toContain("Too little history");
		expect(all.commits?.headline).toContain("Too few deals in commit");
		expect(all.stages?.headline).toContain("Too few visits");
		for (const view of Object.values(all)) for (const cell of cells(view)) if (cell.kind === "share") expect(cell.share.share).toBeNull();
		const { outlook, moved } = await outlookHere(await as("boss"), {});
		expect(outlook.answer).toMatchObject({ available: false, reason: expect.stringContaining("It takes 2 past quarters") });
		expect(moved.answer).toMatchObject({ available: false });
	});
	test("that never lost has chances below certainty, and shares of nought", async () => {
		await refill(bundleWith(pastOf(6, () => "won")));
		const all = await views();
		sane(all);
		expect(all.reasons?.headline).toBe("No deals were lost in the last year");
		expect(all.commits?.headline).toContain("100%");
		const outlook = await readOutlook(await as("boss"), null, QUARTER, TODAY);
		if (!outlook.available) throw new Error(outlook.reason);
		expect(outlook.deals).toHaveLength(4);
		for (const { chance } of outlook.deals) {
			expect(chance).toBeGreaterThan(0.8);
			expect(chance).toBeLessThan(1);
		}
	});
	test("that never won has chances above nought", async () => {
		await refill(bundleWith(pastOf(6, () => "lost")));
		const all = await views();
		sane(all);
		expect(all.price?.headline).toBe("No deals were won in the last year");
		const outlook = await readOutlook(await as("boss"), null, QUARTER, TODAY);
		if (!outlook.available) throw new Error(outlook.reason);
		for (const { chance } of outlook.deals) {
			expect(chance).toBeGreaterThan(0);
			expect(chance).toBeLessThan(0.2);
		}
		expect(outlook.amountRatio).toBe(1);
		expect(outlook.low).toBeLessThanOrEqual(outlook.high);
	});
	test("whose deals have one version only, all in one stage, isn’t told apart from itself", async () => {
		await refill(bundleWith(pastOf(6, () => "open")));
		const all = await views();
		sane(all);
		expect(all.stages?.tables[0]?.columns).toHaveLength(1);
		expect(all.stages?.headline).toBe("No stage has been left by half of the deals that entered it");
		const total = all.stages?.tables[0]?.rows.find((row) => row.total)?.cells[0];
		// Of those begun within the year none is finished: the median isn't reached, and the mean goes as far as five of them lasted.
		expect(total).toMatchObject({ kind: "times", finished: 0, unfinished: 22, mean: expect.any(Number), median: null });
	});
	test("whose deals come back counts each visit, and a reopened deal as what it is at the end", async () => {
		const reopened = quarterDays.slice(3).map((month): Version[] => {
			const last = `${month.slice(0, 5)}${String(Number(month.slice(5)) + 2).padStart(2, "0")}`;
			return [
				[`${month}-03`, STAGE, 1000, `${last}-20`],
				[`${month}-20`, named("lost"), 1000, `${month}-20`],
				[`${last}-02`, STAGE, 1000, `${last}-22`],
				[`${last}-22`, named("won"), 1000, `${last}-22`],
			];
		});
		await refill(bundleWith([...reopened, ...reopened]));
		const all = await views();
		sane(all);
		expect(all.reasons?.rests[1]).toContain("8 won");
		expect(all.commits?.tables[0]?.rows.find(({ total }) => total)?.cells[0]).toMatchObject({ share: { k: 8, n: 8 } });
	});
	test("with probabilities of nought and of one scores them as they are", async () => {
		const stages = (SMALL["stages.csv"] ?? []).map((line) => (line.includes("open") ? line.replace(/,0?\.\d+/, ",1") : line));
		await refill(
			bundleWith(
				pastOf(6, (i) => (i < 3 ? "won" : "lost")),
				{ "stages.csv": stages },
			),
		);
		const outlook = await readOutlook(await as("boss"), null, QUARTER, TODAY);
		if (!outlook.available) throw new Error(outlook.reason);
		// Everything was foretold for sure, and half of it came.
		expect(outlook.record.baseline).toBeCloseTo(0.5, 6);
		expect(outlook.record.brier as number).toBeLessThan(0.3);
	});
	test("whose stage has another name now, and has got another beside it, says of the past what it said before", async () => {
		await refill(bundleWith(pastOf(6, (i) => (i < 3 ? "won" : "lost"))));
		const before = await views();
		const ops = await as("ops");
		const stages = await readStages(ops);
		await saveStages(ops, {
			stages: [
				...stages.map(({ name, kind, probability, usualDays }) => ({ was: name, name: name === STAGE ? "First talk" : name, kind, probability, usualDays })),
			].toSpliced(1, 0, { was: null as never, name: "Second talk", kind: "open", probability: 0.2, usualDays: 8 }),
		});
		const after = await views();
		sane(after);
		expect(after.stages?.tables[0]?.columns.map(({ label }) => label)).toEqual(["First talk"]);
		const figures = (view: PatternView | undefined) =>
			cells(view).map((cell) => ("share" in cell ? cell.share : "median" in cell ? [cell.median, cell.finished] : null));
		for (const { key } of PATTERN_KINDS) expect(figures(after[key]), key).toEqual(figures(before[key]));
	});
});

describe("a team of one", () => {
	test("has rates of its own with nobody beside to be told apart from", async () => {
		await refill(
			bundleWith(
				pastOf(
					6,
					(i) => (i % 2 ? "won" : "lost"),
					(i) => (i < 3 ? "rep1" : "rep2"),
				),
			),
		);
		const boss = await as("boss");
		const own = scopeOf(boss, undefined, "rep2");
		const all = await views("boss", own);
		sane(all);
		const rows = all.commits?.tables[0]?.rows ?? [];
		expect(rows.filter(({ total }) => !total).map(({ name }) => name)).toEqual(["Sol Quint"]);
		expect(rows[0]?.cells[0]).toEqual({ ...rows[1]?.cells[0], opens: expect.any(String) });
		expect(rows[0]?.cells[5]).toMatchObject({ words: expect.not.stringContaining("less often") });
		const outlook = await readOutlook(boss, own, QUARTER, TODAY);
		if (!outlook.available) throw new Error(outlook.reason);
		// Its chances rest on everybody's deals, its amounts on its own.
		expect(outlook.deals.every(({ owner }) => owner === "Sol")).toBe(true);
		expect(outlook.periods.reduce((sum, { comparables }) => sum + comparables, 0)).toBe(42);
	});
	test("adds up with the other to everybody: comparables are the same, means make one mean", async () => {
		const boss = await as("boss");
		const part = async (owner: string) => {
			const found = await readOutlook(boss, scopeOf(boss, undefined, owner), QUARTER, TODAY);
			if (!found.available) throw new Error(found.reason);
			return found;
		};
		const [one, other] = [await part("rep1"), await part("rep2")];
		const whole = await readOutlook(boss, null, QUARTER, TODAY);
		if (!whole.available) throw new Error(whole.reason);
		expect(one.won + other.won).toBe(whole.won);
		expect(one.deals.length + other.deals.length).toBe(whole.deals.length);
		expect(Math.abs(one.mean + other.mean - whole.mean)).toBeLessThanOrEqual(2);
	});
});
