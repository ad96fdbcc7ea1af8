import { sql } from "drizzle-orm";
import iconv from "iconv-lite";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { badRowsOf } from "@/features/import/server/weekly/take";
import { readCsv } from "@/formats/csv";
import type { WeeklyPlan } from "@/formats/weekly/plan";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { EMPTY, preview, type Sent, stored, take } from "../kit/weekly";

// What a weekly file doesn't say by itself is asked, and what can be read is read: on screen nothing can be imported before.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("weekly_asked");
});
const RATES = { "rates.csv": ["currency,date,rate", "GBP,2026-01-01,1.2", "SEK,2026-01-01,0.09", "INR,2026-01-01,0.01"] };
beforeEach(() => refill(small({ ...EMPTY, ...RATES })));
afterAll(() => database.drop());

const csv = (name: string, header: string, lines: string[], plan: Partial<WeeklyPlan> | null = null): Sent => ({
	name,
	bytes: new TextEncoder().encode([header, ...lines].join("\n")),
	day: null,
	plan,
});
const HEAD = "Ref,Opportunity,Phase,Value,Closing date,Owner";
const weekly = (day: string, lines: string[], plan: Partial<WeeklyPlan> | null = null) => csv(`deals ${day}.csv`, HEAD, lines, plan);

describe("dates", () => {
	const lines = ["1,Ovens,Survey,100,01/12/2027,Rae Penn", "2,Mixers,Enquiry,50,05/01/2027,Rae Penn"];
	test("that are ambiguous are asked for with both readings, remembered, and asked for again where a later file contradicts", async () => {
		const view = await preview(weekly("2026-11-02", lines));
		expect([view.unsure.dates, view.change, view.dates.map(({ order, samples }) => [order, samples[0]?.day])]).toEqual([
			true,
			null,
			[
				["dmy", "2027-12-01"],
				["mdy", "2027-01-12"],
			],
		]);
		expect(await faultOf(() => take(weekly("2026-11-02", lines)))).toMatchObject({ status: 422, title: "Choose the date order" });
		expect((await connection().db.execute(sql`select from deals`)).rowCount).toBe(0);
		await take(weekly("2026-11-02", lines, { dates: "mdy" }));
		expect((await stored("1"))[0]?.[3]).toBe("2027-01-12");
		expect((await preview(weekly("2026-11-09", lines))).unsure.dates).toBe(false);
		// The next can only be read the other way about.
		const turned = weekly("2026-11-16", [...lines, "3,Deck,Survey,5,24/12/2026,Rae Penn"]);
		expect((await preview(turned)).asks.map(({ key }) => key)).toEqual(["dates"]);
		expect((await faultOf(() => take(turned))).status).toBe(409);
	});
	test("of which one is text among true dates are read", async () => {
		await take(weekly("2026-11-02", ["1,Ovens,Survey,100,2026-12-01,Rae Penn", "2,Mixers,Enquiry,50,24.12.2026,Rae Penn"]));
		expect([(await stored("1"))[0]?.[3], (await stored("2"))[0]?.[3]]).toEqual(["2026-12-01", "2026-12-24"]);
	});
});

