import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { savePerson } from "@/features/people/server/managePeople";
import { readDeal } from "@/features/sheet/server/readDeal";
import { changeTask } from "@/features/tasks/server/changeTask";
import { changeTasks, handBack } from "@/features/tasks/server/changeTasks";
import { draftTasks } from "@/features/tasks/server/draftTasks";
import { readFollowThrough, readTooLate } from "@/features/tasks/server/followThrough";
import { giveEach, giveTasks } from "@/features/tasks/server/giveTasks";
import { giveKit, readKits, removeKit, saveKit } from "@/features/tasks/server/kits";
import { readTasks } from "@/features/tasks/server/readTasks";
import { takeTask } from "@/features/tasks/server/takeTask";
import { taskDetail } from "@/features/tasks/server/taskDetail";
import { undoTaskChanges } from "@/features/tasks/server/undoChanges";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf, wordsOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("acting");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const line = (given: Partial<Parameters<typeof giveEach>[1]["lines"][number]> = {}) => ({ dealId: "d1", title: "Call", dueOn: "2026-11-27", ...given });
const one = async (who: string, given: Parameters<typeof line>[0] = {}) => {
	const { tasks } = await giveEach(await as(who), { lines: [line(given)] });
	return tasks[0] as (typeof tasks)[number];
};
const seen = async (who: string, id: string, on?: string) => {
	const context = await as(who);
	return (await readTasks(context, null, on === undefined ? context.now.day : day(on))).find((task) => task.id === id);
};

describe("tasks that were each looked at", () => {
	test("go to whom they are for, with what they ask for; free-standing ones not about a deal", async () => {
		const { tasks } = await giveEach(await as("boss"), {
			lines: [
				line({ title: "Ask {account} about {close date}: {deal}", flags: ["no-next-step"], importance: "high", checklist: ["Slides", "Prices"], asks: "call" }),
				line({ dealId: "d2", assigneeId: "rep1", repeat: "FREQ=WEEKLY;INTERVAL=1", remindOn: "2026-11-26", remindUnlessAnswered: true }),
				line({ dealId: null, title: "Tidy {deal}", assigneeId: "rep2" }),
				line({ dealId: "d1", team: "North" }),
			],
		});
		expect(tasks.map(({ assigneeId, team, title }) => [assigneeId, team, title])).toEqual([
			["rep1", null, expect.not.stringContaining("{")],
			["rep1", null, "Call"],
			["rep2", null, "Tidy {deal}"],
			[null, "North", "Call"],
		]);
		expect(tasks[0]).toMatchObject({
			importance: "high",
			asks: "call",
			checklist: [
				{ words: "Slides", done: false },
				{ words: "Prices", done: false },
			],
		});
		expect(tasks[1]).toMatchObject({ repeat: "FREQ=WEEKLY;INTERVAL=1", remindOn: "2026-11-26", remindUnlessAnswered: true });
	});
	test("are refused whole, in words, where one of them can’t be", async () => {
		const words = (given: Parameters<typeof line>[0]) => wordsOf(async () => giveEach(await as("north"), { lines: [line(), line(given)] }));
		expect(await words({ dueOn: "2026-11-23" })).toContain("today is 2026-11-24");
		expect(await words({ remindOn: "2026-11-30" })).toContain("after the task’s due day");
		expect(await words({ asks: "seance" })).toContain("no activity of the kind seance");
		expect(await words({ dealId: null, asks: "call" })).toContain("an activity to be logged");
		expect(await words({ repeat: "FREQ=SECONDLY" as "FREQ=DAILY;INTERVAL=1" })).toContain("repeat rule");
		expect(await words({ repeat: "FREQ=DAILY;INTERVAL=1;UNTIL=20261399" as "FREQ=DAILY;INTERVAL=1" })).toContain("isn’t a valid day");
		expect((await faultOf(async () => giveEach(await as("north"), { lines: [line({ team: "South" })] }))).status).toBe(404);
		expect((await faultOf(async () => giveEach(await as("rep1"), { lines: [line({ assigneeId: "rep2" })] }))).status).toBe(404);
		expect(await readTasks(await as("ops"), null, (await as("ops")).now.day)).toEqual([]);
	});
	test("are drafted with each deal’s own remedies, within reach", async () => {
		const draft = await draftTasks(await as("boss"), { dealIds: ["d1", "d2"] });
		expect(draft.deals.map(({ id, owner }) => [id, owner.length > 0])).toEqual([
			["d1", true],
			["d2", true],
		]);
		expect(draft.deals.every(({ flags }) => flags.every(({ remedy }) => remedy.length > 5))).toBe(true);
		expect([draft.due, draft.periodCloses, draft.days.slice(0, 4)]).toEqual([
			"2026-11-27",
			"2026-12-31",
			["2026-11-24", "2026-11-25", "2026-11-26", "2026-11-27"],
		]);
		expect((await faultOf(async () => draftTasks(await as("rep1"), { dealIds: ["d2"] }))).status).toBe(404);
	});
});

