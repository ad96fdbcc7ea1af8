import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { apiKeys, feeds, roundPlans, targets, webhooks } from "@/data/schema";
import { renewFeed } from "@/features/calendars/server/calendars";
import { editDeals } from "@/features/deals/server/editDeals";
import { previewHandOver } from "@/features/people/server/handOver/preview";
import { undoHandOver } from "@/features/people/server/handOver/undo";
import { handOver } from "@/features/people/server/handOver/write";
import { createKey } from "@/features/people/server/keys";
import { readPeople } from "@/features/people/server/readPeople";
import { saveTargets } from "@/features/period/server/targets";
import { savePlan } from "@/features/rounds/server/plans";
import { readDeal } from "@/features/sheet/server/readDeal";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { readTasks } from "@/features/tasks/server/readTasks";
import { makeHook } from "@/features/webhooks/server/hooks";
import type { Context } from "@/platform/context";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf, wordsOf } from "../kit/fault";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("hand_over");
});
beforeEach(() => refill(inspected()));
afterAll(() => database.drop());

const owner = async (id: string, on?: string) => (await readDeal(await as("ops"), id, on)).ownerId;
const assignees = async () => (await readTasks(await as("ops"), null, day("2026-11-24"))).map(({ title, assigneeId }) => [title, assigneeId]).sort();
const stored = async () =>
	(await connection().db.select().from(targets)).map(({ personId, periodStart, periodEnd, amount }) => [personId, periodStart, periodEnd, amount]).sort();
const plansNow = async () => (await connection().db.select().from(roundPlans)).map(({ name, byId }) => [name, byId]).sort();
const lastDay = async (id: string) => {
	const view = readPeople(await as("ops"));
	return [...view.teams.flatMap(({ people }) => people), ...view.without].find((person) => person.id === id)?.until;
};
/** rep1's quarter: 92 days, so that a part of it is a round number. */
const quarter = { personId: "rep1", start: "2026-10-01", end: "2026-12-31", family: "", amount: 9_200_000, currency: "EUR" };
const plan = (name: string, whose: string) => ({ id: null, name, whose, weekday: 1 });

describe("somebody leaves", () => {
	test("in one step: deals, tasks, rounds, targets, last day; their past stays theirs; it is undone whole", async () => {
		await giveTasks(await as("north"), { dealIds: ["d1"], title: "Ring them" });
		await saveTargets(await as("boss"), { cells: [quarter] });
		await savePlan(await as("north"), plan("Rae alone", "person:rep1"));
		const preview = await previewHandOver(await as("ops"), { from: "rep1" });
		expect([preview.deals.map(({ id }) => id), preview.tasks.map(({ title }) => title), preview.plans.map(({ name, over }) => [name, over])]).toEqual([
			["d1"],
			["Ring them"],
			[["Rae alone", true]],
		]);
		expect(preview.targets.map(({ amount }) => amount)).toEqual([9_200_000]);
		const before = [await assignees(), await stored(), await plansNow(), await lastDay("rep1"), await owner("d1")];

		const [task, over] = [preview.tasks[0]?.id ?? "", preview.plans[0]?.id ?? ""];
		const done = await handOver(await as("ops"), {
			from: "rep1",
			lastDay: "2026-11-30",
			deals: [{ id: "d1", to: "rep2" }],
			tasks: [{ id: task, to: "north" }],
			plans: [{ id: over, to: null }],
			targets: { from: "2026-12-01", to: "rep2" },
		});
		expect([await owner("d1"), await owner("d1", "2026-11-23")]).toEqual(["rep2", "rep1"]);
		expect(await assignees()).toEqual([["Ring them", "north"]]);
		expect(await plansNow()).toEqual([]);
		expect(await stored()).toEqual([
			["rep1", "2026-10-01", "2026-11-30", 6_100_000],
			["rep2", "2026-12-01", "2026-12-31", 3_100_000],
		]);
		expect(await lastDay("rep1")).toBe("2026-11-30");
		expect((await previewHandOver(await as("ops"), { from: "rep1" })).last?.id).toBe(done.id);

		expect((await faultOf(async () => undoHandOver(await as("boss"), { id: done.id }))).status).toBe(404);
		await undoHandOver(await as("ops"), { id: done.id });
		expect([await assignees(), await stored(), await plansNow(), await lastDay("rep1"), await owner("d1")]).toEqual(before);
		expect((await faultOf(async () => undoHandOver(await as("ops"), { id: done.id }))).status).toBe(409);
	});

	test("and their ways in end at once where that is said, or where the last day has passed; undoing opens keys and calendar again", async () => {
		await createKey(await as("north"), { name: "Sheet", write: false, areas: [], days: 30 });
		await renewFeed(await as("north"), {});
		await makeHook(await as("ops"), { url: "https://hooks.firm.example/in", events: ["round.ended"] });
		expect((await previewHandOver(await as("ops"), { from: "north" })).ways).toMatchObject({ keys: 1, calendars: 1 });
		const open = async () => {
			const { db } = connection();
			return [
				(await db.select().from(apiKeys)).filter(({ revokedAt }) => revokedAt === null).length,
				(await db.select().from(feeds)).length,
				(await db.select().from(webhooks)).filter(({ on }) => on).length,
			];
		};
		const was = await open();
		const { id } = await handOver(await as("ops"), { from: "north", lastDay: "2026-11-20" });
		expect((await open()).slice(0, 2)).toEqual([0, 0]);
		await undoHandOver(await as("ops"), { id });
		expect(await open()).toEqual(was);
	});
});

