import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { connect, connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { loadOrganisation } from "@/data/organisation/load";
import { recordChange } from "@/data/store/changeLog";
import { readDeal } from "@/features/sheet/server/readDeal";
import { changeTask } from "@/features/tasks/server/changeTask";
import { giveTasks, takeBackTasks } from "@/features/tasks/server/giveTasks";
import { countDue, listTasks, readOwnTasks, readTasks } from "@/features/tasks/server/readTasks";
import { resolveViewpoint } from "@/platform/viewpoint";
import { more, small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { allDeals } from "../kit/deals";
import { plain } from "../kit/plain";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("tasks");
	await importAs(small());
});
afterAll(() => database.drop());

const flagsOf = async (person: string, deal: string) => (await readDeal(await as(person), deal, undefined)).flags.map((f) => f.code);

describe("tasks for several deals", () => {
	test("go each to the owner of its deal, due in three working days, and where the owner has left to the giver", async () => {
		const done = await giveTasks(await as("boss"), { dealIds: ["d1", "d2", "d3", "d1"], title: "  Agree a date  ", flags: ["no-next-step"] });
		expect(done.tasks.map((t) => [t.dealId, t.assigneeId, t.dueOn, t.title, t.state])).toEqual([
			["d1", "rep1", "2026-11-27", "Agree a date", "open"],
			["d2", "rep2", "2026-11-27", "Agree a date", "open"],
			["d3", "boss", "2026-11-27", "Agree a date", "open"],
		]);
		expect(done.kept).toEqual(["d3"]);
		await takeBackTasks(await as("boss"), { ids: done.tasks.map((t) => t.id) });
	});
	test("put out the flag they are to clear as soon as they are given, and light it again when deleted", async () => {
		expect(await flagsOf("rep2", "d2")).toContain("no-next-step");
		const { tasks } = await giveTasks(await as("boss"), { dealIds: ["d2"], title: "Set a step", flags: ["no-next-step"] });
		expect(await flagsOf("rep2", "d2")).not.toContain("no-next-step");
		expect(await takeBackTasks(await as("boss"), { ids: tasks.map((t) => t.id) })).toEqual({ count: 1 });
		expect(await flagsOf("rep2", "d2")).toContain("no-next-step");
	});
	test("are all given or none", async () => {
		const before = await readTasks(await as("ops"), null, (await as("ops")).now.day);
		await expect(giveTasks(await as("boss"), { dealIds: ["d1", "d9"], title: "Call" })).rejects.toMatchObject({ status: 404 });
		await expect(giveTasks(await as("boss"), { dealIds: ["d1"], title: "Call", dueOn: "2026-11-23" })).rejects.toMatchObject({ status: 422 });
		await expect(giveTasks(await as("boss"), { dealIds: ["d1"], title: "   " })).rejects.toThrow();
		await expect(giveTasks(await as("boss"), { dealIds: ["d1"], title: "Call", flags: ["nonsense"] })).rejects.toThrow();
		expect(await readTasks(await as("ops"), null, (await as("ops")).now.day)).toEqual(before);
	});
	test("say when they are due after the close", async () => {
		const done = await giveTasks(await as("boss"), { dealIds: ["d2"], title: "Call", dueOn: "2026-12-11" });
		expect(done.afterClose).toEqual(["d2"]);
		await takeBackTasks(await as("boss"), { ids: done.tasks.map((t) => t.id) });
	});
});

describe("a task", () => {
	test("is done by its rep with a note, and the manager sees it", async () => {
		const { tasks } = await giveTasks(await as("north"), { dealIds: ["d1"], title: "Ask who signs" });
		const id = tasks[0]?.id as string;
		expect((await readOwnTasks(await as("rep1"), (await as("rep1")).now.day)).own.map((t) => t.id)).toContain(id);
		expect(await changeTask(await as("rep1"), { id, state: "done", note: "The owner herself" })).toMatchObject({ state: "done", note: "The owner herself" });
		const seen = await readTasks(await as("north"), new Set([(await as("rep1")).actor.index]), (await as("north")).now.day);
		expect(seen.find((t) => t.id === id)).toMatchObject({ state: "done", note: "The owner herself", doneOn: "2026-11-24" });
		await expect(changeTask(await as("north"), { id, state: "dropped" })).rejects.toMatchObject({ status: 409 });
		expect(await changeTask(await as("rep1"), { id, state: "open", note: null })).toMatchObject({ state: "open", doneAt: null, note: null });
	});
	test("can’t be deleted once it is done", async () => {
		const { tasks } = await giveTasks(await as("north"), { dealIds: ["d1"], title: "Call" });
		const id = tasks[0]?.id as string;
		await changeTask(await as("rep1"), { id, state: "done" });
		expect(await takeBackTasks(await as("north"), { ids: [id] })).toEqual({ count: 0 });
	});
	test("keeps the day it was given out of the past", async () => {
		const context = await as("boss");
		expect(await readTasks(context, null, context.now.day - 1)).toEqual([]);
	});
});

