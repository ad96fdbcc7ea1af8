import { eq } from "drizzle-orm";
import ExcelJS from "exceljs";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { idsOf } from "@/../tests/kit/plain";
import { connection } from "@/data/db";
import { deals, dealVersions } from "@/data/schema";
import { recordChange } from "@/data/store/changeLog";
import { readMarks } from "@/features/changes/server/marks";
import { decideMissing, listWeekly } from "@/features/import/server/weekly/missing";
import { previewTakeOut, takeOutWeekly } from "@/features/import/server/weekly/takeOut";
import { readFlagSettings } from "@/features/setup/server/flagSettings";
import { logActivity } from "@/features/sheet/server/logActivity";
import { readDeal } from "@/features/sheet/server/readDeal";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { EMPTY, everything, file, HEADER, MIXERS, OVENS, PROOFER, preview, stored, take, week } from "../kit/weekly";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("weekly_reading");
});
beforeEach(() => refill(small(EMPTY)));
afterAll(() => database.drop());

describe("amounts", () => {
	const semicolons = (name: string, ...amounts: string[]) => ({
		...file(name),
		bytes: new TextEncoder().encode(
			[
				"Ref;Opportunity;Company;Phase;Value;Closing date;Owner",
				...amounts.map((amount, i) => `${i};Deal ${i};Mill;Survey;${amount};18.12.2026;Rae Penn`),
			].join("\n"),
		),
	});
	test("that can be read in two ways are asked about, with both totals in view; nothing goes in a thousand times too small", async () => {
		const sent = semicolons("a 2026-11-02.csv", "1.200", "128.400", "9.900");
		const view = await preview(sent);
		expect([view.unsure.amounts, view.change]).toEqual([true, null]);
		expect(view.amounts.map(({ mark, total }) => [mark, total])).toEqual([
			[".", 13_950],
			[",", 13_950_000],
		]);
		expect(await faultOf(() => take(sent))).toMatchObject({
			status: 422,
			detail: expect.stringMatching(/EUR 139.50 with a point .*, or 139.500.00 with a comma/),
		});
		expect(await connection().db.select().from(deals)).toEqual([]);
		await take({ ...sent, plan: { decimal: "," } });
		expect((await stored("0"))[0]?.[2]).toBe(120_000);
		// The next week writes them otherwise, and is read by what they were.
		const next = semicolons("a 2026-11-09.csv", "1,200", "128,400", "10,900");
		expect((await preview(next)).plan.decimal).toBe(".");
		await take(next);
		expect((await stored("2")).map((version) => version[2])).toEqual([990_000, 1_090_000]);
	});
	test("that become ten times as large, or a tenth, have to be confirmed; so do a third of the deals gone", async () => {
		await take(file("a 2026-11-02.csv", OVENS, MIXERS, PROOFER));
		const jump = file("a 2026-11-09.csv", OVENS.replace("1200.50", "12005"), MIXERS);
		const view = await preview(jump);
		expect(view.asks.map((ask) => ask.key)).toEqual(["jumps"]);
		expect(view.asks[0]?.words).toMatch(/^1 deal became ten times .*Deck ovens \(EUR 1.200.50, now EUR 12.005.00\)/);
		expect((await faultOf(() => take(jump, "missing"))).status).toBe(409);
		expect(await take(jump, "jumps")).toMatchObject({ changed: 1, missing: 1 });
		const far = file("a 2026-11-16.csv", OVENS.replace("1200.50", "12005").replace("2026-12-18", "2062-12-18"), MIXERS);
		expect((await preview(far)).asks.map((ask) => ask.key)).toEqual(["far"]);
		const five = [1, 2, 3, 4, 5].map((n) => MIXERS.replace("8,", `8${n},`));
		await take(file("b 2026-11-16.csv", OVENS.replace("1200.50", "12005"), MIXERS, ...five));
		const third = file("b 2026-11-23.csv", OVENS.replace("1200.50", "12005"), MIXERS, ...five.slice(2));
		expect((await preview(third)).asks.map((ask) => ask.key)).toEqual([]);
		expect((await preview({ ...third, bytes: file("", OVENS.replace("1200.50", "12005"), ...five.slice(2)).bytes })).asks.map((ask) => ask.key)).toEqual([
			"missing",
		]);
	});
	test("are told before anything is written, against the file before, altogether, by stage and by rep", async () => {
		await take(week.nov2);
		const { change } = await preview(week.nov9);
		expect(change?.sums).toEqual({
			currency: "EUR",
			total: { before: { count: 2, amount: 170_050 }, now: { count: 3, amount: 188_000 } },
			stages: [
				{ name: "Enquiry", before: { count: 1, amount: 50_000 }, now: { count: 2, amount: 58_000 } },
				{ name: "Survey", before: { count: 1, amount: 120_050 }, now: { count: 1, amount: 130_000 } },
			],
			owners: [
				{ name: "Rae Penn", before: { count: 1, amount: 120_050 }, now: { count: 1, amount: 130_000 } },
				{ name: "Sol Quint", before: { count: 1, amount: 50_000 }, now: { count: 1, amount: 50_000 } },
				{ name: "Una Fern", before: { count: 0, amount: 0 }, now: { count: 1, amount: 8000 } },
			],
		});
	});
});