describe("it is refused whole", () => {
	const give = async (who: string, more: Partial<Parameters<typeof handOver>[1]>) => handOver(await as(who), { from: "rep1", ...more });
	test("for who may not: a rep, somebody above others only, a manager who would set the last day", async () => {
		expect((await faultOf(() => give("rep1", { deals: [{ id: "d1", to: "north" }] }))).status).toBe(403);
		expect((await faultOf(async () => handOver(await as("north"), { from: "rep2" }))).status).toBe(404);
		expect((await faultOf(() => give("boss", { lastDay: "2026-11-30" }))).status).toBe(403);
		expect((await faultOf(() => give("boss", { endWays: true }))).status).toBe(403);
	});
	test("where somebody is no taker, or something isn’t theirs", async () => {
		expect(await wordsOf(() => give("boss", { deals: [{ id: "d1", to: "gone" }] }))).toContain("with the company on");
		expect(await wordsOf(() => give("boss", { deals: [{ id: "d1", to: "rep1" }] }))).toContain("someone else");
		expect(await wordsOf(() => give("ops", { deals: [{ id: "d1", to: "view" }] }))).toContain("go to reps and managers");
		expect((await faultOf(() => give("boss", { deals: [{ id: "d2", to: "north" }] }))).status).toBe(409);
		expect((await faultOf(() => give("boss", { tasks: [{ id: "none", to: "north" }] }))).status).toBe(409);
		expect((await faultOf(() => give("boss", { plans: [{ id: "none", to: null }] }))).status).toBe(409);
		expect(await owner("d1")).toBe("rep1");
	});
	test("and an undo, by who may no longer do it", async () => {
		const { id } = await give("boss", { deals: [{ id: "d1", to: "north" }], targets: null });
		const { id: ended } = await handOver(await as("ops"), { from: "rep2", lastDay: "2026-12-31" });
		const boss = await as("boss");
		const demoted: Context = { ...boss, actor: { ...boss.actor, person: { ...boss.actor.person, role: "viewer" } } };
		expect((await faultOf(async () => undoHandOver(demoted, { id }))).status).toBe(403);
		const ops = await as("ops");
		const manager: Context = { ...ops, actor: { ...ops.actor, person: { ...ops.actor.person, role: "manager", team: "Firm" } } };
		expect((await faultOf(async () => undoHandOver(manager, { id: ended }))).status).toBe(403);
		await undoHandOver(boss, { id });
		expect(await owner("d1")).toBe("rep1");
	});
	test("and an undo, where a deal or a target was changed since", async () => {
		await saveTargets(await as("boss"), { cells: [quarter] });
		const first = await give("boss", { deals: [{ id: "d1", to: "north" }], targets: { from: "2026-12-01", to: null } });
		const { versionId } = await readDeal(await as("boss"), "d1", undefined);
		await editDeals(await as("boss"), { targets: [{ id: "d1", versionId }], change: { nextStep: "Call them" } });
		expect((await faultOf(async () => undoHandOver(await as("boss"), { id: first.id }))).status).toBe(409);
		expect([await owner("d1"), await stored()]).toEqual(["north", [["rep1", "2026-10-01", "2026-11-30", 6_100_000]]]);
		const second = await handOver(await as("boss"), { from: "north", deals: [{ id: "d1", to: "rep2" }], targets: null });
		await undoHandOver(await as("boss"), { id: second.id });
		expect(await owner("d1")).toBe("north");
	});
});