describe("amounts", () => {
	const one = (header: string, amount: string, plan: Partial<WeeklyPlan> | null = null) =>
		csv("a 2026-11-02.csv", HEAD.replace("Value", header), [`1,Ovens,Survey,${amount},2026-12-01,Rae Penn`], plan);
	test("in thousands by their header are read so; a scale is remembered and can be chosen by hand", async () => {
		expect((await preview(one("Value (k EUR)", "120"))).plan.scale).toBe(3);
		await take(one("Value (k EUR)", "120"));
		expect((await stored("1"))[0]?.[2]).toBe(12_000_000);
		const later = csv("a 2026-11-09.csv", HEAD, ["1,Ovens,Survey,125,2026-12-01,Rae Penn"], { columns: (await preview(one("Value", "125"))).plan.columns });
		expect((await preview({ ...later, plan: null })).plan.scale).toBe(3);
		expect((await preview({ ...later, plan: { scale: 0 } })).asks.map(({ key }) => key)).toContain("jumps");
	});
	test("that a title above the table says are in thousands are asked for", async () => {
		const sent = { ...one("Value", "120"), bytes: new TextEncoder().encode(`All amounts in thousands,,,,,\n${HEAD}\n1,Ovens,Survey,120,2026-12-01,Rae Penn`) };
		expect(await preview(sent)).toMatchObject({ unsure: { scale: true }, change: null });
		expect((await faultOf(() => take(sent))).title).toBe("Choose the unit of amounts");
		await take({ ...sent, plan: { scale: 3 } });
		expect((await stored("1"))[0]?.[2]).toBe(12_000_000);
	});
	test("in several currencies of one column are kept in each; a sign that can’t be told is named", async () => {
		const lines = ["£1200", "€ 50", "500 kr", '"₹12,34,567"', "7"].map((amount, i) => `${i},Deal ${i},Survey,${amount},2026-12-01,Rae Penn`);
		await take(weekly("2026-11-02", lines));
		const { rows } = await connection().db.execute(sql`select deal_id, amount::bigint::text, currency from deal_versions order by deal_id`);
		expect(rows.map((row) => [row.amount, row.currency])).toEqual([
			["120000", "GBP"],
			["5000", "EUR"],
			["50000", "SEK"],
			["123456700", "INR"],
			["700", "EUR"],
		]);
		await refill(small({ ...EMPTY, "rates.csv": [...RATES["rates.csv"], "DKK,2026-01-01,0.13"] }));
		expect((await preview(weekly("2026-11-02", lines))).causes.map(({ reason }) => reason)).toEqual([expect.stringContaining("may be in SEK, NOK, DKK")]);
	});
	test("that turn blank have to be confirmed; errors of the spreadsheet are no blanks", async () => {
		await take(weekly("2026-11-02", ["1,Ovens,Survey,100,2026-12-01,Rae Penn"]));
		expect((await preview(weekly("2026-11-09", ["1,Ovens,Survey,n/a,2026-12-01,Rae Penn"]))).asks).toMatchObject([
			{ key: "blanks", words: expect.stringContaining("Ovens (EUR 100.00)") },
		]);
		expect((await preview(weekly("2026-11-09", ["1,Ovens,Survey,#DIV/0!,2026-12-01,Rae Penn"]))).causes[0]?.reason).toContain("shows an error here (#DIV/0!)");
	});
	test("with a third decimal are rounded and told; those that could be thousands are asked about", async () => {
		const view = await preview(weekly("2026-11-02", ["1,Ovens,Survey,12.50,2026-12-01,Rae Penn", "2,Mixers,Survey,1234.567,2026-12-01,Rae Penn"]));
		expect([view.change?.rounded, view.asks]).toEqual([1, []]);
		const asked = await preview(weekly("2026-11-02", ["1,Ovens,Survey,12.50,2026-12-01,Rae Penn", "2,Mixers,Survey,1.234,2026-12-01,Rae Penn"]));
		expect(asked.asks.map(({ key }) => key)).toEqual(["rounded"]);
	});
});