describe("what is kept in memory", () => {
	test("follows another process’s write at the next question", async () => {
		const other = connect(database.url, 1);
		const before = await currentOrganisation(connection().db);
		await other.db.transaction(async (tx) => {
			await tx.execute(
				sql`insert into activities (id, deal_id, kind, direction, state, at) values ('w1', 'd2', 'email', 'in', 'done', '2026-11-19T09:00:00Z')`,
			);
			await recordChange(tx, ["d2"]);
		});
		await other.close();
		const after = await currentOrganisation(connection().db);
		expect(after.revision).toBe(before.revision + 1);
		expect(after.company.history).toBe(before.company.history);
		expect(await flagsOf("rep2", "d2")).toContain("reply-owed");
	});
	test("a mark that another process keeps is taken in without reading the deals again", async () => {
		const other = connect(database.url, 1);
		const before = await currentOrganisation(connection().db);
		await other.db.transaction(async (tx) => {
			await tx.execute(sql`insert into marks (at, name, by_id) values ('2026-11-20T09:00:00Z', 'Late round', 'boss')`);
			await recordChange(tx, "marks");
		});
		await other.close();
		const after = await currentOrganisation(connection().db);
		expect(after.marks.map((mark) => mark.name)).toContain("Late round");
		expect(before.marks.map((mark) => mark.name)).not.toContain("Late round");
		// The company is the very same, and so is all that was computed of it.
		expect(after.company).toBe(before.company);
		expect(after.marks).toEqual((await loadOrganisation(connection().db, after.revision)).marks);
	});
	test("is the same after following as after reading everything anew", async () => {
		const followed = await currentOrganisation(connection().db);
		const anew = await loadOrganisation(connection().db, followed.revision);
		expect(plain(followed.company.deals)).toEqual(plain(anew.company.deals));
		expect(followed.deals).toEqual(anew.deals);
	});
	test("takes in new versions and new deals", async () => {
		await importAs(
			small({
				...more("deals.csv", "d0,a2,Earlier id,Web,2026-11-20T09:00:00Z,,,"),
				...more("deal_versions.csv", "d0,2026-11-20T09:00:00Z,Enquiry,5,EUR,,rep2,,,", "d2,2026-11-23T09:00:00Z,Terms,600,EUR,2026-12-10,rep2,commit,,"),
			}),
		);
		const deals = allDeals(await as("rep2"), {});
		expect(deals.map((d) => [d.id, d.stage, d.amount])).toEqual(
			expect.arrayContaining([
				["d0", "Enquiry", 500],
				["d2", "Terms", 60_000],
			]),
		);
		const then = allDeals(await as("rep2"), { as_of: "2026-11-22" });
		expect(then.find((d) => d.id === "d2")).toMatchObject({ stage: "Enquiry", amount: 50_000 });
	});
});

describe("a task not about a deal", () => {
	const list = async (asked: { deal?: string; state?: "open" | "done" } = {}) =>
		(await listTasks(await as("rep1"), new Set([(await as("rep1")).actor.index]), { ...asked, limit: 50 })).items.map((task) => [task.id, task.state]);
	test("is its assignee’s, no deal’s, and seen at once when it changes", async () => {
		await connection().db.execute(
			sql`insert into tasks (id, title, assignee_id, due_on, created_at, state, flags) values ('loose', 'Tidy the van', 'rep1', '2026-11-25', '2026-11-20T09:00:00Z', 'open', '{}')`,
		);
		await connection().db.transaction((tx) => recordChange(tx, "settings"));
		expect(await list()).toContainEqual(["loose", "open"]);
		expect(await list({ deal: "d1" })).not.toContainEqual(["loose", "open"]);
		expect(await list({ deal: "no such deal" })).toEqual([]);
		const context = await as("rep1");
		const dueOn = (who: typeof context, iso: string) =>
			countDue(who, { ...resolveViewpoint(who, {}), seen: { ...resolveViewpoint(who, {}).seen, day: day(iso) } });
		expect(dueOn(context, "2026-11-25") - dueOn(context, "2026-11-24")).toBe(1);
		await changeTask(context, { id: "loose", state: "done" });
		const after = await as("rep1");
		expect(await list({ state: "done" })).toContainEqual(["loose", "done"]);
		expect(dueOn(after, "2026-11-25")).toBe(dueOn(context, "2026-11-25") - 1);
	});
	test("stands among the others in pages that add up", async () => {
		const context = await as("rep1");
		const scope = new Set([context.actor.index]);
		const whole = (await listTasks(context, scope, { limit: 50 })).items.map((task) => task.id);
		const paged: string[] = [];
		for (let cursor: string | undefined, first = true; first || cursor; first = false) {
			const { items, next } = await listTasks(context, scope, { limit: 1, cursor });
			paged.push(...items.map((task) => task.id));
			cursor = next ?? undefined;
		}
		expect(whole.length).toBeGreaterThan(1);
		expect(paged).toEqual(whole);
	});
});
