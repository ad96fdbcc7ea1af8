import { expect, test } from "vitest";
import { riverColumns } from "@/core/river/columns";
import { weekLines } from "@/core/river/lines";
import { weeksOf } from "@/core/river/river";
import type { RiverView } from "@/features/changes/server/readRiver";
import { finding } from "@/features/changes/ui/river/finding";
import { draw, placeAt } from "@/features/changes/ui/river/geometry";
import { drawThread } from "@/features/changes/ui/river/threadDrawing";
import { type PartFigures, RiverModel } from "@/workers/riverModel";
import { day, makeCompany, type TestDeal } from "../kit/company";

const [FIRST, LAST] = [day("2026-11-02"), day("2026-11-22")];
const close = "2026-12-10";
const DEALS: TestDeal[] = [
	{
		versions: [
			{ at: "2026-10-10", amount: 100, close, stage: "Survey", owner: 0 },
			{ at: "2026-11-04", stage: "Terms" },
			{ at: "2026-11-12", stage: "Won" },
		],
	},
	{
		versions: [
			{ at: "2026-10-10", amount: 300, close, stage: "Survey", owner: 1 },
			{ at: "2026-11-05", stage: "Lost" },
		],
	},
	{
		versions: [
			{ at: "2026-10-10", amount: 200, close, stage: "Terms", owner: 0 },
			{ at: "2026-11-18", close: "2027-02-01" },
		],
	},
	{
		versions: [
			{ at: "2026-10-10", amount: 50, close, stage: "Terms", owner: 1 },
			{ at: "2026-11-03", close: "2026-12-20" },
		],
	},
	{ versions: [{ at: "2026-11-10", amount: 80, close, stage: "Enquiry", owner: 1 }] },
];

function opened() {
	const company = makeCompany(DEALS);
	const columns = riverColumns(
		company,
		DEALS.map((_, i) => i),
		FIRST,
		LAST,
	);
	const ground = {
		columns,
		weeks: weeksOf(FIRST, LAST),
		period: { start: day("2026-10-01"), end: day("2026-12-31") },
		scope: null,
		slices: { rep: { parts: ["Ada", "Ben"], of: [0, 1, 0, 1, 1] } },
		monthEnds: [day("2026-11-03")],
	};
	const model = new RiverModel();
	return { model, ground, picture: model.open(ground, null) };
}

test("the week is told in words, what ends deals first", () => {
	const { picture, model } = opened();
	expect(picture.weeks.map((week) => week.words)).toEqual([
		["1 lost, from Survey", "1 pushed later, still in", "1 moved on from Survey to Terms"],
		["1 won", "1 new"],
		["1 pushed out"],
	]);
	expect(model.week(0).map((line) => [line.key, line.amount, line.sign, line.deals])).toEqual([
		["lost 1", 30_000, -1, [{ deal: 1, amount: 30_000 }]],
		["later", 5000, 0, [{ deal: 3, amount: 5000 }]],
		["1>4", 10_000, 0, [{ deal: 0, amount: 10_000 }]],
	]);
	expect(model.week(9)).toEqual([]);
	expect(weekLines({ start: 0, end: 6, bands: [], open: 0, count: 0, steps: [], moves: [], later: [] }, [])).toEqual([]);
});

test("a cut shows one part alone, and names its deals by their place in the whole", () => {
	const { model, picture } = opened();
	const ben = model.cut({ field: "rep", part: "Ben" });
	const ada = model.cut({ field: "rep", part: "Ada" });
	expect(picture.weeks.map((week, w) => week.open - (ben.weeks[w]?.open ?? 0) - (ada.weeks[w]?.open ?? 0))).toEqual([0, 0, 0]);
	model.cut({ field: "rep", part: "Ben" });
	expect(model.on(LAST).map(({ stage, count, amount, deals }) => [stage, count, amount, deals])).toEqual([
		["Terms", 1, 5000, [{ deal: 3, amount: 5000 }]],
		["Proposal", 0, 0, []],
		["Trial", 0, 0, []],
		["Survey", 0, 0, []],
		["Enquiry", 1, 8000, [{ deal: 4, amount: 8000 }]],
	]);
	expect(model.cut({ field: "rep", part: "Nobody" }).weeks.map((week) => week.count)).toEqual([0, 0, 0]);
});