describe("rows", () => {
	test("that are subtotals or headings between deals are never deals", async () => {
		const sent = csv("deals 2026-11-02.csv", "Opportunity,Closing date,Phase,Value,Owner", [
			"North,,,,",
			"Ovens,2026-12-01,Survey,100,Rae Penn",
			"Total Rae,,Survey,30000.00,",
			"Mixers,2026-12-01,Survey,50,Sol Quint",
			"Grand total,,,30050.00,",
		]);
		const view = await preview(sent);
		expect([view.below.map(({ line }) => line), view.change?.fresh, view.asks.map(({ key }) => key)]).toEqual([[2, 4, 6], 2, ["below"]]);
		await take(sent, "below");
		expect((await connection().db.execute(sql`select name from deals order by name`)).rows.map(({ name }) => name)).toEqual(["Mixers", "Ovens"]);
	});
	test("shorter than the header are filled up with blanks", async () => {
		await take(csv("deals 2026-11-02.csv", `${HEAD},Next step`, ["1,Ovens,Survey,100,2026-12-01,Rae Penn"]));
		expect(await stored("1")).toHaveLength(1);
	});
	test("of one deal are added up where all else agrees, else it is asked which counts", async () => {
		const alike = ["1,Ovens,Survey,100,2026-12-01,Rae Penn", "1,Ovens,Survey,20.50,2026-12-01,Rae Penn"];
		expect(await preview(weekly("2026-11-02", alike))).toMatchObject({ summed: { deals: 1, lines: 2 }, change: { fresh: 1 } });
		const unlike = [alike[0] ?? "", "1,Ovens,Terms,20.50,2027-01-05,Rae Penn"];
		expect(await preview(weekly("2026-11-02", unlike))).toMatchObject({
			unsure: { lines: true },
			change: null,
			differing: [{ id: "1", lines: [2, 3], words: ["stage", "close date"] }],
		});
		expect((await faultOf(() => take(weekly("2026-11-02", unlike)))).detail).toContain("1 is on lines 2, 3, which differ in stage, close date");
		await take(weekly("2026-11-02", unlike, { lines: "last" }));
		expect((await stored("1"))[0]).toEqual(["2026-11-02", "Terms", 12_050, "2027-01-05", null]);
	});
	test("that are good can be imported alone; the bad ones go out with what is wrong, and are added once mended", async () => {
		const lines = ["1,Ovens,Survey,100,2026-12-01,Rae Penn", "2,Mixers,Survey,much,2026-12-01,Rae Penn", "3,Deck,Survey,5,soon,Rae Penn"];
		await take(weekly("2026-11-02", ["1,Ovens,Survey,90,2026-12-01,Rae Penn", "2,Mixers,Survey,40,2026-12-01,Rae Penn"]));
		const sent = weekly("2026-11-09", lines);
		expect(await preview(sent)).toMatchObject({ problemCount: 2, goodRows: 1, change: null });
		expect((await faultOf(() => take(sent))).status).toBe(422);
		const alone = { ...sent, plan: { goodOnly: true } };
		// A deal whose row can't be read is in the file: it isn't missing.
		expect((await preview(alone)).change).toMatchObject({ changed: 1, missing: 0, leftOut: 2 });
		await take(alone);
		const bad = readCsv(await badRowsOf(await as("ops"), alone));
		expect(bad.header.at(-1)).toBe("What is wrong");
		expect(bad.records.map(({ cells }) => [cells[0], cells.at(-1)])).toEqual([
			["2", expect.stringMatching(/^Value: this isn’t an amount/)],
			["3", expect.stringMatching(/^Closing date: this can’t be read as a date/)],
		]);
		const mended = csv("deals 2026-11-09 rows to correct.csv", `${HEAD},What is wrong`, [
			"2,Mixers,Survey,60,2026-12-01,Rae Penn,x",
			"3,Deck,Survey,5,2026-12-24,Rae Penn,y",
		]);
		expect(await preview(mended)).toMatchObject({ addsTo: "deals 2026-11-09.csv", asks: [{ key: "replace" }] });
		const adding = { ...mended, plan: { adds: true } };
		expect(await preview(adding)).toMatchObject({ replaces: null, asks: [], change: { fresh: 1, changed: 1, missing: 0 } });
		await take(adding);
		expect([await stored("1"), await stored("2"), await stored("3")].map((versions) => versions.map((version) => version[2]))).toEqual([
			[9000, 10_000],
			[4000, 6000],
			[500],
		]);
		const { rows } = await connection().db.execute(sql`select name, counts->>'rows' as rows from weekly_files where day = '2026-11-09'`);
		expect(rows).toEqual([{ name: "deals 2026-11-09.csv", rows: "3" }]);
	});
	test("with nobody’s name belong to nobody, and who has left keeps theirs", async () => {
		const view = await preview(
			weekly("2026-11-02", ["1,Ovens,Survey,100,2026-12-01,Unassigned", "2,Mixers,Survey,5,2026-12-01,n/a", "3,Deck,Survey,5,2026-12-01,Gil Orr (inactive)"]),
		);
		expect([view.people, view.change?.newPeople]).toEqual([[], []]);
	});
});

test("the same file under another day is asked about", async () => {
	const lines = ["1,Ovens,Survey,100,2026-12-01,Rae Penn"];
	await take(weekly("2026-11-02", lines));
	const again = weekly("2026-11-09", lines);
	expect((await preview(again)).asks).toMatchObject([{ key: "same", words: expect.stringContaining("imported for 2026-11-02 already") }]);
	expect((await faultOf(() => take(again))).status).toBe(409);
	await take(again, "same");
});

test("text of another encoding is read by a name that is known; without one it is asked", async () => {
	const text = `${HEAD}\n1,Ovens,Survey,100,2026-12-01,Köln`;
	const sent: Sent = { name: "a 2026-11-02.csv", bytes: new Uint8Array(iconv.encode(text, "cp850")), day: null, plan: null };
	expect(await preview(sent)).toMatchObject({ unsure: { encoding: true }, change: null, encodings: [{ encoding: "CP850" }, { encoding: "Mac Roman" }] });
	expect((await faultOf(() => take(sent))).title).toBe("Choose the text encoding");
	expect((await preview({ ...sent, plan: { encoding: "CP850" } })).change?.newPeople).toEqual(["Köln"]);
	await connection().db.execute(sql`update people set name = 'Köln' where id = 'rep1'`);
	await connection().db.execute(sql`update revision set number = number + 1`);
	await connection().db.execute(sql`insert into change_log (revision) select number from revision`);
	expect(await preview(sent)).toMatchObject({ written: "CP850", unsure: { encoding: false }, people: [] });
});

test("after the second file Changes opens on these two days", async () => {
	await take(weekly("2026-11-18", ["1,Ovens,Survey,100,2026-12-01,Rae Penn"]));
	const { before } = await take(weekly("2026-11-23", ["1,Ovens,Terms,100,2026-12-01,Rae Penn"]));
	expect(before).toBe("2026-11-18");
	const context = await as("boss");
	// Today is the 24th: a week ago nothing was known.
	const { against } = resolveViewpoint(context, {});
	expect(new Date(against.day * 86_400_000).toISOString().slice(0, 10)).toBe("2026-11-18");
});
