import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { worksOn } from "@/core/people/person";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { teamsUnder } from "@/data/organisation/state";
import { imports } from "@/data/schema";
import { recordChange } from "@/data/store/changeLog";
import { readImport } from "@/features/import/server/importBundle";
import { holdDay } from "@/features/setup/server/holdDay";
import { more, small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("store");
	await importAs(small());
});
afterAll(() => database.drop());

const refusal = (statement: string) =>
	connection()
		.db.execute(sql.raw(statement))
		.then(
			() => "taken",
			(error) => String(error.cause?.constraint ?? error.constraint ?? error),
		);

describe("the database itself refuses", () => {
	test("a second current version of a deal", async () => {
		expect(await refusal("insert into deal_versions (deal_id, valid_from, stage) values ('d1', now(), 'Survey')")).toBe("deal_versions_current");
	});
	test("two versions of a deal at one instant", async () => {
		expect(
			await refusal("insert into deal_versions (deal_id, valid_from, valid_to, stage) select deal_id, valid_from, now(), stage from deal_versions limit 1"),
		).toBe("deal_versions_at");
	});
	test("a role nobody defined, one address for two, a second organisation", async () => {
		expect(await refusal("insert into people (id, name, role) values ('x', 'X', 'king')")).toBe("people_role");
		expect(await refusal("insert into people (id, name, role, email) values ('x', 'X', 'rep', 'RAE@FIRM.example')")).toBe("people_email");
		expect(await refusal("insert into organisation (id) values (2)")).toBe("one_organisation");
	});
});

describe("the revision", () => {
	test("grows with each write, in the order of the commits, whoever writes", async () => {
		const { db } = connection();
		const before = (await currentOrganisation(db)).revision;
		await Promise.all(Array.from({ length: 8 }, (_, i) => db.transaction((tx) => recordChange(tx, [i % 2 ? "d1" : "d2"]))));
		const rows = await db.execute(sql`select revision from change_log where revision > ${before} order by id`);
		expect(rows.rows.map((r) => Number(r.revision))).toEqual(Array.from({ length: 8 }, (_, i) => before + i + 1));
		expect((await currentOrganisation(db)).revision).toBe(before + 8);
	});
	test("stays where it was when a write is rolled back", async () => {
		const { db } = connection();
		const before = (await currentOrganisation(db)).revision;
		await db
			.transaction(async (tx) => {
				await recordChange(tx, "everything");
				tx.rollback();
			})
			.catch(() => undefined);
		expect((await currentOrganisation(db)).revision).toBe(before);
	});
	test("questions at once share one reading", async () => {
		const { db } = connection();
		await db.transaction((tx) => recordChange(tx, "everything"));
		const all = await Promise.all(Array.from({ length: 6 }, () => currentOrganisation(db)));
		expect(new Set(all).size).toBe(1);
	});
});

describe("imports side by side", () => {
	test("take turns, and both are in", async () => {
		const extra = (id: string) =>
			small({
				...more("deals.csv", `${id},a2,Side ${id},Web,2026-11-03T09:00:00Z,,,`),
				...more("deal_versions.csv", `${id},2026-11-03T09:00:00Z,Enquiry,5,EUR,,rep2,,,`),
			});
		const reports = await Promise.all([importAs(extra("e1")), importAs(extra("e2"))]);
		expect(reports.map((r) => r.state)).toEqual(["done", "done"]);
		expect((await currentOrganisation(connection().db)).deals.map((d) => d.id)).toEqual(["d1", "d2", "d3", "e1", "e2"]);
	});
	test("one whose server died says so, and doesn’t run for ever", async () => {
		await connection()
			.db.insert(imports)
			.values({ id: "dead", name: "x.zip", state: "writing", step: "writing deals.csv", beatAt: new Date(Date.now() - 120_000) });
		expect(await readImport(await as("ops"), "dead")).toMatchObject({ state: "failed", step: expect.stringContaining("nothing was imported") });
	});
});

describe("people and teams", () => {
	test("a team holds those below it, however deep", () => {
		const teams = new Map([
			["A", null],
			["B", "A"],
			["C", "B"],
			["D", null],
		]);
		expect([...teamsUnder({ teams }, "A")].sort()).toEqual(["A", "B", "C"]);
		expect([...teamsUnder({ teams }, "D")]).toEqual(["D"]);
	});
	test("somebody works here from the first day to the last, both included", async () => {
		const gone = (await as("gone")).actor.person;
		expect(["2024-12-31", "2025-01-01", "2026-10-31", "2026-11-01"].map((iso) => worksOn(gone, day(iso)))).toEqual([false, true, true, false]);
	});
});

describe("the clock", () => {
	test("is held by the organisation, let pass, and held again", async () => {
		expect((await as("ops")).now).toMatchObject({ day: day("2026-11-24"), held: true });
		await holdDay(await as("ops"), { day: null });
		const free = (await as("ops")).now;
		expect(free.held).toBe(false);
		expect(Math.abs(free.instant - Date.now())).toBeLessThan(5000);
		await holdDay(await as("ops"), { day: "2026-11-20" });
		expect((await as("ops")).now.day).toBe(day("2026-11-20"));
		await expect(holdDay(await as("ops"), { day: "2026-02-30" })).rejects.toMatchObject({ status: 422 });
	});
	test("is held by the environment before all", async () => {
		process.env.PORCH_LAMP_TODAY = "2026-11-18";
		expect((await as("ops")).now).toMatchObject({ day: day("2026-11-18"), held: true });
		delete process.env.PORCH_LAMP_TODAY;
	});
});
