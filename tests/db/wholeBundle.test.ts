import { eq, sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { dealVersions, marks, news, outbox, webhooks } from "@/data/schema";
import { recordChange } from "@/data/store/changeLog";
import { noteAtAccount } from "@/features/accounts/server/writeAtAccount";
import { makeBoard } from "@/features/boards/server/boards";
import { brokenSeals, keepMark } from "@/features/changes/server/marks";
import { correctAhead } from "@/features/deals/server/datedAhead";
import { editDeals } from "@/features/deals/server/editDeals";
import { saveView } from "@/features/deals/server/views";
import { storedBundle } from "@/features/import/server/exportBundle";
import { saveTry } from "@/features/period/server/tries";
import { lookForNews } from "@/features/reaching/server/detectHappenings";
import { saveDigestTimes, saveWish } from "@/features/reaching/server/wishes";
import { endRound } from "@/features/rounds/server/endRound";
import { makeCall } from "@/features/rounds/server/makeCall";
import { readPlans, savePlan } from "@/features/rounds/server/plans";
import { readHeld } from "@/features/rounds/server/readHeld";
import { readMinutes } from "@/features/rounds/server/readMinutes";
import { giveRest } from "@/features/rounds/server/rests";
import { startRound } from "@/features/rounds/server/startRound";
import { readDeal } from "@/features/sheet/server/readDeal";
import { readSheet } from "@/features/sheet/server/readSheet";
import { changeTask } from "@/features/tasks/server/changeTask";
import { giveEach } from "@/features/tasks/server/giveTasks";
import { readKits, saveKit } from "@/features/tasks/server/kits";
import { makeHook } from "@/features/webhooks/server/hooks";
import type { RawFiles } from "@/formats/bundle/model";
import { more, SMALL, small } from "../kit/bundle";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("whole_bundle");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const textOf = (files: RawFiles) => Object.fromEntries([...files].map(([name, bytes]) => [name, new TextDecoder().decode(bytes)]));

/** Something of everything that people do here. */
async function lived() {
	const [boss, rep, ops] = [await as("boss"), await as("rep1"), await as("ops")];
	await savePlan(boss, { id: null, name: "Mondays", whose: "all", weekday: 1, sorted: "attention", calmToo: true });
	const [plan] = await readPlans(await as("boss"));
	const { id } = await startRound(await as("boss"), { calmToo: true, planId: plan?.id });
	await makeCall(await as("boss"), { id, dealId: "d1", call: "moves", to: "2027-01-20", why: "Board | meets, later" });
	await makeCall(await as("boss"), { id, dealId: "d3", call: "gone", why: "No budget", competitor: "Hearthline" });
	await endRound(await as("boss"), { id });
	await giveRest(await as("boss"), { dealId: "d3", until: "2026-12-07", reason: "Known" });
	const { tasks } = await giveEach(await as("north"), {
		lines: [
			{
				dealId: "d1",
				title: "=Ring them",
				dueOn: "2026-11-27",
				importance: "high",
				checklist: ["a", "b"],
				remindOn: "2026-11-26",
				repeat: "FREQ=WEEKLY;INTERVAL=1",
			},
		],
	});
	await changeTask(await as("rep1"), { id: tasks[0]?.id ?? "", dueOn: "2026-11-30" });
	await noteAtAccount(rep, { accountId: "a1", body: "Never before ten, | please" });
	await saveKit(ops, {
		id: null,
		name: "Before a visit",
		about: "",
		steps: [{ title: "Ask", days: 3, importance: "usual", asks: null, flags: [], checklist: ["x"] }],
	});
	const { id: view } = await saveView(boss, { name: "Large", query: "f=amount.from.5000", shared: false });
	await saveTry(boss, { name: "t", shared: false, whose: "all", due: "2026-Q4", moves: [{ whom: { field: "deal", value: "d1" }, what: "win", percent: 100 }] });
	await makeBoard(boss, {
		name: "Mine",
		tiles: [{ id: "t1", kind: "text", x: 0, y: 0, w: 4, h: 3, title: "", settings: { text: "Bring, the | quotes" } }],
	} as never);
	await saveWish(rep, { kind: "amount-cut", onScreen: true, mail: "digest" });
	await saveWish(boss, { kind: "view-gains", of: view, onScreen: true, mail: "never" });
	await saveDigestTimes(rep, { daily: "07:30", weekly: null });
	await makeHook(ops, { url: "https://receiver.example/in", events: ["round.ended"] });
	await keepMark(await as("north"), { name: "Noon" });
	return id;
}

describe("a bundle", () => {
	test("carries what people did, and a new installation gives the same bundle back", async () => {
		const round = await lived();
		const files = await storedBundle();
		// A call's number is each installation's own.
		const shown = async () =>
			JSON.parse(
				JSON.stringify([await readMinutes(await as("boss"), round), await readHeld(await as("boss")), await readKits(await as("ops"))], (key, value) =>
					key === "id" && typeof value === "number" ? undefined : value,
				),
			);
		const before = await shown();
		await refill(files);
		const again = textOf(await storedBundle());
		expect(Object.keys(again).sort()).toEqual([...files.keys()].sort());
		for (const [name, text] of Object.entries(textOf(files))) expect(again[name], name).toBe(text);
		expect(await shown()).toEqual(before);
		// The same again changes nothing.
		expect(Object.values((await importAs(files)).changed).every((count) => count === 0)).toBe(true);
	});
	test("carries no secret: a webhook comes switched off and without one", async () => {
		await lived();
		const files = await storedBundle();
		const [hook] = await connection().db.select().from(webhooks);
		const all = Object.values(textOf(files)).join("\n");
		expect(hook?.secret.length).toBeGreaterThan(20);
		expect(all).not.toContain(hook?.secret);
		await refill(files);
		expect(await connection().db.select().from(webhooks)).toMatchObject([{ url: "https://receiver.example/in", on: false, secret: "" }]);
	});
	test("carries a mark’s seal: what is corrected after the import breaks it, and the import itself doesn’t", async () => {
		await lived();
		await refill(await storedBundle());
		const ops = await as("ops");
		expect((await connection().db.select().from(marks)).find(({ name }) => name === "Noon")).toMatchObject({ byId: "north", seal: { count: 3 } });
		expect(brokenSeals(ops, ops.now.day).filter(({ mark }) => mark === "Noon")).toEqual([]);
		await importAs(small(more("deal_versions.csv", "d2,2026-11-20T09:00:00Z,Survey,999,EUR,2026-12-10,rep2,pipeline,,")));
		const later = await as("ops");
		expect(brokenSeals(later, later.now.day).find(({ mark }) => mark === "Noon")).toMatchObject({ deals: [{ id: "d2" }] });
	});
	test("notifies nobody of what it brings", async () => {
		await lived();
		const files = await storedBundle();
		await refill(small());
		await lookForNews();
		await saveWish(await as("boss"), { kind: "amount-cut", onScreen: true, mail: "now" });
		await importAs(files);
		expect(await lookForNews()).toEqual({ told: 0, mails: 0 });
		expect(await lookForNews()).toEqual({ told: 0, mails: 0 });
		expect((await connection().db.select().from(outbox)).length).toBe(0);
		expect((await connection().db.select().from(news)).every(({ onScreen, mail }) => !onScreen && mail === "never")).toBe(true);
		// What happens afterwards is told.
		await giveEach(await as("north"), { lines: [{ dealId: "d1", title: "Now", dueOn: "2026-11-27" }] });
		expect(await lookForNews()).toEqual({ told: 1, mails: 1 });
	});
});

describe("a row that can’t be so", () => {
	const reasons = async (files: Record<string, string[]>) => {
		const report = await importAs(small(files), { dryRun: true });
		return report.problems.map(({ file, line, column, reason }) => [file, line, column, reason]);
	};
	test.each([
		[
			"a version to come",
			more("deal_versions.csv", "d2,2099-01-01T09:00:00Z,Survey,5,EUR,2026-12-10,rep2,pipeline,,"),
			"deal_versions.csv",
			6,
			"at",
			/in the future/,
		],
		[
			"a version before its deal",
			more("deal_versions.csv", "d2,2026-10-01T09:00:00Z,Survey,5,EUR,2026-12-10,rep2,pipeline,,"),
			"deal_versions.csv",
			6,
			"at",
			/before its deal was created, at 2026-11-03/,
		],
		[
			"an amount no company has",
			more("deal_versions.csv", "d2,2026-11-20T09:00:00Z,Survey,100000000000.01,EUR,2026-12-10,rep2,pipeline,,"),
			"deal_versions.csv",
			6,
			"amount",
			/10\^13 minor units/,
		],
		["a deal to come", more("deals.csv", "d9,a2,Later,Web,2099-11-03T09:00:00Z,,,"), "deals.csv", 5, "created_at", /in the future/],
		[
			"a done call to come",
			{ "activities.csv": ["id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body", "x,d1,,,call,in,done,2099-01-01T09:00:00Z,rep1,,"] },
			"activities.csv",
			2,
			"at",
			/in the future/,
		],
		["a note to come", { "notes.csv": ["id,deal_id,at,by_id,body,mentions", "n,d1,2099-01-01T09:00:00Z,rep1,x,"] }, "notes.csv", 2, "at", /in the future/],
	] as const)("%s is named with its row", async (_, files, file, line, column, reason) => {
		expect(await reasons(files as Record<string, string[]>)).toEqual([[file, line, column, expect.stringMatching(reason)]]);
	});
	test("isn’t one that may be: what is planned, the largest amount, a version of the day it was created", async () => {
		const files = {
			...more("deals.csv", "d9,a2,Today,Web,2026-11-24T15:00:00Z,,,"),
			"deal_versions.csv": [...(SMALL["deal_versions.csv"] ?? []), "d9,2026-11-24T08:00:00Z,Survey,100000000000,EUR,2026-12-10,rep2,pipeline,,"],
			"activities.csv": ["id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body", "x,d1,,,call,in,planned,2099-01-01T09:00:00Z,rep1,,"],
		};
		expect(await reasons(files)).toEqual([]);
	});
});

describe("a version dated after today", () => {
	test("says so where the deal is opened and changed, and can be corrected; then the deal is editable again", async () => {
		const { db } = connection();
		await db
			.update(dealVersions)
			.set({ validTo: new Date("2030-03-03T10:00:00Z") })
			.where(sql`deal_id = 'd1' and valid_to is null`);
		await db.insert(dealVersions).values({
			dealId: "d1",
			stage: "Terms",
			amount: 90_000,
			currency: "EUR",
			closeDate: "2026-12-20",
			ownerId: "rep1",
			category: "commit",
			validFrom: new Date("2030-03-03T10:00:00Z"),
		});
		await db.transaction((tx) => recordChange(tx, ["d1"]));
		expect((await readSheet(await as("rep1"), "d1", "", "")).ahead).toBe("2030-03-03");
		const edit = async () => {
			const { versionId } = await readDeal(await as("rep1"), "d1", undefined);
			return editDeals(await as("rep1"), { targets: [{ id: "d1", versionId }], change: { amount: 95_000 } });
		};
		expect(await faultOf(edit)).toMatchObject({ status: 409, title: "Dated in the future", detail: expect.stringContaining("2030-03-03") });
		expect((await faultOf(async () => correctAhead(await as("rep2"), { id: "d1" }))).status).toBe(404);
		expect((await faultOf(async () => correctAhead(await as("view"), { id: "d1" }))).status).toBe(403);
		expect(await correctAhead(await as("rep1"), { id: "d1" })).toEqual({ versions: 1 });
		expect(await readDeal(await as("rep1"), "d1", undefined)).toMatchObject({ stage: "Terms", amount: 90_000 });
		expect((await readSheet(await as("rep1"), "d1", "", "")).ahead).toBeNull();
		await edit();
		expect(await readDeal(await as("rep1"), "d1", undefined)).toMatchObject({ amount: 95_000 });
		expect((await faultOf(async () => correctAhead(await as("rep1"), { id: "d1" }))).title).toBe("Nothing to correct");
		expect((await db.select().from(dealVersions).where(eq(dealVersions.dealId, "d1"))).filter(({ validTo }) => validTo === null)).toHaveLength(1);
	});
});
