import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { loadDemo } from "@/cli/demoCompany";
import type { ChangedPart } from "@/features/changes/server/changesView";
import { readChanges } from "@/features/changes/server/readChanges";
import { readDifferences } from "@/features/changes/server/readDifferences";
import { readFlow } from "@/features/changes/server/readFlow";
import { readTrend, weekEnds } from "@/features/changes/server/readTrend";
import { SLICES } from "@/features/changes/server/slices";
import { resolveViewpoint, type ViewpointQuery } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase } from "../kit/database";
import { dueRows } from "../kit/deals";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("movement");
	await loadDemo(day("2026-11-24"), () => undefined);
});
afterAll(() => database.drop());

const ask = async (person: string, query: ViewpointQuery = {}) => {
	const context = await as(person);
	return [context, resolveViewpoint(context, query)] as const;
};
const QUESTIONS: [person: string, query: ViewpointQuery][] = [
	["ruth", {}],
	["helena", { against: "2026-10-01" }],
	["helena", { due: "2026-Q3", seen: "2026-09-30", against: "2026-07-01" }],
	["ines", { against: "2026-09-01", due: "any" }],
	["helena", { whose: "team:South", due: "2026-11", against: "2026-10-30" }],
];

describe("one comparison, seen in several ways", () => {
	for (const [person, query] of QUESTIONS) {
		const name = `${person} ${JSON.stringify(query)}`;
		test(`what each deal did to the period adds up to the change of the bridge: ${name}`, async () => {
			const bridge = readChanges(...(await ask(person, query)));
			const list = readDifferences(...(await ask(person, query)));
			expect(list?.deals.reduce((sum, deal) => sum + deal.effect, 0)).toBe((bridge?.closing ?? 0) - (bridge?.opening ?? 0));
			// Every deal of a step is listed, for each of them has moved.
			const moved = new Set(bridge?.steps.filter((s) => s.kind !== "opening" && s.kind !== "closing").flatMap((s) => s.deals.map((d) => d.id)));
			const listed = new Set(list?.deals.map((deal) => deal.id));
			expect([...moved].filter((id) => !listed.has(id))).toEqual([]);
		});
		test(`by every field the parts add up, each along its row and all down each step: ${name}`, async () => {
			for (const { key } of SLICES) {
				const view = readChanges(...(await ask(person, query)), { by: key });
				for (const part of view?.parts ?? []) {
					const steps = Object.values(part.steps).reduce((sum, amount) => sum + amount, 0);
					expect(part.opening + steps + part.between).toBe(part.closing);
				}
				const total = (of: (part: ChangedPart) => number) => (view?.parts ?? []).reduce((sum, part) => sum + of(part), 0);
				expect([total((p) => p.opening), total((p) => p.closing), total((p) => p.between)]).toEqual([view?.opening, view?.closing, 0]);
				for (const step of view?.steps.slice(1, -1) ?? []) expect(Math.abs(total((p) => p.steps[step.kind] ?? 0))).toBe(step.amount);
			}
		});
		test(`the flow’s rows hold what was open before, and its columns what is open now: ${name}`, async () => {
			const bridge = readChanges(...(await ask(person, query)));
			const flow = readFlow(...(await ask(person, query)));
			const stages = new Set(flow?.onward.map((o) => o.stage));
			const before = flow?.cells.filter((cell) => stages.has(cell.from)).reduce((sum, cell) => sum + cell.count, 0);
			expect(before).toBe(bridge?.steps[0]?.deals.length);
			const outside = new Set(["not yet there", "outside the period", "won", "lost"]);
			const after = flow?.cells.filter((cell) => !outside.has(cell.to));
			expect(after?.reduce((sum, cell) => sum + cell.count, 0)).toBe(bridge?.steps.at(-1)?.deals.length);
			expect(after?.reduce((sum, cell) => sum + cell.amount, 0)).toBe(bridge?.closing);
			for (const { went, of } of flow?.onward ?? []) expect(went).toBeLessThanOrEqual(of);
		});
		test(`the trend ends where the list of deals stands, and its bands add up: ${name}`, async () => {
			const [context, viewpoint] = await ask(person, query);
			const trend = await readTrend(context, viewpoint);
			const rows = dueRows(context, viewpoint);
			const last = trend?.points.at(-1);
			expect([last?.count, last?.open, last?.weighted]).toEqual([
				rows.length,
				rows.reduce((sum, r) => sum + r.amount, 0),
				rows.reduce((sum, r) => sum + r.weighted, 0),
			]);
			for (const point of trend?.points ?? []) {
				expect(point.parts.reduce((a, b) => a + b, 0)).toBe(point.open);
			}
			for (const { key } of SLICES) {
				const sliced = await readTrend(context, viewpoint, key);
				expect(sliced?.points.map((point) => point.parts.reduce((a, b) => a + b, 0))).toEqual(trend?.points.map((point) => point.open));
				expect(sliced?.parts.length).toBeLessThanOrEqual(7);
			}
			expect(trend?.points.map((p) => p.day)).toEqual([...(trend?.points ?? [])].map((p) => p.day).sort());
		});
	}
});

describe("deal by deal", () => {
	test("tells better from worse, and which flags lit and cleared", async () => {
		const view = readDifferences(...(await ask("ruth", { against: "2026-11-09" })));
		const rack = view?.deals.find((deal) => deal.id === "story-rack");
		expect(rack?.lit).toEqual(expect.arrayContaining(["overdue", "reply owed"]));
		const plant = view?.deals.find((deal) => deal.id === "story-tunnel");
		expect(plant?.differences).toContainEqual({ what: "Close date", before: "14 Dec 2026", after: "25 Jan 2027", better: false, told: "42 days later" });
		expect(plant?.effect).toBe(-73_000_000);
		const won = view?.deals.find((deal) => deal.id === "story-won");
		expect(won?.differences.find((d) => d.what === "Stage")).toMatchObject({ after: "Won", better: true });
	});
	test("says by how much, the way it points", async () => {
		const view = readDifferences(...(await ask("helena", { against: "2026-10-01" })));
		const all = view?.deals.flatMap((deal) => deal.differences) ?? [];
		const of = (what: string) => all.filter((one) => one.what === what && one.told);
		const number = (words: string | null) => Number((words ?? "").replace(/\D/g, ""));
		for (const one of of("Attention")) {
			expect(number(one.told)).toBe(Math.abs(Number(one.after) - Number(one.before)));
			expect(one.told?.endsWith("less")).toBe(one.better);
		}
		for (const one of of("Close date").filter((each) => each.better !== null)) expect(one.told?.endsWith("earlier")).toBe(one.better);
		for (const one of of("Amount")) {
			expect(number(one.told)).toBe(Math.abs(number(one.after) - number(one.before)));
			expect(one.told?.endsWith("more")).toBe(one.better);
		}
		expect([of("Attention"), of("Close date"), of("Amount"), of("Stage")].every((list) => list.length > 3)).toBe(true);
	});
	test("without a period there is nothing to compare in", async () => {
		const [context, viewpoint] = await ask("ruth", { due: "none" });
		expect([readDifferences(context, viewpoint), readFlow(context, viewpoint), await readTrend(context, viewpoint)]).toEqual([null, null, null]);
	});
});

test("week’s ends go back from the seen day by sevens, as far as anything is known", () => {
	expect(weekEnds(70, 100, 0)).toEqual([72, 79, 86, 93, 100]);
	expect(weekEnds(70, 100, 85)).toEqual([86, 93, 100]);
	expect(weekEnds(70, 100, 200)).toEqual([100]);
});