describe("a task", () => {
	test("is done by logging the activity that it asked for, both or neither", async () => {
		const { id } = await one("north", { asks: "call" });
		const log = { kind: "call", direction: "both" as const, subject: "Rang them" };
		const strange = { ...log, contactIds: ["nobody"] };
		expect((await faultOf(async () => changeTask(await as("rep1"), { id, state: "done", log: strange }))).status).toBe(404);
		expect((await seen("north", id))?.state).toBe("open");
		await changeTask(await as("rep1"), { id, state: "done", log });
		expect((await seen("north", id))?.state).toBe("done");
		expect((await readDeal(await as("rep1"), "d1", undefined)).activities.map(({ subject }) => subject)).toContain("Rang them");
	});
	test("that is moved today was due yesterday when it was due yesterday", async () => {
		const { id } = await one("north", { dueOn: "2026-11-25" });
		const later = await as("rep1", "2026-11-27");
		const moved = await changeTask(later, { id, dueOn: "2026-12-04" });
		expect(moved).toMatchObject({ dueOn: "2026-12-04", moves: { times: 1, workingDays: 7 } });
		expect(await seen("north", id, "2026-11-26")).toMatchObject({ dueOn: "2026-11-25", overdue: true, moves: { times: 0 } });
		expect(await seen("north", id, "2026-11-27")).toMatchObject({ dueOn: "2026-12-04", overdue: false, moves: { times: 1, workingDays: 7 } });
		expect(await undoTaskChanges(later, { changes: [moved.change as number] })).toEqual({ count: 1, left: 0 });
		expect(await seen("north", id, "2026-11-27")).toMatchObject({ dueOn: "2026-11-25", moves: { times: 0, workingDays: 0 } });
	});
	test("is handed back to whoever gave it, with a reason, and can’t be by somebody else", async () => {
		const { id } = await one("north");
		expect(await wordsOf(async () => handBack(await as("rep1"), { id, why: " " }))).toContain("Enter a reason");
		expect(await handBack(await as("rep1"), { id, why: "Not mine" })).toMatchObject({ assigneeId: "north" });
		expect((await faultOf(async () => handBack(await as("rep1"), { id, why: "Again" }))).status).toBe(403);
	});
	test("of a team is taken by one person only, even if two press at once", async () => {
		const { id } = await one("north", { team: "North" });
		const both = await Promise.allSettled([takeTask(await as("rep1"), { id }), takeTask(await as("north"), { id })]);
		expect(both.map(({ status }) => status).sort()).toEqual(["fulfilled", "rejected"]);
		const late = both.find((one): one is PromiseRejectedResult => one.status === "rejected")?.reason;
		expect(late).toMatchObject({ status: 409, detail: expect.stringContaining("took it a moment ago") });
		expect((await faultOf(async () => takeTask(await as("rep2"), { id }))).status).toBe(404);
	});
	test("that is somebody’s own can’t be taken, and doesn’t say by whom it was", async () => {
		const { id } = await one("boss", { assigneeId: "rep1" });
		const fault = await faultOf(async () => takeTask(await as("north"), { id }));
		expect([fault.status, fault.detail]).toEqual([409, "This task was given to a person; only tasks given to a team can be taken."]);
		expect((await taskDetail(await as("north"), { id })).mayTake).toBe(false);
	});
	test("goes to nobody who only reads, nor to a team out of reach, and neither is offered", async () => {
		expect((await faultOf(async () => one("boss", { assigneeId: "view" }))).status).toBe(404);
		const { id } = await one("boss");
		expect((await faultOf(async () => changeTasks(await as("boss"), { ids: [id], assigneeId: "view" }))).status).toBe(404);
		for (const who of ["boss", "north", "rep1"]) {
			const { people, teams } = await draftTasks(await as(who), { dealIds: [] });
			expect(people.map((person) => person.id)).not.toContain("view");
			expect(teams.length).toBeGreaterThan(0);
			for (const team of ["Firm", "North", "South"]) {
				const given = one(who, { dealId: null, team }).then(
					() => true,
					() => false,
				);
				expect([who, team, await given]).toEqual([who, team, teams.includes(team)]);
			}
			for (const person of people) expect(await one(who, { dealId: null, assigneeId: person.id })).toMatchObject({ assigneeId: person.id });
		}
	});
	test("that repeats is given anew when it is done, as long as its deal is open; undoing takes the next one away", async () => {
		const { id } = await one("north", { repeat: "FREQ=WEEKLY;INTERVAL=2;BYDAY=FR", checklist: ["Ask"] });
		await changeTask(await as("rep1"), { id, checklist: [{ words: "Ask", done: true }] });
		const done = await changeTask(await as("rep1"), { id, state: "done" });
		const next = async () => (await readTasks(await as("ops"), null, day("2026-11-24"))).filter(({ state }) => state === "open");
		expect(await next()).toMatchObject([{ dueOn: "2026-12-11", title: "Call", checklist: [{ words: "Ask", done: false }] }]);
		await undoTaskChanges(await as("rep1"), { changes: [done.change as number] });
		expect((await next()).map((task) => task.id)).toEqual([id]);
		expect((await seen("ops", id))?.checklist).toEqual([{ words: "Ask", done: true }]);
	});
});

