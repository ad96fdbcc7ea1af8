import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { comeBack } from "@/features/tasks/server/comeBack";
import { tasksFile } from "@/features/tasks/server/files";
import { readFollowedTasks, readTooLate } from "@/features/tasks/server/followThrough";
import { giveEach } from "@/features/tasks/server/giveTasks";
import { saveKit } from "@/features/tasks/server/kits";
import { countDue, countLate, lateTasks, listTasks, readOwnTasks } from "@/features/tasks/server/readTasks";
import { takeTask } from "@/features/tasks/server/takeTask";
import { readTaskDays } from "@/features/tasks/server/taskDays";
import { taskDetail } from "@/features/tasks/server/taskDetail";
import type { TaskGrouping, TaskView } from "@/features/tasks/server/taskGroups";
import { readTaskPage, readTaskView, type TaskLook } from "@/features/tasks/server/taskPage";
import { resolveViewpoint } from "@/platform/viewpoint";
import { more, small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";

// What lists of tasks tell, told again by hand from the lines of the file. Today is Tuesday, 24 November.
let database: Awaited<ReturnType<typeof freshDatabase>>;
const told = small({
	...more("deals.csv", "d4,a2,Lost one,Web,2026-03-02T09:00:00Z,,,", "d5,a2,Lost too,Web,2026-03-02T09:00:00Z,,,"),
	...more(
		"deal_versions.csv",
		"d4,2026-03-02T09:00:00Z,Enquiry,900,EUR,2026-05-01,rep2,,,",
		"d4,2026-05-04T09:00:00Z,Lost,900,EUR,2026-05-04,rep2,,,",
		"d5,2026-03-02T09:00:00Z,Lost,900,EUR,2026-05-01,gone,,,",
	),
	"contacts.csv": ["id,account_id,name,title,email,buying_role,reports_to_id", "c1,a1,Ada Holm,,,,", "c2,a1,Ben Rye,,,,"],
	"deal_contacts.csv": ["deal_id,contact_id", "d1,c2", "d1,c1"],
	"tasks.csv": [
		"id,deal_id,title,assignee_id,due_on,created_at,done_at,state,flags,created_by_id,importance,team",
		"t1,d1,Ask for the date,rep1,2026-11-20,2026-11-12T09:00:00Z,,open,overdue|no-next-step,boss,high,",
		"t2,d1,Send prices,rep1,2026-11-24,2026-11-12T09:00:00Z,,open,,boss,usual,",
		"t3,d2,Ring 100%_them,rep2,2026-11-25,2026-11-12T09:00:00Z,,open,no-next-step,north,usual,",
		"t4,d2,See the hall,rep2,2026-12-01,2026-11-13T09:00:00Z,,open,no-next-step,boss,usual,",
		"t5,d3,Write them,rep1,2026-12-20,2026-11-12T09:00:00Z,,open,,boss,low,",
		"t6,,Tidy up,rep1,,2026-11-12T09:00:00Z,,open,,rep1,usual,",
		"t7,d1,Anyone may,,2026-11-27,2026-11-12T09:00:00Z,,open,,boss,usual,North",
		"t8,d1,Done first,rep1,2026-11-16,2026-11-09T09:00:00Z,2026-11-16T09:00:00Z,done,no-next-step,boss,usual,",
		"t9,d2,Done late,rep2,2026-11-16,2026-11-09T09:00:00Z,2026-11-19T09:00:00Z,done,,boss,usual,",
		"t10,d1,Given up,rep1,2026-11-18,2026-11-09T09:00:00Z,2026-11-17T09:00:00Z,dropped,,boss,usual,",
	],
});
beforeAll(async () => {
	database = await freshDatabase("tasks_told");
	await refill(told);
});
afterAll(() => database.drop());

const SEEN = day("2026-11-24");
const boss = () => as("boss");
const look = async (asked: Partial<TaskLook> = {}, who = "boss", seen = SEEN) => {
	const context = await as(who);
	const view = await readTaskView(context, resolveViewpoint(context, {}).whose.scope, seen, { view: "open", limit: 100, ...asked });
	return { ...view, ids: view.rows.map(({ id }) => id) };
};
const groups = async (by: TaskGrouping, view: TaskView = "open") =>
	(await look({ by, view })).groups.map(({ label, count, first }) => [label, count, first] as const);

describe("a list of tasks", () => {
	test("is grouped by when they are due", async () => {
		expect(await groups("due")).toEqual([
			["overdue", 1, 0],
			["today", 1, 1],
			["the next working day", 1, 2],
			["within a week", 2, 3],
			["later", 1, 5],
			["no day", 1, 6],
		]);
		expect((await look()).ids).toEqual(["t1", "t2", "t3", "t7", "t4", "t5", "t6"]);
	});
	test("by whose they are, by deal and by the first flag they are to clear", async () => {
		expect(await groups("rep")).toEqual([
			["anyone of North", 1, 0],
			["Rae Penn", 4, 1],
			["Sol Quint", 2, 5],
		]);
		expect(await groups("deal")).toEqual([
			["Deck ovens, Millrace Bread", 3, 0],
			["Left behind, Millrace Bread", 1, 3],
			["Mixers, Oat Inn", 2, 4],
			["No deal", 1, 6],
		]);
		expect(await groups("flag")).toEqual([
			["overdue", 1, 0],
			["no next step", 2, 1],
			["no flag", 4, 3],
		]);
	});
	test("of what is settled puts the last done first, under one heading", async () => {
		expect(await groups("due", "done")).toEqual([["done", 2, 0]]);
		expect((await look({ view: "done" })).ids).toEqual(["t9", "t8"]);
		expect(await groups("due", "dropped")).toEqual([["dropped", 1, 0]]);
		expect((await look({ view: "late" })).ids).toEqual(["t1"]);
	});
	test("is cut after group upon group, and counts what it leaves away", async () => {
		for (let limit = 0; limit <= 8; limit++) {
			const part = await look({ limit });
			expect(part.ids).toEqual(["t1", "t2", "t3", "t7", "t4", "t5", "t6"].slice(0, limit));
			expect([part.found, part.groups.length]).toEqual([7, 6]);
		}
	});
	test("says how many there are in each view, and whose they are and what they are to clear", async () => {
		const { counts, people, flags } = await look({ view: "done" });
		expect(counts).toEqual({ open: 7, late: 1, done: 2, dropped: 1 });
		expect(people).toEqual([
			{ id: "rep1", name: "Rae Penn" },
			{ id: "rep2", name: "Sol Quint" },
		]);
		expect(flags).toEqual([
			{ code: "overdue", name: "overdue" },
			{ code: "no-next-step", name: "no next step" },
		]);
		expect((await look({}, "rep2")).counts).toEqual({ open: 2, late: 0, done: 1, dropped: 0 });
	});
	test.each<[string, Partial<TaskLook>, string[]]>([
		["a person", { who: "rep2" }, ["t3", "t4"]],
		["a person who isn’t there", { who: "nobody" }, []],
		["anyone of a team", { who: "anyone" }, ["t7"]],
		["a flag", { flag: "no-next-step" }, ["t1", "t3", "t4"]],
		["an importance", { importance: "low" }, ["t5"]],
		["a word of the title, in any case", { text: "ASK" }, ["t1"]],
		["what stands for anything elsewhere, as it is", { text: "0%_t" }, ["t3"]],
		["one of these alone", { text: "%" }, ["t3"]],
		["a word of the deal", { text: "mixers" }, ["t3", "t4"]],
		["a word of the account", { text: "oat" }, ["t3", "t4"]],
		["an importance and a word of a deal: of the title alone", { importance: "usual", text: "mixers" }, []],
		["several at once", { who: "rep1", flag: "overdue", importance: "high", text: "date" }, ["t1"]],
		["several of which one doesn’t fit", { who: "rep2", flag: "overdue" }, []],
	])("is narrowed to %s", async (_, asked, ids) => {
		const found = await look(asked);
		expect([found.ids, found.found]).toEqual([ids, ids.length]);
		// What there is in all stays as it is.
		expect(found.counts.open).toBe(7);
	});
	test("goes over in two parts, the second packed", async () => {
		const context = await boss();
		const page = await readTaskPage(context, null, SEEN, { view: "open", limit: 3 });
		expect([page.rows.map(({ id }) => id), page.found]).toEqual([["t1", "t2", "t3"], 7]);
	});
	test("was another before: what was given since isn’t there, what was done since was open", async () => {
		const then = await look({}, "boss", day("2026-11-12"));
		expect([...then.ids].sort()).toEqual(["t1", "t10", "t2", "t3", "t5", "t6", "t7", "t8", "t9"]);
	});
	test("is the same as a file, with all that is known of each", async () => {
		const context = await boss();
		const file = await tasksFile.read(context, resolveViewpoint(context, {}), () => undefined);
		expect(file.columns.map(({ label }) => label)).toEqual([
			"Task",
			"For",
			"Due",
			"State",
			"Deal number",
			"Deal",
			"Account",
			"Amount EUR",
			"Close date",
			"Given by",
			"Given on",
			"Done on",
			"Note",
			"Flags",
		]);
		expect(file.columns.map(({ kind }) => kind)).toEqual("text text day text text text text amount day text day day text text".split(" "));
		expect(file.rows[0]).toEqual([
			"Ask for the date",
			"Rae Penn",
			"2026-11-20",
			"open",
			"d1",
			"Deck ovens",
			"Millrace Bread",
			120_000,
			"2026-12-18",
			"Bo Sable",
			"2026-11-12",
			null,
			null,
			"overdue no-next-step",
		]);
		expect(file.rows).toHaveLength(7);
		const done = await tasksFile.read(context, resolveViewpoint(context, {}), (name) => (name === "state" ? "done" : undefined));
		expect(done.rows.map(([title, , , state]) => [title, state])).toEqual([
			["Done late", "done"],
			["Done first", "done"],
		]);
	});
});

describe("tasks by days", () => {
	const days = async (first: string, last: string, who = "boss") => {
		const context = await as(who);
		return readTaskDays(context, resolveViewpoint(context, {}), day(first), day(last));
	};
	test("hold those due within them, the first due first, and count the open ones from before", async () => {
		const view = await days("2026-11-23", "2026-11-29");
		expect(view.rows.map(({ id }) => id)).toEqual(["t2", "t3", "t7"]);
		expect([view.before, view.more]).toEqual([1, 0]);
		expect(view.days.map(({ working, today }) => [working, today])).toEqual([
			[true, false],
			[true, true],
			[true, false],
			[true, false],
			[true, false],
			[false, false],
			[false, false],
		]);
		expect((await days("2026-11-16", "2026-11-20")).rows.map(({ id }) => id)).toEqual(["t8", "t9", "t1"]);
	});
	test("count each person’s open ones, reps with none too, those of a team last", async () => {
		const { people } = await days("2026-11-23", "2026-11-27");
		expect(people).toEqual([
			{ id: "rep1", name: "Rae Penn", load: [0, 1, 0, 0, 0] },
			{ id: "rep2", name: "Sol Quint", load: [0, 0, 1, 0, 0] },
			{ id: null, name: "anyone of a team", load: [0, 0, 0, 0, 1] },
		]);
		expect((await days("2026-11-16", "2026-11-16")).people.map(({ name, load }) => [name, load])).toEqual([
			["Rae Penn", [0]],
			["Sol Quint", [0]],
		]);
		expect((await days("2026-11-23", "2026-11-27", "north")).people.map(({ id }) => id)).toEqual(["rep1", null]);
	});
});

describe("counts and lists for one’s desk", () => {
	test("own tasks, those one may take, and those one has asked of others", async () => {
		const desk = async (who: string) => {
			const { own, toTake, asked } = await readOwnTasks(await as(who), SEEN);
			return [own, toTake, asked].map((rows) => rows.map(({ id }) => id));
		};
		expect(await desk("rep1")).toEqual([["t10", "t8", "t1", "t2", "t5", "t6"].sort(byDue), ["t7"], []]);
		expect(await desk("rep2")).toEqual([["t9", "t3", "t4"], [], []]);
		expect(await desk("north")).toEqual([[], ["t7"], []]);
		expect((await desk("boss"))[2]?.toSorted()).toEqual(["t1", "t2", "t4", "t5", "t7"]);
	});
	test("how many are late, and due", async () => {
		const counts = async (who: string) => {
			const context = await as(who);
			const viewpoint = resolveViewpoint(context, {});
			return [countLate(context, viewpoint), countDue(context, viewpoint)];
		};
		expect(await counts("boss")).toEqual([1, 0]);
		expect(await counts("rep1")).toEqual([1, 3]);
		expect(await counts("rep2")).toEqual([0, 0]);
		const context = await boss();
		const { personIndex, dealIndex } = context.organisation;
		expect(lateTasks(context, null, SEEN)).toEqual([{ assignee: personIndex.get("rep1"), deal: dealIndex.get("d1") }]);
	});
	test("a list for the API: of a state, of a deal, page by page", async () => {
		const list = async (asked: Omit<Parameters<typeof listTasks>[2], "limit">, limit = 100) => {
			const { items, next } = await listTasks(await boss(), null, { ...asked, limit });
			return [items.map(({ id }) => id), next];
		};
		expect(await list({ state: "done" })).toEqual([["t9", "t8"], null]);
		expect(await list({ state: "open", deal: "d2" })).toEqual([["t3", "t4"], null]);
		expect(await list({ deal: "d1" })).toEqual([["t1", "t2", "t7", "t10", "t8"], null]);
		expect(await list({ deal: "gone" })).toEqual([[], null]);
		const [first, cursor] = await list({ state: "open" }, 2);
		expect(first).toEqual(["t1", "t2"]);
		expect((await list({ state: "open", cursor: cursor as string }, 2))[0]).toEqual(["t3", "t7"]);
	});
});
const ORDER = ["t8", "t10", "t1", "t2", "t5", "t6"];
const byDue = (a: string, b: string) => ORDER.indexOf(a) - ORDER.indexOf(b);

describe("tasks behind figures", () => {
	const quarter = { start: day("2026-10-01"), end: day("2026-12-31") };
	test("are those of what became of them, of whom, and of which flag", async () => {
		const context = await boss();
		const behind = async (asked: Record<string, string>) => {
			const found = await readFollowedTasks(context, null, quarter, SEEN, asked);
			return found && [found.rows.map(({ id }) => id), found.count, found.who, found.flags];
		};
		expect(await behind({ became: "onTime" })).toEqual([["t8"], 1, null, null]);
		expect(await behind({ became: "late" })).toEqual([["t9"], 1, null, null]);
		expect(await behind({ became: "dropped" })).toEqual([["t10"], 1, null, null]);
		expect(await behind({ became: "overdue" })).toEqual([["t1"], 1, null, null]);
		expect(await behind({ became: "open", of: "rep2" })).toEqual([["t3", "t4"], 2, "Sol Quint", null]);
		expect(await behind({ became: "set", of: "rep2" })).toEqual([["t9", "t3", "t4"], 3, "Sol Quint", null]);
		expect(await behind({ flag: "overdue" })).toEqual([["t1"], 1, null, 1]);
		expect((await behind({ flag: "no-next-step", became: "open" }))?.slice(0, 2)).toEqual([["t3", "t4"], 2]);
	});
	test("won’t be done in time: why, and which", async () => {
		const context = await boss();
		const late = await readTooLate(context, resolveViewpoint(context, {}), quarter);
		expect(late.map(({ why, rows, count }) => [why, rows.map(({ id }) => id), count])).toEqual([
			["overdue", ["t1"], 1],
			["after the close", ["t5"], 1],
			["after the period", [], 0],
		]);
	});
});

describe("one task", () => {
	beforeEach(() => refill(told));

	test("has its people, its flags’ stories, and what one may do with it", async () => {
		const detail = async (who: string, id: string) => taskDetail(await as(who), { id });
		const told = await detail("rep1", "t1");
		expect(told.row).toMatchObject({ id: "t1", deal: "Deck ovens", assignee: "Rae Penn" });
		expect(told.contacts).toEqual([
			{ id: "c1", name: "Ada Holm" },
			{ id: "c2", name: "Ben Rye" },
		]);
		expect(told.stories.map(({ code, name }) => [code, name])).toEqual([
			["overdue", "overdue"],
			["no-next-step", "no next step"],
		]);
		expect(told.stories[0]?.words).toBe("task 12 Nov, flag wasn’t on, so there was nothing to clear");
		expect([told.own, told.mayTake, told.mayChange, told.history]).toEqual([true, false, true, []]);
		expect(await detail("boss", "t7")).toMatchObject({ own: false, mayTake: true, mayChange: true, stories: [] });
		expect(await detail("rep1", "t6")).toMatchObject({ contacts: [], stories: [] });
		expect(await faultOf(() => detail("rep2", "t1"))).toMatchObject({ status: 404 });
		expect(await faultOf(() => detail("boss", "t99"))).toMatchObject({ status: 404 });
	});
	test("of a team is taken once; who comes second is told who was first", async () => {
		expect(await takeTask(await as("rep1"), { id: "t7" })).toMatchObject({ assigneeId: "rep1" });
		expect((await taskDetail(await boss(), { id: "t7" })).history).toMatchObject([{ what: "taken", by: "Rae Penn", label: "taken to Rae Penn", why: null }]);
		expect(await faultOf(async () => takeTask(await as("rep1"), { id: "t7" }))).toMatchObject({
			status: 409,
			title: "Already taken",
			detail: "You already have it.",
		});
		expect(await faultOf(async () => takeTask(await as("boss"), { id: "t7" }))).toMatchObject({ status: 409, detail: "Rae Penn took it a moment ago." });
		expect(await faultOf(async () => takeTask(await as("rep1"), { id: "t2" }))).toMatchObject({ status: 409, title: "Not a team’s task" });
	});
	test("of coming back to a lost deal goes to its owner, or to who gives it where the owner has left", async () => {
		const back = async (dealId: string, on = "2027-01-11") => comeBack(await boss(), { dealId, day: on, title: "Ask again" });
		expect(await back("d4")).toMatchObject({ assignee: "Sol Quint" });
		expect(await back("d5")).toMatchObject({ assignee: "Bo Sable" });
		const { items } = await listTasks(await boss(), null, { deal: "d4", limit: 10 });
		expect(items).toMatchObject([{ title: "Ask again", dueOn: "2027-01-11", state: "open", flags: [], givenBy: "Bo Sable" }]);
		expect(await faultOf(() => back("d1"))).toMatchObject({ status: 409, detail: "Deck ovens is open; only lost deals can be followed up." });
		expect(await faultOf(() => back("d4", "2026-11-24"))).toMatchObject({ status: 422, title: "The day has passed", detail: "Choose a day after 2026-11-24." });
	});
	test("goes to the deal’s owner where nobody is named", async () => {
		const { tasks } = await giveEach(await boss(), { lines: [{ dealId: "d2", title: "Call", dueOn: "2026-11-27" }] });
		expect(tasks[0]).toMatchObject({ assigneeId: "rep2" });
	});
	test("of a kit asks for an activity that there is", async () => {
		const step = { title: "Meet", days: 1, importance: "usual" as const, asks: "séance", flags: [], checklist: [] };
		const fault = await faultOf(async () => saveKit(await as("ops"), { id: null, version: 0, name: "First weeks", about: "", steps: [step] } as never));
		expect(fault).toMatchObject({ status: 422, detail: "There is no activity of the kind séance." });
	});
});