describe("files of several parts", () => {
	const north = (name: string, ...lines: string[]) => ({ ...file(name, ...lines), plan: { covers: "North" } });
	const south = (name: string, ...lines: string[]) => ({ ...file(name, ...lines), plan: { covers: "South" } });
	test("stand beside one another on one day; a deal is missing only from its own part’s", async () => {
		await take(north("north 2026-11-02.csv", OVENS, PROOFER));
		await take(south("south 2026-11-02.csv", MIXERS));
		expect(await connection().db.select().from(deals)).toHaveLength(3);
		// Of the same name and part as before, without being told again.
		const next = await preview(file("south 2026-11-09.csv", MIXERS.replace("500", "600")));
		expect([next.plan.covers, next.parts, next.change?.missing, next.replaces, next.before?.name]).toEqual([
			"South",
			["North", "South"],
			0,
			null,
			"south 2026-11-02.csv",
		]);
		await take(file("south 2026-11-09.csv", MIXERS.replace("500", "600")));
		// A deal that went from one part to the other isn't missing from the first.
		await take(south("south 2026-11-16.csv", MIXERS, PROOFER));
		expect((await preview(north("north 2026-11-16.csv", OVENS))).change).toMatchObject({ missing: 0 });
		await take(north("north 2026-11-16.csv", OVENS));
		expect((await listWeekly(await as("ops"))).files.map((one) => [one.day, one.covers])).toEqual(
			expect.arrayContaining([
				["2026-11-16", "North"],
				["2026-11-16", "South"],
			]),
		);
	});
	test("that both speak of a deal on one day make one version of it, in which the later one has the last word", async () => {
		await take(north("north 2026-11-02.csv", OVENS));
		await take(south("south 2026-11-02.csv", OVENS.replace("1200.50", "1400")));
		expect(await stored("7")).toEqual([["2026-11-02", "Survey", 140_000, "2026-12-18", null]]);
	});
});

describe("taking a file out again", () => {
	const fileId = async (day: string) => (await listWeekly(await as("ops"))).files.find((one) => one.day === day)?.id ?? "";
	test("leaves everything as if it had never come, and says before what that undoes", async () => {
		await take(week.nov2);
		await take(week.nov16);
		const without = [await everything(), (await listWeekly(await as("ops"))).missing];
		await take(week.nov9);
		const id = await fileId("2026-11-09");
		expect(await previewTakeOut(await as("ops"), { fileId: id })).toMatchObject({ name: "deals 2026-11-09.csv", deals: 3, vanishing: [], decisions: 0 });
		await takeOutWeekly(await as("ops"), { fileId: id });
		expect([await everything(), (await listWeekly(await as("ops"))).missing]).toEqual(without);
		expect(readMarks(await as("ops")).map((mark) => mark.day)).toEqual(["2026-11-16", "2026-11-02"]);
		expect(await faultOf(async () => takeOutWeekly(await as("ops"), { fileId: id }))).toMatchObject({ status: 404 });
		// Taken in again it is as before.
		await take(week.nov9);
		expect(await stored("7")).toHaveLength(3);
	});
	test("names the deals that only this file has, and hands decisions on to the next file that hasn’t got them", async () => {
		for (const sent of [week.nov2, week.nov9, week.nov16]) await take(sent);
		const next = file("deals 2026-11-23.csv", OVENS, PROOFER);
		await take(next);
		const [missing] = (await listWeekly(await as("ops"))).missing;
		await decideMissing(await as("ops"), { deals: [{ id: "8", fileId: missing?.fileId ?? "" }], decision: "lost" });
		await takeOutWeekly(await as("ops"), { fileId: await fileId("2026-11-16") });
		expect((await stored("8")).at(-1)?.slice(0, 2)).toEqual(["2026-11-23", "Lost"]);
		await takeOutWeekly(await as("ops"), { fileId: await fileId("2026-11-23") });
		expect(await stored("8")).toHaveLength(1);
		expect((await previewTakeOut(await as("ops"), { fileId: await fileId("2026-11-09") })).vanishing).toEqual([{ id: "9", name: "Proofer" }]);
		await takeOutWeekly(await as("ops"), { fileId: await fileId("2026-11-09") });
		await takeOutWeekly(await as("ops"), { fileId: await fileId("2026-11-02") });
		expect(await connection().db.select().from(deals)).toEqual([]);
		expect(idsOf((await as("ops")).organisation)).toEqual([]);
	});
});

