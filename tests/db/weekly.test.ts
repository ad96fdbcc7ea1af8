import { eq } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { weeklyFileAnswer } from "@/app/server/weekly";
import { connection } from "@/data/db";
import { deals, dealVersions, weeklyFiles, weeklyMissing } from "@/data/schema";
import { readMarks } from "@/features/changes/server/marks";
import { readChanges } from "@/features/changes/server/readChanges";
import { readDifferences } from "@/features/changes/server/readDifferences";
import { readRiver } from "@/features/changes/server/readRiver";
import { readTrend } from "@/features/changes/server/readTrend";
import { editDeals } from "@/features/deals/server/editDeals";
import { readDeals } from "@/features/deals/server/readDeals";
import { storedBundle } from "@/features/import/server/exportBundle";
import { decideMissing, listWeekly } from "@/features/import/server/weekly/missing";
import { previewWeekly, takeWeekly } from "@/features/import/server/weekly/take";
import { saveStages } from "@/features/setup/server/stageSettings";
import { readDeal } from "@/features/sheet/server/readDeal";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { EMPTY, everything, file, MIXERS, OVENS, PROOFER, type Sent, stored, take, week } from "../kit/weekly";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("weekly");
});
beforeEach(() => refill(small(EMPTY)));
afterAll(() => database.drop());

