import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { loadOrganisation } from "@/data/organisation/load";
import { readReferenceData } from "@/data/organisation/readReferenceData";
import { FORM, restoreSnapshot, SHAPE, saveSnapshot, worthSaving } from "@/data/organisation/snapshot";
import { CHANGES_KEPT, pruneChangeLog, recordChange } from "@/data/store/changeLog";
import { small } from "../kit/bundle";
import { freshDatabase, importAs } from "../kit/database";
import { plain } from "../kit/plain";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("snapshot");
	await importAs(
		small({
			"activities.csv": [
				"id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body",
				"x1,d1,a1,,email,in,done,2026-11-18T09:00:00Z,,Asks for a price,How much is it?",
			],
			"questions.csv": ["id,area,prompt,help,weight,due_stage_position,key", "q1,Need,What hurts?,,1,1,true"],
			"answers.csv": ["deal_id,question_id,level,note,at,by_id", "d1,q1,heard,They said so,2026-11-12T09:00:00Z,rep1"],
			"quotes.csv": ["id,deal_id,number,sent_on,valid_until,answered_on,answer,amount,currency", "k1,d1,Q-1,2026-11-10,2026-12-20,,,1200,EUR"],
			"tasks.csv": ["id,deal_id,title,assignee_id,due_on,created_at,done_at,state,flags", "t1,d1,Call them,rep1,2026-11-27,2026-11-20T09:00:00Z,,open,"],
		}),
	);
});
afterAll(() => database.drop());

const now = () => currentOrganisation(connection().db);
const restored = async () => restoreSnapshot(connection().db, await readReferenceData(connection().db));

describe("a snapshot", () => {
	test("gives back what every row would", async () => {
		const { db } = connection();
		const organisation = await now();
		expect(await restored()).toBeNull();
		expect(await saveSnapshot(db, organisation)).toBe(true);
		expect(plain(await restored())).toEqual(plain(await loadOrganisation(db, organisation.revision)));
		expect(await saveSnapshot(db, organisation)).toBe(false);
	});
	test("is written again only where a block differs from what was saved", async () => {
		const { db } = connection();
		const saved = async () => (await db.execute(sql`select block, revision, xmin::text as written from snapshots order by block`)).rows;
		const before = await saved();
		expect(before.map(({ block }) => block)).toEqual([-1, 0]);
		await db.execute(sql`update organisation set commit_goal = 71`);
		await db.transaction((tx) => recordChange(tx, "settings"));
		expect(await saveSnapshot(db, await now())).toBe(true);
		const [head, block] = await saved();
		expect(block).toEqual(before[1]);
		expect(Number(head?.revision)).toBeGreaterThan(Number(before[0]?.revision));
		await db.execute(sql`update deals set competitor = 'Hearthmark' where id = 'd2'`);
		await db.transaction((tx) => recordChange(tx, ["d2"]));
		expect(await saveSnapshot(db, await now())).toBe(true);
		expect((await saved())[1]?.written).not.toBe(block?.written);
		expect((await restored())?.deals.find(({ id }) => id === "d2")?.competitor).toBe("Hearthmark");
	});
	test("has a form of its own: whoever changes what is kept of a deal raises SHAPE with it", async () => {
		const { company, deals } = await now();
		const [facts] = company.deals;
		const keys = (of: object | undefined) => Object.keys(of ?? {}).join(" ");
		expect([
			SHAPE,
			keys(deals[0]),
			keys(facts),
			keys(facts?.activities.columns),
			keys(facts?.answers.columns),
			keys(facts?.tasks[0]),
			keys(facts?.quotes[0]),
		]).toEqual([
			14,
			"id name accountId source competitor outcomeReason tags products families familyWorth createdAt former",
			"id createdDay hasAccountName buyers activities answers tasks quotes rests",
			"at day recorded plannedFor settled by kind direction planned contactOffsets contacts kinds people",
			"at day question level",
			"id assignee team flags createdDay due state doneDay doneAt former",
			"id number sent validUntil answered",
		]);
		for (const column of Object.keys(company.history.blocks[0] ?? {})) if (!["offsets", "texts"].includes(column)) expect(FORM.split(" ")).toContain(column);
	});
	test("isn’t read when it is of another form, or when what deals are read by has changed", async () => {
		const { db } = connection();
		await db.execute(sql`update snapshots set form = 'of old'`);
		expect(await restored()).toBeNull();
		expect(await saveSnapshot(db, await now())).toBe(true);
		await db.execute(sql`update organisation set time_zone = 'America/New_York'`);
		expect(await restored()).toBeNull();
		await db.execute(sql`update organisation set time_zone = 'Europe/Berlin'`);
		expect(await restored()).not.toBeNull();
	});
	test("is made of a large organisation that was read row by row, or has gone far since its snapshot", async () => {
		const organisation = await now();
		const large = { ...organisation, deals: Array.from({ length: 5000 }, () => organisation.deals[0]) } as typeof organisation;
		expect(worthSaving(organisation, null)).toBe(false);
		expect(worthSaving(large, null)).toBe(true);
		expect(worthSaving(large, large)).toBe(false);
		expect(worthSaving({ ...large, revision: large.revision + 2000 }, large)).toBe(true);
	});
});

test("the change log is pruned, and who is further behind reads everything anew", async () => {
	const { db } = connection();
	const before = await now();
	expect(await pruneChangeLog(db)).toBe(0);
	await db.execute(sql`update deals set name = 'Renamed behind the back' where id = 'd1'`);
	await db.execute(sql`update revision set number = number + ${CHANGES_KEPT}::bigint`);
	await db.transaction((tx) => recordChange(tx, []));
	expect(await pruneChangeLog(db)).toBeGreaterThan(0);
	const after = await now();
	expect(after.revision).toBe(before.revision + CHANGES_KEPT + 1);
	expect(after.deals.find((deal) => deal.id === "d1")?.name).toBe("Renamed behind the back");
});
