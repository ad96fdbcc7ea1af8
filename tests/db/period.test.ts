import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { recordChange } from "@/data/store/changeLog";
import { generate } from "@/fakes/emberwick/generate";
import { readBridge } from "@/features/changes/server/bridgeJson";
import { readTrend } from "@/features/changes/server/readTrend";
import { largestDeals, readDeals, statusAsked } from "@/features/deals/server/readDeals";
import { storedBundle } from "@/features/import/server/exportBundle";
import { saveTeam } from "@/features/people/server/managePeople";
import { periodFile } from "@/features/period/server/file";
import { readPeriodOfApi } from "@/features/period/server/periodJson";
import { readPeriod } from "@/features/period/server/readPeriod";
import { readTargets, saveTargets, undoTargets } from "@/features/period/server/targets";
import { readThresholds, saveThresholds, undoThresholds } from "@/features/period/server/thresholds";
import { readTaskPage } from "@/features/tasks/server/taskPage";
import { writeTableFile } from "@/platform/tableFile";
import { resolveViewpoint, type ViewpointQuery } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { dueRows } from "../kit/deals";
import { faultOf, wordsOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("period");
	await importAs(generate({ today: day("2026-11-24"), deals: 240 }));
});
afterAll(() => database.drop());

async function look(who: string, query: ViewpointQuery = {}) {
	const context = await as(who);
	const viewpoint = resolveViewpoint(context, query);
	return { context, viewpoint, view: await readPeriod(context, viewpoint) };
}
const VIEWS: [who: string, query: ViewpointQuery][] = [
	["ruth", {}],
	["helena", {}],
	["ines", {}],
	["helena", { due: "2026-Q3", seen: "2026-08-20" }],
	["helena", { due: "2026-11" }],
	["tomas", { due: "2026-10-12..2026-11-20", against: "2026-10-01" }],
];