describe("several tasks at once", () => {
	test("are moved, handed over and dropped all or none, and all of it is undone", async () => {
		const ids = [await one("boss"), await one("boss", { dealId: "d2" })].map(({ id }) => id);
		const moved = await changeTasks(await as("boss"), { ids, later: 2 });
		expect([(await seen("boss", ids[0] ?? ""))?.dueOn, moved.count]).toEqual(["2026-12-01", 2]);
		const given = await changeTasks(await as("boss"), { ids, assigneeId: "north", why: "Holiday" });
		expect((await seen("boss", ids[1] ?? ""))?.assigneeId).toBe("north");
		const dropped = await changeTasks(await as("boss"), { ids, drop: true });
		expect(await wordsOf(async () => changeTasks(await as("boss"), { ids, later: 1 }))).toContain("was marked dropped by now");
		for (const { changes } of [dropped, given, moved]) expect(await undoTaskChanges(await as("boss"), { changes })).toEqual({ count: 2, left: 0 });
		expect(await seen("boss", ids[1] ?? "")).toMatchObject({ dueOn: "2026-11-27", assigneeId: "rep2", state: "open", moves: { times: 0 } });
		expect((await faultOf(async () => changeTasks(await as("north"), { ids, later: 1 }))).status).toBe(404);
		expect((await faultOf(async () => changeTasks(await as("rep1"), { ids: [ids[0] ?? ""], assigneeId: "rep2" }))).status).toBe(404);
	});
	test("what somebody else has changed since isn’t undone, and is counted", async () => {
		const { id } = await one("north");
		const { changes } = await changeTasks(await as("north"), { ids: [id], later: 1 });
		await changeTask(await as("rep1"), { id, dueOn: "2026-12-10" });
		expect(await undoTaskChanges(await as("north"), { changes })).toEqual({ count: 0, left: 1 });
		expect((await seen("north", id))?.dueOn).toBe("2026-12-10");
	});
});

