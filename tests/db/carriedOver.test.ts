import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { formatDay } from "@/core/time/day";
import { generate } from "@/fakes/emberwick/generate";
import { countAct, readDeals } from "@/features/deals/server/readDeals";
import { countToDecide } from "@/features/period/server/lastDays";
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

describe("the last days of a period", () => {
	test("part all its open deals, those carried over and those without a date by what they need", async () => {
		const { context, viewpoint, view } = await look("ruth", "2026-12-21");
		const groups = view?.lastDays?.groups ?? [];
		const undated = readDeals(context, resolveViewpoint(context, { whose: viewpoint.whose.key, due: "none" })).rows;
		const all = [...idsOf(readDeals(context, viewpoint).rows), ...idsOf(undated)].sort();
		expect(groups.flatMap(({ ids }) => ids).sort()).toEqual(all);
		for (const { ids, count, deals } of groups) expect([ids.length, Math.min(60, count)]).toEqual([count, deals.length]);
		const overdue = readDeals(context, viewpoint).rows.filter(({ close }) => close !== null && close < "2026-12-21");
		const dated = groups.find(({ need }) => need === "date");
		for (const { id } of [...overdue, ...undated]) expect(dated?.ids).toContain(id);
		const scores = new Map([...readDeals(context, viewpoint).rows, ...undated].map(({ id, score }) => [id, score]));
		for (const { ids } of groups) for (let i = 1; i < ids.length; i++) expect(scores.get(ids[i] ?? "")).toBeLessThanOrEqual(scores.get(ids[i - 1] ?? "") ?? 0);
		expect(countToDecide(context, viewpoint)).toBe(dated?.count);
	});
	test("are its last ten working days, and of no other period", async () => {
		const on = async (seen: string, due?: string) => {
			const { context, viewpoint, view } = await look("ruth", seen, due);
			expect(countToDecide(context, viewpoint) > 0).toBe((view?.lastDays?.groups[0]?.count ?? 0) > 0);
			return view?.lastDays?.left ?? null;
		};
		const { calendar } = (await as("ruth")).organisation.company.rules;
		const tenth = calendar.add(day("2026-12-31"), 0);
		let first = tenth;
		while (calendar.between(first, tenth) < 10) first--;
		expect([await on(formatDay(first)), await on(formatDay(first - 1)), await on("2026-12-31"), await on("2027-01-01", "2026-Q4")]).toEqual([
			10,
			calendar.isWorking(first) ? null : 10,
			0,
			null,
		]);
		expect(await on("2026-12-21", "2027-Q1")).toBeNull();
	});
});