describe("a weekly export", () => {
	test("is looked at first: columns are guessed, and what would change is told; nothing is written", async () => {
		const view = await previewWeekly(await as("ops"), week.nov2);
		expect(view).toMatchObject({
			day: "2026-11-02",
			problemCount: 0,
			unknownStages: [],
			before: null,
			asks: [],
			rows: 2,
			written: "UTF-8",
			above: 0,
			below: [],
		});
		expect(view.plan.columns).toMatchObject({
			id: "Ref",
			name: "Opportunity",
			account: "Company",
			stage: "Phase",
			amount: "Value",
			closeDate: "Closing date",
			owner: "Owner",
		});
		expect(view.change).toMatchObject({ fresh: 2, changed: 0, same: 0, missing: 0, newPeople: [], newAccounts: 0 });
		expect(await connection().db.select().from(deals)).toEqual([]);
	});
	test("becomes versions by its differences, a deal’s first file being its beginning", async () => {
		expect(await take(week.nov2)).toMatchObject({ fresh: 2, changed: 0 });
		expect(await take(week.nov9)).toMatchObject({ fresh: 1, changed: 1 });
		expect(await stored("7")).toEqual([
			["2026-11-02", "Survey", 120_050, "2026-12-18", "2026-11-09"],
			["2026-11-09", "Survey", 130_000, "2026-12-18", null],
		]);
		expect(await stored("8")).toHaveLength(1);
		const ops = await as("ops");
		expect(ops.organisation.people[ops.organisation.personIndex.get("una-fern") ?? -1]).toMatchObject({ name: "Una Fern", role: "rep" });
		expect([...ops.organisation.accounts.values()].map((account) => account.name).sort()).toEqual(["Millrace Bread", "New Rolls", "Oat Inn"]);
	});
	test("in whatever order files come, and however often, the history is the same", async () => {
		for (const sent of [week.nov2, week.nov9, week.nov16]) await take(sent);
		const inOrder = await everything();
		const ids = await connection().db.select({ id: dealVersions.id }).from(dealVersions).orderBy(dealVersions.id);
		expect((await take(week.nov9)).known).toBe(true);
		expect(await connection().db.select({ id: dealVersions.id }).from(dealVersions).orderBy(dealVersions.id)).toEqual(ids);
		for (const order of [
			["nov16", "nov2", "nov9"],
			["nov9", "nov16", "nov2"],
		] as const) {
			await refill(small(EMPTY));
			for (const name of order) await take(week[name]);
			expect(await everything()).toEqual(inOrder);
		}
	});
	test("of a day that has one takes its place, and what only the old one knew goes with it", async () => {
		await take(week.nov2);
		await take(week.nov9);
		const again = { ...file("deals 2026-11-09 corrected.csv", OVENS, MIXERS) };
		expect((await previewWeekly(await as("ops"), again)).replaces).toBe("deals 2026-11-09.csv");
		// What would vanish is named, counted and asked.
		expect(await faultOf(() => take(again))).toMatchObject({
			status: 409,
			detail: expect.stringMatching(/1 deal that only this file has would be deleted: Proofer/),
		});
		expect(await connection().db.select().from(deals).where(eq(deals.id, "9"))).toHaveLength(1);
		await take(again, "replace", "same");
		expect(await stored("7")).toHaveLength(1);
		expect(await connection().db.select().from(deals).where(eq(deals.id, "9"))).toEqual([]);
		expect((await listWeekly(await as("ops"))).files.map((one) => one.name)).toEqual(["deals 2026-11-09 corrected.csv", "deals 2026-11-02.csv"]);
	});
	test("remembers how its columns, dates and stages are read", async () => {
		const odd = (name: string) => ({
			name,
			bytes: new TextEncoder().encode("Nr;Was;Wer;Wo;Wieviel;Wann\n7;Ovens;Rae Penn;Angebot;1.200,50;18.12.2026\n"),
			day: null,
			plan: null,
		});
		const unknown = await previewWeekly(await as("ops"), odd("pipeline.csv"));
		expect([unknown.day, unknown.problemCount > 0]).toEqual([null, true]);
		const columns = { ...unknown.plan.columns, id: "Nr", name: "Was", owner: "Wer", stage: "Wo", amount: "Wieviel", closeDate: "Wann" };
		const mapped = await previewWeekly(await as("ops"), { ...odd("pipeline.csv"), day: "2026-11-02", plan: { columns } });
		expect([mapped.unknownStages, mapped.plan.decimal, mapped.plan.dates]).toEqual([[{ name: "Angebot", count: 1 }], ",", "dmy"]);
		await takeWeekly(await as("ops"), {
			sent: { ...odd("pipeline.csv"), day: "2026-11-02", plan: { columns, stages: { Angebot: "Terms" } } },
			confirmed: [],
		});
		expect(await stored("7")).toEqual([["2026-11-02", "Terms", 120_050, "2026-12-18", null]]);
		const next = await previewWeekly(await as("ops"), odd("pipeline 2026-11-09.csv"));
		expect(next).toMatchObject({ day: "2026-11-09", unknownStages: [], problemCount: 0, change: { same: 1 } });
	});
	test("from the second file on makes every view of the past work", async () => {
		await take(week.nov9);
		await take(week.nov16);
		const ops = await as("ops");
		const viewpoint = resolveViewpoint(ops, { seen: "2026-11-16", against: "2026-11-09" });
		const view = readChanges(ops, viewpoint);
		expect(view?.steps.filter((step) => step.count).map((step) => [step.kind, step.amount])).toEqual([
			["opening", 188_000],
			["pushed-out", 130_000],
			["closing", 58_000],
		]);
		expect(readDifferences(ops, viewpoint)?.deals[0]).toMatchObject({ id: "7", effect: -130_000 });
		expect((await readTrend(ops, viewpoint))?.points.at(-1)?.open).toBe(58_000);
		expect(readRiver(ops, viewpoint, undefined)?.deals).toHaveLength(3);
		expect(readDeals(ops, viewpoint).rows).toHaveLength(2);
		expect(readMarks(ops).map((mark) => [mark.day, mark.name])).toEqual([
			["2026-11-16", "Weekly export"],
			["2026-11-09", "Weekly export"],
		]);
	});
	test("keeps what was changed here in between, until a file says otherwise", async () => {
		await take(week.nov2);
		const { versionId } = await readDeal(await as("ops"), "7", undefined);
		await editDeals(await as("boss"), { targets: [{ id: "7", versionId }], change: { nextStep: "Call Rae", amount: 150_000 } });
		const later = file("deals 2026-11-24.csv", OVENS, MIXERS);
		const before = await stored("7");
		expect(before).toHaveLength(2);
		await take(week.nov9);
		// The file of the 9th says 1 300; by hand it became 1 500 on the 24th, which stays.
		expect((await stored("7")).map((version) => version[2])).toEqual([120_050, 130_000, 150_000]);
		expect((await previewWeekly(await as("ops"), later)).change).toMatchObject({ changed: 1, missing: 1 });
	});
});

