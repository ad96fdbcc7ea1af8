import { eq, getTableColumns, getTableName, is, sql } from "drizzle-orm";
import { getTableConfig, PgTable } from "drizzle-orm/pg-core";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import * as schema from "@/data/schema";
import { saveTeam } from "@/features/people/server/managePeople";
import { mergePeople } from "@/features/people/server/mergePeople";
import { lookForNews } from "@/features/reaching/server/detectHappenings";
import { saveDigestTimes, saveWish } from "@/features/reaching/server/wishes";
import { promise } from "@/features/rounds/server/conduct";
import { endRound } from "@/features/rounds/server/endRound";
import { makeCall } from "@/features/rounds/server/makeCall";
import { readPlans, savePlan } from "@/features/rounds/server/plans";
import { sayReady } from "@/features/rounds/server/preparation";
import { readMinutes } from "@/features/rounds/server/readMinutes";
import { readRests } from "@/features/rounds/server/readRests";
import { readRounds } from "@/features/rounds/server/readRounds";
import { askRest } from "@/features/rounds/server/rests";
import { startRound } from "@/features/rounds/server/startRound";
import { giveEach } from "@/features/tasks/server/giveTasks";
import { readOwnTasks } from "@/features/tasks/server/readTasks";
import { small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";

// Two entries of one person become one wherever either is named, whatever both have of their own.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("merge_all");
	await refill(small());
	await lookForNews();
});
afterAll(() => database.drop());

/** Columns of all tables that name a person by a foreign key, or by what they are called. */
const places = Object.values(schema as Record<string, unknown>).flatMap((table) => {
	if (!is(table, PgTable)) return [];
	const keyed = getTableConfig(table).foreignKeys.flatMap((key) => {
		const { foreignTable, columns } = key.reference();
		return foreignTable === schema.people ? columns.map(({ name }) => name) : [];
	});
	return Object.values(getTableColumns(table)).flatMap(({ name }) =>
		keyed.includes(name) || name === "person_id" || name.endsWith("by_id") || name === "owner_id" || name === "assignee_id" ? [{ table, name }] : [],
	);
});

describe("merging somebody who has taken part in everything", () => {
	test("leaves nothing that names them, and loses nothing that was said", async () => {
		// Both of them have wishes, digest times and a tick of the same deal; the one who goes has held rounds as well.
		for (const who of ["north", "boss"]) {
			await saveWish(await as(who), { kind: "pushed-out", onScreen: true, mail: "never" });
			await saveDigestTimes(await as(who), { daily: "07:30", weekly: null });
			await sayReady(await as(who), { dealId: "d1", ready: true });
		}
		await saveWish(await as("north"), { kind: "act", onScreen: true, mail: "now" });
		await savePlan(await as("north"), { id: null, name: "My own", whose: "person:north", weekday: 2 });
		const { id } = await startRound(await as("north"), { dealIds: ["d1"] });
		await makeCall(await as("north"), { id, dealId: "d1", call: "shaky" });
		await promise(await as("north"), { id, lines: [{ dealId: "d1", title: "Ring them", dueOn: "2026-11-27" }] });
		await endRound(await as("north"), { id });
		await askRest(await as("north"), { dealId: "d1", until: "2026-12-04", reason: "Known" });
		await lookForNews();
		await mergePeople(await as("ops"), { from: "north", into: "boss" });
		for (const { table, name } of places) {
			const column = Object.values(getTableColumns(table)).find((one) => one.name === name);
			const [row] = column ? await connection().db.select({ n: sql<number>`count(*)::int` }).from(table).where(eq(column, "north")) : [];
			expect([getTableName(table), name, row?.n]).toEqual([getTableName(table), name, 0]);
		}
		const boss = await as("boss");
		expect((await readRounds(boss)).rounds).toMatchObject([{ id, startedBy: "Bo Sable", called: 1 }]);
		expect((await readMinutes(boss, id)).deals[0]?.call).toMatchObject({ call: "shaky", by: "Bo Sable" });
		expect((await readRests(boss)).rests).toMatchObject([{ askedBy: "Bo Sable" }]);
		expect(await readPlans(boss)).toMatchObject([{ name: "My own", whoseKey: "person:boss", by: "Bo Sable" }]);
		const wishes = await connection().db.select().from(schema.wishes);
		expect(wishes.map(({ personId, kind }) => [personId, kind]).sort()).toEqual([
			["boss", "act"],
			["boss", "pushed-out"],
		]);
	});
});

describe("renaming a team", () => {
	test("takes along what was given to it, planned and held with it", async () => {
		await refill(small());
		const { id } = await startRound(await as("north"), { calmToo: true });
		await endRound(await as("north"), { id });
		await savePlan(await as("north"), { id: null, name: "Mondays", whose: "team:North", weekday: 1 });
		await giveEach(await as("north"), { lines: [{ dealId: "d1", title: "Ring them", dueOn: "2026-11-27", team: "North" }] });
		await saveTeam(await as("ops"), { was: "North", name: "Nord & West", parent: "Firm" });
		expect((await readRounds(await as("rep1"))).rounds).toMatchObject([{ id, whose: "Nord & West team’s" }]);
		expect((await readPlans(await as("rep1"))).map(({ whose }) => whose)).toEqual(["Nord & West team’s"]);
		expect((await readOwnTasks(await as("rep1"), day("2026-11-24"))).toTake.map(({ title }) => title)).toEqual(["Ring them"]);
	});
});