describe("an undo", () => {
	test("reaches no task that has cleared of one’s sight since", async () => {
		const { id } = await one("boss", { dealId: null, assigneeId: "rep1" });
		const { changes } = await changeTasks(await as("north"), { ids: [id], later: 1 });
		const { name, email, role } = (await as("rep1")).actor.person;
		await savePerson(await as("ops"), { id: "rep1", name, email, role, team: "South", activeFrom: null, activeTo: null });
		expect(await undoTaskChanges(await as("north"), { changes })).toEqual({ count: 0, left: 1 });
		expect((await seen("boss", id))?.dueOn).toBe("2026-11-30");
	});
});

describe("follow-through", () => {
	const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };
	test("says whose tasks were done in time and whether flags cleared, on any day", async () => {
		const { id } = await one("boss", { dealId: "d2", flags: ["no-next-step"] });
		const boss = await as("boss");
		expect(readFollowThrough(boss, null, Q4, boss.now.day)).toMatchObject({
			set: 1,
			open: 1,
			outcomes: { out: 1 },
			people: [{ id: "rep2", set: 1 }],
			flags: [{ code: "no-next-step", out: 1 }],
		});
		await changeTask(await as("rep2", "2026-11-30"), { id, state: "done" });
		const later = await as("boss", "2026-12-01");
		expect(readFollowThrough(later, null, Q4, later.now.day)).toMatchObject({ set: 1, late: 1, open: 0 });
		expect(readFollowThrough(later, null, Q4, day("2026-11-28"))).toMatchObject({ set: 1, overdue: 1, late: 0 });
		expect(readFollowThrough(later, new Set([(await as("rep1")).actor.index]), Q4, later.now.day).set).toBe(0);
	});
	test("lists first what won’t be done in time", async () => {
		await giveTasks(await as("boss"), { dealIds: ["d1", "d2"], title: "Late", dueOn: "2027-01-04" });
		const late = await one("boss", { dueOn: "2026-11-24" });
		const context = await as("boss", "2026-11-26");
		const lists = await readTooLate(context, resolveViewpoint(context, { due: "2026-Q4" }), Q4);
		expect(lists.find(({ why }) => why === "overdue")?.rows.map(({ id }) => id)).toEqual([late.id]);
		expect(lists.reduce((sum, { count }) => sum + count, 0)).toBe(3);
	});
});

describe("kits", () => {
	const step = { title: "Ask {account}", days: 2, importance: "high" as const };
	test("are given whole, each task so many working days on; a change holds for what is given afterwards", async () => {
		const { id, version } = await saveKit(await as("ops"), { id: null, name: "Rescue", steps: [step, { title: "Meet whoever signs", days: 5 }] });
		const { tasks } = await giveKit(await as("boss"), { id, dealIds: ["d1", "d2"] });
		expect(tasks.map(({ dealId, title, dueOn, importance }) => [dealId, title, dueOn, importance])).toEqual([
			["d1", "Ask Millrace Bread", "2026-11-26", "high"],
			["d1", "Meet whoever signs", "2026-12-01", "usual"],
			["d2", "Ask Oat Inn", "2026-11-26", "high"],
			["d2", "Meet whoever signs", "2026-12-01", "usual"],
		]);
		await saveKit(await as("ops"), { id, version, name: "Rescue", steps: [step] });
		expect((await readTasks(await as("ops"), null, day("2026-11-24"))).length).toBe(4);
		expect((await readKits(await as("rep1"))).find((kit) => kit.id === id)?.steps).toHaveLength(1);
		expect(await wordsOf(async () => saveKit(await as("ops"), { id, version, name: "Rescue", steps: [step] }))).toContain("Someone changed this kit");
		expect(await wordsOf(async () => saveKit(await as("ops"), { id: null, name: "Rescue", steps: [step] }))).toContain("There is a kit called Rescue");
		expect((await faultOf(async () => saveKit(await as("boss"), { id: null, name: "Mine", steps: [step] }))).status).toBe(403);
		await removeKit(await as("ops"), { id });
		expect((await faultOf(async () => giveKit(await as("boss"), { id, dealIds: ["d1"] }))).status).toBe(404);
	});
});