describe("a deal that is missing", () => {
	const missing = async () => (await listWeekly(await as("ops"))).missing;
	const decide = async (id: string, decision: "won" | "lost" | "removed" | "open" | null) => {
		const one = (await missing()).find((deal) => deal.id === id);
		return decideMissing(await as("ops"), { deals: [{ id, fileId: one?.fileId ?? "" }], decision });
	};
	beforeEach(async () => {
		await take(week.nov2);
		await take(week.nov9);
		await take(week.nov16);
	});
	test("stays open and waits for a decision; nothing is guessed", async () => {
		expect(await missing()).toMatchObject([{ id: "8", name: "Mixers", day: "2026-11-16", stage: "Enquiry", amount: 50_000, decision: null }]);
		expect(await stored("8")).toHaveLength(1);
	});
	test("is won, lost or removed at the day it was missing first, as decided, and a decision can be deleted", async () => {
		await decide("8", "lost");
		expect(await stored("8")).toEqual([
			["2026-11-02", "Enquiry", 50_000, "2026-12-10", "2026-11-16"],
			["2026-11-16", "Lost", 50_000, "2026-11-16", null],
		]);
		await decide("8", "removed");
		expect((await stored("8")).at(-1)).toEqual(["2026-11-16", null, null, null, null]);
		const ops = await as("ops");
		const view = readChanges(ops, resolveViewpoint(ops, { against: "2026-11-09" }));
		expect(view?.steps.find((step) => step.kind === "removed")).toMatchObject({ amount: 50_000, deals: [{ id: "8", after: null }] });
		await decide("8", null);
		expect(await stored("8")).toHaveLength(1);
	});
	test("that was only left out isn’t asked for again, and one that comes back isn’t either", async () => {
		await decide("8", "open");
		await take(file("deals 2026-11-23.csv", OVENS, PROOFER));
		expect((await missing()).map((deal) => [deal.id, deal.decision])).toEqual([["8", "open"]]);
		await decide("8", null);
		await take(file("deals 2026-11-24.csv", OVENS, MIXERS, PROOFER));
		expect(await missing()).toEqual([]);
	});
	test("keeps its decision where the file it was missing from is replaced by one that hasn’t got it either", async () => {
		await decide("8", "lost");
		await take(file("deals 2026-11-16 again.csv", OVENS, PROOFER));
		expect((await missing()).map((deal) => [deal.id, deal.decision])).toEqual([["8", "lost"]]);
		expect((await stored("8")).at(-1)?.[1]).toBe("Lost");
		await take(file("deals 2026-11-16 third.csv", OVENS, PROOFER, MIXERS));
		expect(await missing()).toEqual([]);
		expect((await stored("8")).at(-1)?.[1]).toBe("Enquiry");
	});
	test("is no longer missing where a late file has it", async () => {
		await decide("8", "lost");
		await take(file("deals 2026-11-20.csv", OVENS, PROOFER, MIXERS));
		expect((await stored("8")).map((version) => version[1])).toEqual(["Enquiry", "Lost", "Enquiry"]);
	});
	test("of a removed deal goes out in a bundle and comes in again", async () => {
		await decide("8", "removed");
		const before = await everything();
		const bundle = await storedBundle();
		expect(new TextDecoder().decode(bundle.get("deal_versions.csv"))).toMatch(/8,2026-11-16T11:00:00(\.000)?Z,,,,,,,,/);
		expect((await importAs(bundle)).changed["deal_versions.csv"]).toBe(0);
		await refill(bundle);
		expect(await everything()).toEqual(before);
	});
});

