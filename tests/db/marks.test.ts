import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { brokenSeals, keepMark, readMarks, removeMark } from "@/features/changes/server/marks";
import { readChanges } from "@/features/changes/server/readChanges";
import { editDeals } from "@/features/deals/server/editDeals";
import { storedBundle } from "@/features/import/server/exportBundle";
import { readDeal } from "@/features/sheet/server/readDeal";
import { resolveViewpoint } from "@/platform/viewpoint";
import { more } from "../kit/bundle";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { faultOf, wordsOf } from "../kit/fault";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("marks");
});
beforeEach(() => refill(inspected()));
afterAll(() => database.drop());

/** The mark as the API lists it. */
const listed = async (name: string) => readMarks(await as("ops")).find((mark) => mark.name === name);

describe("a mark", () => {
	test("names a moment, says who kept it, and fits while history stays as it was", async () => {
		const made = await keepMark(await as("north"), { name: "Monday round" });
		expect(made).toMatchObject({ name: "Monday round", day: "2026-11-24", byId: "north", fits: true });
		expect(await listed("Monday round")).toEqual(made);
	});
	test("isn’t broken by what happens after it, nor by a new deal", async () => {
		await keepMark(await as("north"), { name: "Noon" });
		const { versionId } = await readDeal(await as("ops"), "d1", undefined);
		await editDeals(await as("north"), { targets: [{ id: "d1", versionId }], change: { amount: 5 } });
		expect((await listed("Noon"))?.fits).toBe(true);
	});
	test("is broken by a correction of what lies before it, and says which deals", async () => {
		await keepMark(await as("north"), { name: "Noon" });
		await importAs(inspected(more("deal_versions.csv", "d2,2026-11-20T09:00:00Z,Survey,999,EUR,2026-12-10,rep2,pipeline,,")));
		expect((await listed("Noon"))?.fits).toBe(false);
		const ops = await as("ops");
		expect(brokenSeals(ops, ops.now.day)).toEqual([{ mark: "Noon", open: { before: 3, now: 3 }, deals: [{ id: "d2", name: "Mixers" }] }]);
		expect(readChanges(ops, resolveViewpoint(ops, {}))?.broken).toHaveLength(1);
		expect(readChanges(ops, resolveViewpoint(ops, { seen: "2026-11-23" }))?.broken).toEqual([]);
	});
	test("is broken for everybody, and tells of others’ deals and of the whole nobody who doesn’t reach them", async () => {
		await keepMark(await as("north"), { name: "Noon" });
		await importAs(inspected(more("deal_versions.csv", "d2,2026-11-20T09:00:00Z,Survey,999,EUR,2026-12-10,rep2,pipeline,,")));
		const [own, others] = [await as("rep2"), await as("rep1")];
		expect(brokenSeals(own, own.now.day)).toEqual([{ mark: "Noon", open: null, deals: [{ id: "d2", name: "Mixers" }] }]);
		expect(brokenSeals(others, others.now.day)).toEqual([{ mark: "Noon", open: null, deals: [] }]);
	});
	test("a loss dated to an earlier day is a correction too", async () => {
		await keepMark(await as("north"), { name: "Noon" });
		const { versionId } = await readDeal(await as("ops"), "d1", undefined);
		await editDeals(await as("north"), { targets: [{ id: "d1", versionId }], change: { stage: "Won", closedOn: "2026-11-19" } });
		const ops = await as("ops");
		expect(brokenSeals(ops, ops.now.day)[0]).toMatchObject({ open: { before: 3, now: 2 }, deals: [{ id: "d1" }] });
	});
	test("of a bundle has no seal, and goes out with the next", async () => {
		await importAs(inspected({ "marks.csv": ["at,name", "2026-11-16T07:00:00Z,Round"] }));
		expect((await listed("Round"))?.fits).toBeNull();
		await keepMark(await as("north"), { name: "By hand" });
		expect(new TextDecoder().decode((await storedBundle()).get("marks.csv"))).toContain("By hand");
	});
	test("is taken away by whoever kept it; what was compared with stays", async () => {
		const { id } = await keepMark(await as("north"), { name: "Slip" });
		expect((await faultOf(async () => removeMark(await as("boss"), { id }))).status).toBe(404);
		await removeMark(await as("north"), { id });
		expect(await listed("Slip")).toBeUndefined();
		const north = await as("north");
		expect(readChanges(north, resolveViewpoint(north, { against: "2026-11-16" }))?.opening).toBeGreaterThan(0);
	});
	test("needs a name", async () => {
		expect(await wordsOf(async () => keepMark(await as("north"), { name: "  " }))).toContain("Give the mark a name");
		expect((await faultOf(async () => removeMark(await as("north"), { id: "yesterday Slip" }))).status).toBe(404);
	});
});

describe("a seal", () => {
	test("waits for an edit that is under way, so that it never looks like corrected history", async () => {
		const { db, pool } = connection();
		const client = await pool.connect();
		await client.query("begin");
		await client.query("select pg_advisory_xact_lock_shared(720519)");
		await client.query("update deal_versions set valid_to = now() where deal_id = 'd1' and valid_to is null");
		await client.query("insert into deal_versions (deal_id, valid_from, stage, amount, currency) select 'd1', '2026-11-24T00:00:01Z', 'Survey', 777700, 'EUR'");
		const kept = keepMark(await as("boss"), { name: "In the midst" });
		await new Promise((resolve) => setTimeout(resolve, 300));
		await client.query("update revision set number = number + 1");
		await client.query("insert into change_log (revision, deal_id) select number, 'd1' from revision");
		await client.query("commit");
		client.release();
		await kept;
		expect(readMarks(await as("boss"))[0]).toMatchObject({ name: "In the midst", fits: true });
		expect((await currentOrganisation(db)).company.history.blocks.flatMap(({ amount }) => [...amount])).toContain(777_700);
	});
	test("isn’t made while something large is written: it says so, and nothing is changed", async () => {
		const client = await connection().pool.connect();
		await client.query("begin");
		await client.query("select pg_advisory_xact_lock_shared(720519)");
		try {
			expect(await faultOf(async () => keepMark(await as("boss"), { name: "Too soon" }))).toMatchObject({ status: 503 });
		} finally {
			await client.query("rollback");
			client.release();
		}
	});
});