test("parts count pushes and tell which fell on a month’s end", () => {
	const { model } = opened();
	expect(model.parts("rep").map(({ part, pushes, atMonthEnd, won, lost }) => [part, pushes, atMonthEnd, won, lost])).toEqual([
		["Ben", 1, 1, 0, 30_000],
		["Ada", 1, 0, 10_000, 0],
	]);
	expect(model.parts("planet")).toEqual([]);
});

test("the drawing keeps one scale: bands, bars and threads are as high as their amounts", () => {
	const { model, picture } = opened();
	const drawing = draw(picture, { width: 700, height: 400 });
	picture.weeks.forEach((week, w) => {
		for (const [stage, node] of drawing.nodes[w + 1] ?? []) expect(node.bottom - node.top).toBeCloseTo((week.bands[stage] ?? 0) * drawing.scale);
	});
	const won = drawing.bars[1]?.find((bar) => bar.kind === "won");
	expect((won?.bottom ?? 0) - (won?.top ?? 0)).toBeCloseTo(10_000 * drawing.scale);
	expect(drawing.streams.map((week) => week.map((stream) => stream.kind).sort())).toEqual([["lost", "on"], ["in", "won"], ["out"]]);
	const lowest = Math.max(...drawing.bars.flat().map((bar) => bar.bottom));
	expect(lowest).toBeLessThanOrEqual(400);
	// Whatever lies under a point of a band, its thread runs through that point.
	const node = drawing.nodes[0]?.get(4);
	const place = placeAt(drawing, drawing.xs[0] ?? 0, (node?.bottom ?? 0) - 1);
	expect(place).toMatchObject({ boundary: 0, stage: 4 });
	const deal = model.dealAt(0, 4, place?.height ?? 0);
	expect(deal).toBe(2);
	expect(drawThread(drawing, model.thread(2))?.ends[0]?.y).toBeCloseTo((node?.bottom ?? 0) - 10_000 * drawing.scale);
	expect(model.dealAt(0, 4, 1e9)).toBeNull();
	expect(placeAt(drawing, -500, 0)).toBeNull();
	expect(drawThread(drawing, model.thread(99))).toBeNull();
});

test("an empty river is drawn without a fault", () => {
	const { model } = opened();
	const drawing = draw(model.cut({ field: "rep", part: "Nobody" }), { width: 600, height: 300 });
	expect(drawing.scale).toBe(0);
	expect(JSON.stringify(drawing.bands)).not.toContain("null");
});

test("the finding names the band that moved most, and who pushes at month end", () => {
	const { model, picture, ground } = opened();
	const view = { ...ground, currency: "EUR" } as unknown as RiverView;
	expect(finding(picture, model.parts("rep"), view)).toEqual({
		headline: "Open pipeline fell by €520 in 3 weeks; Survey shrank most, by €400",
		pushes: "2 pushes of a close date, 1 of them at a month’s end.",
	});
	const rep = (part: string, atMonthEnd: number) => ({ ...(model.parts("rep")[0] as PartFigures), part, pushes: 5, atMonthEnd });
	expect(finding(picture, [rep("Ann", 1), rep("Ben", 4), rep("Cy", 0)], view).pushes).toBe(
		"15 pushes of a close date, 5 of them at a month’s end; 4 of those by Ben.",
	);
	expect(finding(picture, [rep("Ann", 3), rep("Ben", 3), rep("Cy", 2)], view).pushes).toBe("15 pushes of a close date, 8 of them at a month’s end.");
	expect(finding(picture, [], view).pushes).toBe("No close date was moved later.");
});