describe("a file that can’t be taken as it is", () => {
	test("with all deals missing is asked about before anything is written", async () => {
		await take(week.nov2);
		const other = file("deals 2026-11-09.csv", PROOFER);
		expect(await faultOf(() => take(other))).toMatchObject({ status: 409, detail: expect.stringMatching(/^None of the 2 open deals in deals 2026-11-02.csv/) });
		expect(await connection().db.select().from(deals)).toHaveLength(2);
		expect(await take(other, "missing", "total")).toMatchObject({ missing: 2 });
		expect((await connection().db.select().from(weeklyMissing)).map((one) => one.decision)).toEqual([null, null]);
		expect((await stored("7")).at(-1)?.[1]).toBe("Survey");
	});
	test("says what, where and what to do, and nothing is half written", async () => {
		const refusal = async (sent: Sent) => (await faultOf(async () => takeWeekly(await as("ops"), { sent, confirmed: [] }))).detail;
		expect(await refusal(file("deals.csv", OVENS))).toMatch(/doesn’t contain the file’s date/);
		expect(await refusal(file("2026-11-25.csv", OVENS))).toMatch(/in the future; today is 2026-11-24/);
		expect(await refusal(file("2026-11-02.csv", OVENS, OVENS.replace("Survey", "Enquiry")))).toMatch(/7 is on lines 2, 3, which differ in stage/);
		expect(await refusal(file("2026-11-02.csv", OVENS.replace("1200.50", "lots")))).toMatch(/line 2, Value: this isn’t an amount; an amount is written like/);
		expect(await refusal(file("2026-11-02.csv", OVENS.replace("Survey", "Odd")))).toMatch(/1 rows have the stage “Odd”/);
		expect(await refusal(file("2026-11-02.csv", OVENS.replace("1200.50", "£5")))).toMatch(/there is no rate from GBP to EUR/);
		const { plan } = await previewWeekly(await as("ops"), week.nov2);
		expect(await refusal({ ...week.nov2, plan: { columns: { ...plan.columns, created: "Closing date" } } })).toMatch(/used for Close date and for Created/);
		expect(await refusal({ ...week.nov2, plan: { currency: "USD" } })).toMatch(/there is no rate from USD to EUR/);
		expect(await refusal({ ...week.nov2, bytes: new Uint8Array([0xff, 0xfe, 0]) })).toMatch(/line 1: the file isn’t text/);
		expect(await connection().db.select().from(deals)).toEqual([]);
		expect(await connection().db.select().from(weeklyFiles)).toEqual([]);
	});
	test("without stages offers those of the file, takes nothing in before, and everything after", async () => {
		await connection().pool.query("truncate stages cascade");
		await connection().pool.query("update revision set number = number + 1");
		await connection().pool.query("insert into change_log (revision, deal_id) select number, null from revision");
		const { firstStages, change } = await previewWeekly(await as("ops"), week.nov2);
		expect(change).toBeNull();
		expect(firstStages?.slice(-2).map((stage) => [stage.name, stage.kind])).toEqual([
			["Won", "won"],
			["Lost", "lost"],
		]);
		expect((await faultOf(() => take(week.nov2))).detail).toMatch(/Create them from those in the file/);
		await saveStages(await as("ops"), { stages: [...(firstStages ?? [])] });
		const after = await previewWeekly(await as("ops"), week.nov2);
		expect([after.firstStages, after.unknownStages]).toEqual([null, []]);
		expect((await take(week.nov2)).fresh).toBe(after.rows);
	});
	test("of half a gigabyte is refused before it is read", async () => {
		const request = new Request("http://localhost/setup/weekly", {
			method: "POST",
			headers: { "content-length": String(512 * 2 ** 20), authorization: "Bearer none" },
			body: "x",
		});
		expect((await weeklyFileAnswer(request)).status).toBe(401);
	});
	test("belongs to ops alone", async () => {
		for (const who of ["boss", "north", "rep1", "view"]) {
			expect((await faultOf(async () => previewWeekly(await as(who), week.nov2))).status).toBe(403);
			expect((await faultOf(async () => takeWeekly(await as(who), { sent: week.nov2, confirmed: [] }))).status).toBe(403);
			expect((await faultOf(async () => decideMissing(await as(who), { deals: [{ id: "8", fileId: "x" }], decision: "lost" }))).status).toBe(403);
			expect((await faultOf(async () => listWeekly(await as(who)))).status).toBe(403);
		}
	});
});