describe("people of a file", () => {
	test("of whom there are several are asked about, and what was said is remembered", async () => {
		await connection().pool.query("insert into people (id, name, role, team) values ('rae2', 'Rae Penn', 'rep', 'South')");
		await connection().db.transaction((tx) => recordChange(tx, "settings"));
		const view = await preview(week.nov2);
		expect([view.change, view.people[0]]).toEqual([
			null,
			{
				name: "Rae Penn",
				count: 1,
				who: [
					{ id: "rae2", label: "Rae Penn, South, rae2" },
					{ id: "rep1", label: "Rae Penn, North, rae@firm.example" },
				],
			},
		]);
		expect((await faultOf(() => take(week.nov2))).detail).toMatch(/2 people are named Rae Penn: Rae Penn, South, rae2; Rae Penn, North/);
		await take({ ...week.nov2, plan: { people: { "Rae Penn": "rae2" } } });
		await take(week.nov9);
		const rows = await connection().db.select().from(dealVersions).where(eq(dealVersions.dealId, "7"));
		expect(rows.map((row) => row.ownerId)).toEqual(["rae2", "rae2"]);
	});
});

test("a workbook with titles above and a total below is taken in like a file of text", async () => {
	const book = new ExcelJS.Workbook();
	const sheet = book.addWorksheet("Pipeline");
	sheet.addRow(["Pipeline of the North"]);
	sheet.addRow([]);
	sheet.addRow(HEADER.split(","));
	sheet.addRow(["7", "Deck ovens", "Millrace Bread", "Survey", 1200.5, new Date("2026-12-18T00:00:00Z"), "Rae Penn"]);
	sheet.addRow(["8", "Mixers", "Oat Inn", "Enquiry", 500, new Date("2026-12-10T00:00:00Z"), "sol@firm.example"]);
	sheet.addRow(["Total", null, null, null, 1700.5]);
	const sent = { name: "deals 2026-11-02.xlsx", bytes: new Uint8Array(await book.xlsx.writeBuffer()), day: null, plan: null };
	const view = await preview(sent);
	expect(view).toMatchObject({ written: "workbook", plan: { header: 3 }, above: 1, below: [{ line: 6, words: "Total · 1700.5" }], change: { fresh: 2 } });
	expect(view.asks.map((ask) => ask.key)).toEqual(["below"]);
	await take(sent, "below");
	const fromBook = await everything();
	await refill(small(EMPTY));
	await take(week.nov2);
	expect(fromBook).toEqual(await everything());
});

test("a team that has weekly files and nothing else isn’t lit for what such files can’t hold, and Setup says why", async () => {
	await connection().pool.query("delete from imports");
	await connection().pool.query("delete from questions");
	await take(week.nov2);
	await connection().db.transaction((tx) => recordChange(tx, "everything"));
	const deal = await readDeal(await as("ops"), "7", undefined);
	const codes = deal.flags.map((flag) => flag.code);
	for (const code of ["lone-contact", "no-signatory", "blank-fields", "under-qualified"]) expect(codes).not.toContain(code);
	const { rules } = await readFlagSettings(await as("ops"));
	expect(rules.filter((rule) => rule.off).map((rule) => [rule.code, rule.off])).toEqual([
		["under-qualified", "automatically off: no questions are set up"],
		["no-signatory", "automatically off: no deal has a contact"],
		["lone-contact", "automatically off: no activities have been logged yet"],
		["stale-answers", "automatically off: no questions are set up"],
	]);
	// The first of a kind that comes ends it.
	await logActivity(await as("rep1"), { dealId: "7", kind: "call", direction: "both", subject: "Hello" });
	expect((await readFlagSettings(await as("ops"))).rules.find((rule) => rule.code === "lone-contact")?.off).toBeNull();
});