describe("the period", () => {
	for (const [who, query] of VIEWS) {
		test(`says the same on its page, in the API, in Deals and in the bridge: ${who} ${JSON.stringify(query)}`, async () => {
			const { context, viewpoint, view } = await look(who, query);
			if (!view) throw new Error("no period");
			const [kind, name] = viewpoint.whose.key.split(":");
			const whose = kind === "team" ? { team: name } : kind === "person" ? { owner: name } : {};
			const api = readPeriodOfApi(context, { from: view.from, to: view.to, as_of: query.seen, ...whose });
			const { from: _, to: __, seen: ___, against: ____, currency: _____, pace, people, teams, unowned, change, ...figures } = api;
			expect(figures).toEqual(view.figures);
			expect(pace.previous.won.amount).toBe(view.pace.previous);
			expect(view.pace.series[0]?.amounts.at(-1) ?? 0).toBe(view.figures.won.amount);
			// The deals behind a figure add up to it, to the cent.
			for (const status of ["open", "won", "lost"] as const) {
				const rows = dueRows(context, viewpoint, status);
				expect({ count: rows.length, amount: rows.reduce((sum, row) => sum + row.amount, 0) }, status).toEqual(view.figures[status]);
			}
			const bridge = readBridge(context, { a: "2026-07-01", b: query.seen, from: view.from, to: view.to, ...whose });
			expect({ count: bridge.closingCount, amount: bridge.closing }).toEqual(view.figures.open);
			// People and what nobody owns add up to the whole, and so do the rows that are shown.
			for (const key of ["won", "lost", "open", "leftBehind", "undated"] as const) {
				const sum = (list: readonly { readonly won: { amount: number } }[]) => list.reduce((total, one) => total + (one as typeof api)[key].amount, 0);
				expect(sum([...people, unowned])).toBe(view.figures[key].amount);
				expect(sum(view.groups.map((group) => group.figures))).toBe(view.figures[key].amount);
			}
			expect(change).toBeNull();
			expect(teams.every(({ id }) => context.organisation.teams.has(id))).toBe(true);
		});
	}
	test("by any part adds up to the whole, families by their shares", async () => {
		const { context, viewpoint, view } = await look("helena");
		for (const by of ["team", "territory", "family", "kind"] as const) {
			const parts = (await readPeriod(context, viewpoint, by))?.groups ?? [];
			for (const key of ["won", "open", "lost"] as const)
				expect(
					parts.reduce((sum, { figures }) => sum + figures[key].amount, 0),
					`${by} ${key}`,
				).toBe(view?.figures[key].amount);
		}
	});
	test("each figure’s change is what it is less what it was, at the rates of the seen day", async () => {
		const { context } = await look("helena");
		const asked = { from: "2026-10-01", to: "2026-12-31" };
		const now = readPeriodOfApi(context, { ...asked, against: "2026-11-09" });
		const then = readPeriodOfApi(context, { ...asked, as_of: "2026-11-09" });
		const change = now.change as { won: { amount: number; count: number }; open: { count: number } };
		expect(change.won.count).toBe(now.won.count - then.won.count);
		expect(change.open.count).toBe(now.open.count - then.open.count);
		// Everything here that was won then is in euros at any rate; the sum differs only where rates moved.
		expect(Math.abs(change.won.amount - (now.won.amount - then.won.amount))).toBeLessThan(now.won.amount / 20);
	});
	test("that is over, to come, empty or without bounds reads sensibly", async () => {
		expect((await look("helena", { due: "2026-Q2" })).view).toMatchObject({ state: "over", headline: expect.stringContaining("was won in Apr–Jun 2026") });
		expect((await look("helena", { due: "2027-Q1" })).view).toMatchObject({ state: "to come", headline: expect.stringContaining("is open for Jan–Mar 2027") });
		expect((await look("helena", { due: "2031-Q1" })).view).toMatchObject({ headline: "Nothing won or open in Jan–Mar 2031", state: "to come" });
		expect((await look("helena", { due: "any" })).view).toBeNull();
		expect((await look("helena", { due: "none" })).view).toBeNull();
		expect((await look("helena", { due: "2026-11-24..2026-11-24" })).view?.pace.workingDays).toBe(1);
		const context = await as("helena");
		expect(await faultOf(() => readPeriodOfApi(context, { from: "2026-10-01" }))).toMatchObject({ status: 400 });
		expect(await faultOf(() => readPeriodOfApi(context, { from: "0001-01-01", to: "9999-12-31" }))).toMatchObject({ status: 400 });
		expect(await faultOf(() => readPeriodOfApi(context, { against: "2026-11-24" }))).toMatchObject({
			status: 400,
			detail: "against (2026-11-24) must be before as_of (2026-11-24).",
		});
	});
	test("goes out with sums that a spreadsheet works out itself, and that agree", async () => {
		const { context, viewpoint, view } = await look("ruth");
		const content = await periodFile.read(context, viewpoint, () => undefined);
		const [total] = content.rows.slice(-1);
		expect(total?.[3]).toEqual({ formula: `SUM(D2:D${content.rows.length})`, value: view?.figures.won.amount });
		expect(total?.[8]).toMatchObject({ value: view?.figures.open.amount });
		const { default: ExcelJS } = await import("exceljs");
		const book = new ExcelJS.Workbook();
		const { bytes } = await writeTableFile(context, viewpoint, { key: "period", form: "xlsx", content });
		await book.xlsx.load(bytes.buffer as ArrayBuffer);
		expect(book.worksheets.map(({ name }) => name)).toEqual(["period", "Deals"]);
		expect(book.getWorksheet("period")?.getCell("D2").formula).toMatch(/^SUMIFS\(Deals!\$H\$2:\$H\$\d+,Deals!\$D\$2:\$D\$\d+,\$A2,/);
		expect(book.getWorksheet("period")?.getCell(`D${content.rows.length + 1}`).result).toBe((view?.figures.won.amount ?? 0) / 100);
	});
});

describe("lost, and the win rate", () => {
	test.each(VIEWS)("of %s %o are one figure on Period, Deals, Changes and Trend", async (who, query) => {
		const { context, viewpoint, view } = await look(who, query);
		const lost = readDeals(context, viewpoint, "lost").rows;
		const sum = (rows: readonly { amount: number }[]) => rows.reduce((all, { amount }) => all + amount, 0);
		expect([view?.figures.lost.count, view?.figures.lost.amount]).toEqual([lost.length, sum(lost)]);
		const last = readTrend(context, viewpoint)?.points.at(-1);
		expect((last?.lost ?? 0) + (last?.lostOutside ?? 0)).toBe(view?.figures.lost.amount);
		const closed = readDeals(context, viewpoint, "closed").rows;
		const won = closed.filter(({ status }) => status === "won");
		expect(closed.length).toBe((view?.figures.won.count ?? 0) + (view?.figures.lost.count ?? 0));
		expect(view?.figures.winRate).toEqual({ count: closed.length ? won.length / closed.length : null, amount: sum(closed) ? sum(won) / sum(closed) : null });
	});
});

test("the workbook keeps two reps of one name apart", async () => {
	await connection().db.execute(sql`update people set name = 'Ines Okafor' where role = 'rep' and team = 'North'`);
	await connection().db.transaction((tx) => recordChange(tx, "everything"));
	const { context, viewpoint, view } = await look("ruth");
	const content = await periodFile.read(context, viewpoint, () => undefined);
	const [sheet] = content.sheets ?? [];
	const reps = content.rows.slice(0, -1);
	expect(new Set(reps.map(([number]) => number)).size).toBe(reps.length);
	for (const [i, [number, , , won]] of reps.entries()) {
		// What a spreadsheet would add up by the number.
		const sum = (sheet?.rows ?? []).filter((row) => row[3] === number && row[5] === "won").reduce((all, row) => all + Number(row[7]), 0);
		expect((won as { value: number }).value).toBe(sum);
		expect(sum).toBe(view?.groups[i]?.figures.won.amount);
	}
});

describe("around the deals", () => {
	test("contacts are the done touches of whoever made them, as plain SQL counts them; planned ones that passed are left undone", async () => {
		const { view, context } = await look("helena");
		const { rows } = await connection().db.execute(sql`
			select by_id, count(*)::int as done from activities
			where state = 'done' and direction <> 'none' and by_id is not null
				and (at at time zone 'Europe/Berlin')::date between '2026-10-01' and '2026-11-24'
			group by by_id`);
		const counted = new Map((rows as { by_id: string; done: number }[]).map(({ by_id, done }) => [by_id, done]));
		expect(counted.size).toBeGreaterThan(8);
		for (const { key, teamMetrics } of view?.groups ?? []) {
			if (!key) continue;
			expect(teamMetrics.contacts?.done, key).toBe(counted.get(key) ?? 0);
			expect(teamMetrics.contacts?.aDay).toBeCloseTo((counted.get(key) ?? 0) / 39, 6);
		}
		await connection().db.execute(
			sql`insert into activities (id, kind, direction, state, at, by_id, subject) values ('late', 'call', 'both', 'planned', '2026-11-10T09:00:00Z', 'ines', 'Forgotten')`,
		);
		await connection().db.transaction((tx) => recordChange(tx, "everything"));
		const after = (await look("helena")).view;
		const undone = (of: typeof view) => of?.groups.find(({ key }) => key === "ines")?.teamMetrics.contacts?.undone ?? 0;
		expect(undone(after)).toBe(undone(view) + 1);
		expect(context.organisation.revision).toBeLessThan((await as("helena")).organisation.revision);
		await connection().db.execute(sql`delete from activities where id = 'late'`);
		await connection().db.transaction((tx) => recordChange(tx, "everything"));
	});
	test("late tasks and deals past their date are those of the lists they open", async () => {
		const { context, viewpoint, view } = await look("ruth");
		const late = await readTaskPage(context, viewpoint.whose.scope, viewpoint.seen.day, { view: "late", limit: 1 });
		expect(view?.teamMetrics.lateTasks).toBe(late.counts.late);
		const overdue = dueRows(context, viewpoint).filter(({ close }) => close !== null && close < "2026-11-24");
		expect(view?.teamMetrics.overdue).toBe(overdue.length);
	});
	test("what is due this week and next, the biggest, what lit up and cleared are deals of the period’s people", async () => {
		const { context, viewpoint, view } = await look("ruth");
		const open = dueRows(context, viewpoint);
		expect(view?.biggest.map(({ amount }) => amount)).toEqual(
			open
				.map(({ amount }) => amount)
				.sort((a, b) => b - a)
				.slice(0, 8),
		);
		expect(largestDeals(context, viewpoint, 8).map(({ id }) => id)).toEqual(view?.biggest.map(({ id }) => id));
		for (const { deals, count, amount, early } of view?.dueSoon ?? []) {
			expect([deals.length, deals.reduce((sum, deal) => sum + deal.amount, 0), deals.filter(({ note }) => note).length]).toEqual([count, amount, early]);
			for (const { close } of deals) expect(close !== null && close >= "2026-11-24" && close <= "2026-12-06").toBe(true);
		}
		const ids = new Set(open.map(({ id }) => id));
		for (const { id, level } of view?.litUp.deals ?? []) expect([ids.has(id), level === "calm"]).toEqual([true, false]);
		for (const { id, level, note } of view?.wentOut.deals ?? []) if (note === null) expect([ids.has(id), level]).toEqual([true, "calm"]);
	});
	test("a list of deals that there is none of is refused", () => {
		expect(statusAsked(undefined)).toBe("open");
		expect(statusAsked("won")).toBe("won");
		expect(() => statusAsked("sold")).toThrow("must be one of open, won, lost");
	});
});

describe("targets", () => {
	const q1 = { start: "2027-01-01", end: "2027-03-31" };
	const cell = (personId: string, amount: number | null, rest: Partial<{ family: string; currency: string; start: string; end: string }> = {}) => ({
		personId,
		amount,
		family: "",
		currency: "EUR",
		...q1,
		...rest,
	});
	const target = async (due: string, who = "ruth") => (await look(who, { due })).view?.figures.target;
	test("are set for one’s own people, count at once, and are undone", async () => {
		const before = await target("2027-Q1");
		const { change } = await saveTargets(await as("ruth"), { cells: [cell("ines", 50_000_00), cell("tobias", null)] });
		const others = readTargets(await as("ruth")).targets.filter(
			({ start, personId, family }) => start === q1.start && !["ines", "tobias"].includes(personId) && !family,
		);
		expect(await target("2027-Q1")).toBe(50_000_00 + others.reduce((sum, { base }) => sum + base, 0));
		await undoTargets(await as("ruth"), { change });
		expect(await target("2027-Q1")).toBe(before);
		expect(await faultOf(async () => undoTargets(await as("ruth"), { change }))).toMatchObject({ status: 409 });
	});
	test("overlap, are zero, in another currency, of parts of a period", async () => {
		const { change } = await saveTargets(await as("helena"), {
			cells: [
				cell("yuki", 92_000_00, { start: "2032-10-01", end: "2032-12-31" }),
				cell("yuki", 31_000_00, { start: "2032-12-01", end: "2032-12-31" }),
				cell("farah", 0, { start: "2032-10-01", end: "2032-12-31" }),
				cell("bram", 1_000_00, { start: "2032-10-01", end: "2032-12-31", currency: "GBP" }),
			],
		});
		const pound = readTargets(await as("helena")).targets.find(({ currency }) => currency === "GBP")?.base ?? 0;
		expect(pound).toBeGreaterThan(1_000_00);
		expect(await target("2032-12", "helena")).toBe(31_000_00 + 31_000_00 + Math.round((pound * 31) / 92));
		expect(await target("2032-Q4", "helena")).toBe(92_000_00 + 31_000_00 + pound);
		await undoTargets(await as("helena"), { change });
	});
	test("are refused with words: of others’ people, nobody, days that aren’t, money without a rate", async () => {
		const save = (who: string, one: ReturnType<typeof cell>) => wordsOf(async () => saveTargets(await as(who), { cells: [one] }));
		expect(await save("ruth", cell("yuki", 1))).toContain("only for your own people");
		expect(await save("arno", cell("nobody", 1))).toContain("Nobody has the number nobody");
		expect(await save("arno", cell("ines", 1, { currency: "JPY" }))).toContain("no rate from JPY to EUR");
		expect(await save("arno", cell("ines", 1, { currency: "ZZZ" }))).toContain("ISO 4217");
		expect(await save("arno", cell("ines", -1))).toContain("negative");
		expect(await save("arno", cell("ines", 1, { end: "2026-12-31" }))).toContain("before its first day");
		expect(await save("ines", cell("ines", 1))).toContain("may not do this");
	});
	test("of a family are its own, beside those of all that is won, and go out and come in with a bundle", async () => {
		const whole = await target("2027-Q1", "helena");
		const { context, viewpoint } = await look("helena", { due: "2027-Q1" });
		await saveTargets(context, { cells: [cell("ines", 70_000_00, { family: "Tunnel ovens" }), cell("luca", 30_000_00, { family: "Tunnel ovens" })] });
		expect(await target("2027-Q1", "helena")).toBe(whole);
		const again = await as("helena");
		const families = (await readPeriod(again, resolveViewpoint(again, { due: "2027-Q1" }), "family"))?.groups ?? [];
		expect(families.find(({ name }) => name === "Tunnel ovens")?.figures.target).toBe(100_000_00);
		expect(viewpoint.due.key).toBe("2027-01-01..2027-03-31");
		const text = new TextDecoder().decode((await storedBundle()).get("targets.csv"));
		expect(text).toContain("person_id,period_start,period_end,amount,currency,family");
		expect(text).toContain("ines,2027-01-01,2027-03-31,70000,EUR,Tunnel ovens");
		const report = await importAs(new Map([...(await storedBundle())]));
		expect([report.state, report.changed]).toEqual(["done", Object.fromEntries(Object.keys(report.changed).map((file) => [file, 0]))]);
	});
});

describe("marks of the period", () => {
	test("say which figures are past what is still all right: a team’s own before everyone’s; undone", async () => {
		expect((await look("ruth")).view?.past).toEqual([]);
		await saveThresholds(await as("arno"), { team: "", marks: [{ figure: "cover", side: "least", value: 1000 }] });
		expect((await look("ruth")).view?.past).toMatchObject([{ figure: "cover", value: 1000, label: "cover" }]);
		const { change } = await saveThresholds(await as("ruth"), {
			team: "North",
			marks: [
				{ figure: "cover", side: "least", value: 0 },
				{ figure: "openCount", side: "most", value: 1 },
			],
		});
		expect((await look("ruth")).view?.past).toMatchObject([{ figure: "openCount", side: "most", value: 1 }]);
		expect((await look("tomas")).view?.past).toMatchObject([{ figure: "cover" }]);
		expect((await readThresholds(await as("ruth"), "North")).figures.find(({ figure }) => figure === "cover")).toMatchObject({ value: 0, ofAll: false });
		await undoThresholds(await as("ruth"), { change });
		expect((await look("ruth")).view?.past).toMatchObject([{ figure: "cover" }]);
	});
	test("that can’t be are refused, and so are those of others’ teams", async () => {
		const save = (who: string, team: string, mark: object) => wordsOf(async () => saveThresholds(await as(who), { team, marks: [mark as never] }));
		expect(await save("ruth", "North", { figure: "mood", side: "most", value: 1 })).toContain("no such figure");
		expect(await save("ruth", "North", { figure: "cover", side: "least", value: Number.NaN })).toContain("number");
		expect(await save("ruth", "North", { figure: "cover", side: "least", value: -1 })).toContain("negative");
		expect(await save("ruth", "South", { figure: "cover", side: "least", value: 1 })).toContain("isn’t a team of yours");
		await saveTeam(await as("arno"), { was: null, name: "Sales", parent: null });
		expect(await save("ruth", "Sales", { figure: "cover", side: "least", value: 1 })).toContain("isn’t a team of yours");
		await saveTeam(await as("arno"), { was: "South", name: "South", parent: "Sales" });
		expect(await save("ruth", "Sales", { figure: "cover", side: "least", value: 1 })).toContain("isn’t a team of yours");
		expect(await save("ruth", "Nowhere", { figure: "cover", side: "least", value: 1 })).toContain("No team is called Nowhere");
	});
});
