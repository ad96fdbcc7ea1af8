import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { generate } from "@/fakes/emberwick/generate";
import { countAct, readDeals } from "@/features/deals/server/readDeals";
import { readPeriod } from "@/features/period/server/readPeriod";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { dueRows } from "../kit/deals";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("carried_over");
	await importAs(generate({ today: day("2026-11-24"), deals: 240 }));
});
afterAll(() => database.drop());

const look = async (who: string, on: string, due?: string) => {
	const context = await as(who, on);
	const viewpoint = resolveViewpoint(context, { due });
	return { context, viewpoint, view: await readPeriod(context, viewpoint) };
};
const idsOf = (rows: readonly { readonly id: string }[]) => rows.map(({ id }) => id).sort();
const sumOf = (rows: readonly { readonly amount: number }[]) => ({ count: rows.length, amount: rows.reduce((sum, { amount }) => sum + amount, 0) });

describe("a deal that is overdue", () => {
	for (const who of ["helena", "ruth", "tomas"])
		for (const due of ["2026-Q4", "2027-Q1", "2026-11", "2027-02..2027-03", "2025-Q1"].map((one) => one.replace(/(.{7})\.\.(.{7})/, "$1-01..$2-31")))
			test(`is among the deals of whatever period is looked at, once: ${who} ${due}`, async () => {
				const { context, viewpoint } = await look(who, "2027-01-04", due);
				const { rows } = readDeals(context, viewpoint);
				const all = readDeals(context, resolveViewpoint(context, { due: "any" })).rows;
				const overdue = all.filter(({ close }) => close !== null && close < "2027-01-04");
				const ownDue = dueRows(context, viewpoint);
				expect(overdue.length).toBeGreaterThan(0);
				expect(idsOf(rows)).toEqual([...new Set([...idsOf(overdue), ...idsOf(ownDue)])].sort());
				expect(countAct(context, viewpoint)).toBe(rows.filter(({ level }) => level === "act").length);
			});
	test("is counted beside what is open, never in it; while a period runs it is what is left behind", async () => {
		const { context, viewpoint, view } = await look("ruth", "2027-01-04");
		const { rows } = readDeals(context, viewpoint);
		const own = new Set(idsOf(dueRows(context, viewpoint)));
		const carried = rows.filter(({ id }) => !own.has(id));
		expect(sumOf(dueRows(context, viewpoint))).toEqual(view?.figures.open);
		expect(view?.carried).toEqual({ ...sumOf(carried), act: carried.filter(({ level }) => level === "act").length });
		expect(sumOf(carried)).toEqual(view?.figures.leftBehind);
	});
	test("isn’t carried over into a period that ended before it was due", async () => {
		const { view } = await look("ruth", "2026-11-24", "2026-Q4");
		expect(view?.carried).toEqual({ ...view?.figures.leftBehind, act: expect.any(Number) });
	});
});

describe("the first days of a period", () => {
	test("say how the one before ended, who has no target, and by when deals are to be made", async () => {
		const { view } = await look("helena", "2027-01-04");
		const { view: last } = await look("helena", "2027-01-04", "2026-Q4");
		expect(view?.turn?.last).toMatchObject({
			key: "2026-10-01..2026-12-31",
			won: last?.figures.won.amount,
			count: last?.figures.won.count,
			target: last?.figures.target,
		});
		expect(view?.turn?.missing.names.length).toBeLessThanOrEqual(view?.turn?.missing.of ?? 0);
	});
	test("are its first ten working days, and of no other period", async () => {
		expect((await look("helena", "2027-01-15")).view?.turn).not.toBeNull();
		expect((await look("helena", "2027-02-01")).view?.turn).toBeNull();
		expect((await look("helena", "2027-01-04", "2026-Q4")).view?.turn).toBeNull();
		expect((await look("helena", "2027-01-04", "2027-Q2")).view?.turn).toBeNull();
	});
	test("say nothing of how little money it is ahead of", async () => {
		const { view } = await look("helena", "2027-01-04");
		expect(`${view?.headline} ${view?.beside}`).not.toContain("€0");
	});
});
