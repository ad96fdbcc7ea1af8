import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { outbox } from "@/data/schema";
import { previewHandOver } from "@/features/people/server/handOver/preview";
import { HandOverDialog } from "@/features/people/ui/handOver/HandOverDialog";
import { lookForNews } from "@/features/reaching/server/detectHappenings";
import { readMailLog } from "@/features/reaching/server/mailLog";
import { readNews, readWishes } from "@/features/reaching/server/wishes";
import { MailPanel } from "@/features/reaching/ui/MailPanel";
import { News } from "@/features/reaching/ui/News";
import { WishesPanel } from "@/features/reaching/ui/WishesPanel";
import { changeTask } from "@/features/tasks/server/changeTask";
import { changeTasks } from "@/features/tasks/server/changeTasks";
import { readFollowThrough, readTooLate } from "@/features/tasks/server/followThrough";
import { giveEach } from "@/features/tasks/server/giveTasks";
import { readKits } from "@/features/tasks/server/kits";
import { readTasks } from "@/features/tasks/server/readTasks";
import { readTaskDays } from "@/features/tasks/server/taskDays";
import { DaysScreen } from "@/features/tasks/ui/DaysScreen";
import { FollowScreen } from "@/features/tasks/ui/FollowScreen";
import { GiveDialog } from "@/features/tasks/ui/GiveDialog";
import { KitsPanel } from "@/features/tasks/ui/KitsPanel";
import { TaskDialog } from "@/features/tasks/ui/TaskDialog";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";
import { show } from "./stage";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("acting_on_screen");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const type = (element: HTMLElement, value: string) => fireEvent.input(element, { target: { value } });
const pick = (element: HTMLElement, value: string) => fireEvent.change(element, { target: { value } });
const button = (name: string | RegExp) => screen.getByRole("button", { name }) as HTMLButtonElement;
const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };
const all = async () => readTasks(await as("ops"), null, day("2026-11-24"));
const give = async (given: Partial<Parameters<typeof giveEach>[1]["lines"][number]> = {}, who = "north") =>
	(await giveEach(await as(who), { lines: [{ dealId: "d1", title: "Ring them", dueOn: "2026-11-27", ...given }] })).tasks[0]?.id ?? "";

describe("the dialog that gives tasks", () => {
	test("gives each deal its own remedy: one worded by hand, one left out", async () => {
		let closed: boolean | null = null;
		show(
			<GiveDialog
				give={{ dealIds: ["d1", "d2", "d3"] }}
				onClose={(done) => {
					closed = done;
				}}
			/>,
			"boss",
		);
		fireEvent.click(await screen.findByLabelText("Each deal’s own remedy"));
		const [first] = (await screen.findAllByRole("textbox", { name: /^Task for/ })) as HTMLInputElement[];
		expect(first?.value.length).toBeGreaterThan(5);
		type(first as HTMLElement, "Worded by hand");
		fireEvent.click(screen.getByRole("checkbox", { name: "Give it: Mixers" }));
		expect(screen.getByText(/No current employee owns Left behind/)).toBeTruthy();
		fireEvent.click(await screen.findByRole("button", { name: "Give 2 tasks" }));
		await screen.findByText(/^2 tasks given, due 27 Nov/);
		expect(closed).toBe(true);
		expect((await all()).map(({ dealId, title, assigneeId }) => [dealId, title === "Worded by hand", assigneeId]).sort()).toEqual([
			["d1", true, "rep1"],
			["d3", false, "boss"],
		]);
		fireEvent.click(button("Undo"));
		await waitFor(async () => expect(await all()).toEqual([]));
	});
	test("fills fields in, says what it doesn’t know, warns of a day after the close, and gives to a team", async () => {
		show(<GiveDialog give={{ dealIds: ["d1", "d2"], title: "Ask {account}" }} onClose={() => undefined} />, "boss");
		await screen.findByText(/in 3 working days; the period closes 31 Dec/);
		type(screen.getByLabelText("Task text"), "Ask {account} about {weather}");
		await screen.findByText(/isn’t one of them/);
		type(screen.getByLabelText("Due"), "2026-12-12");
		await screen.findByText(/Due after the close date of Mixers/);
		expect(screen.getByText(/12 Dec is no working day/)).toBeTruthy();
		pick(screen.getByLabelText("For"), "team:North");
		fireEvent.click(await screen.findByRole("button", { name: "Give 2 tasks" }));
		await screen.findByText(/^2 tasks given/);
		expect((await all()).map(({ title, team, assignee }) => [title, team, assignee])).toEqual([
			["Ask Millrace Bread about {weather}", "North", "anyone of North"],
			["Ask Oat Inn about {weather}", "North", "anyone of North"],
		]);
	});
	test("says why the deals can’t be looked at, and keeps what was typed", async () => {
		show(<GiveDialog give={{ dealIds: ["d2"], title: "Mine" }} onClose={() => undefined} />, "rep1");
		await screen.findByText(/no deal d2/i, {}, { timeout: 5000 });
		expect((screen.getByLabelText("Task text") as HTMLTextAreaElement).value).toBe("Mine");
		expect(button("Give task").disabled).toBe(true);
	});
});

describe("a task", () => {
	test("shows its list, its history and its flags’ story, and is handed back with a reason only", async () => {
		const id = await give({ checklist: ["Prices", "Plan"], flags: ["no-next-step"], repeat: "FREQ=WEEKLY;INTERVAL=1" });
		await changeTasks(await as("north"), { ids: [id], dueOn: "2026-12-03", why: "They asked" });
		let closed = false;
		const { asked } = show(
			<TaskDialog
				id={id}
				today="2026-11-24"
				onClose={() => {
					closed = true;
				}}
			/>,
			"rep1",
		);
		fireEvent.click(await screen.findByLabelText("Plan"));
		await waitFor(() => expect(asked.some(({ name }) => name === "tasks.change")).toBe(true));
		expect(screen.getByText(/moved 1 time, 4 working days in all/)).toBeTruthy();
		expect(screen.getByText("every week, until the deal closes")).toBeTruthy();
		expect(screen.getByText(/“They asked”/)).toBeTruthy();
		expect(screen.getByText(/^task 24 Nov|lit .*task 24 Nov/)).toBeTruthy();
		fireEvent.click(button("Hand back"));
		expect(button("Hand back task").disabled).toBe(true);
		type(screen.getByLabelText("Reason for handing it back"), "On leave");
		fireEvent.click(await screen.findByRole("button", { name: "Hand back task" }));
		await screen.findByText("Handed back to Nora Thistle.");
		expect(closed).toBe(true);
		expect((await all())[0]).toMatchObject({
			assigneeId: "north",
			checklist: [
				{ words: "Prices", done: false },
				{ words: "Plan", done: true },
			],
		});
	});
	test("of a team is taken by a press, and done by logging what it asks for", async () => {
		const id = await give({ team: "North", asks: "call" }, "boss");
		show(<TaskDialog id={id} today="2026-11-24" onClose={() => undefined} />, "rep1");
		fireEvent.click(await screen.findByRole("button", { name: "Take task" }));
		await screen.findByText("Task taken.");
		fireEvent.click(await screen.findByRole("button", { name: "Log and mark done" }));
		await screen.findByText("Logged, and the task is done.");
		expect((await all())[0]).toMatchObject({ assigneeId: "rep1", state: "done" });
	});
});

test("a week moves tasks by arrows between days and people, and each row says how many there are", async () => {
	await give({}, "boss");
	await give({ dealId: "d2", dueOn: "2026-11-25" }, "boss");
	const context = await as("boss");
	const view = await readTaskDays(context, resolveViewpoint(context, {}), day("2026-11-23"), day("2026-11-29"));
	expect(view.people.map(({ name, load }) => [name, load.reduce((sum, one) => sum + one, 0)])).toEqual([
		["Rae Penn", 1],
		["Sol Quint", 1],
	]);
	const shown = show(<DaysScreen view={view} span="week" title="This week" before="2026-11-16" after="2026-11-30" today="2026-11-24" />, "boss");
	const card = screen.getAllByTitle(/^Ring them, Deck ovens/)[0] as HTMLElement;
	fireEvent.keyDown(card, { key: "ArrowLeft" });
	await screen.findByText("Ring them: 26 Nov.");
	fireEvent.keyDown(card, { key: "ArrowDown" });
	await screen.findByText("Ring them: 27 Nov, Sol Quint.");
	expect((await all()).find(({ dealId }) => dealId === "d1")).toMatchObject({ assigneeId: "rep2" });
	expect(shown.asked.filter(({ name }) => name === "tasks.changeMany")).toHaveLength(2);
});

test("follow-through adds up on screen, and what won’t be done in time is moved there", async () => {
	await give({ flags: ["no-next-step"] });
	const late = await give({ dueOn: "2027-01-04", title: "Too late" });
	const done = await give({ title: "Done" });
	await changeTask(await as("rep1"), { id: done, state: "done" });
	const context = await as("boss");
	const view = readFollowThrough(context, null, Q4, context.now.day);
	show(
		<FollowScreen
			view={view}
			behind={null}
			late={await readTooLate(context, resolveViewpoint(context, { due: "2026-Q4" }), Q4)}
			period="Oct–Dec 2026"
			whose="Everyone’s"
			today="2026-11-24"
			mayChange
			people={[{ id: "north", name: "Nora Thistle" }]}
		/>,
		"boss",
	);
	expect(screen.getByRole("heading", { name: "1 task won’t be done in time" })).toBeTruthy();
	const row = within(screen.getByRole("table", { name: "Tasks by rep" })).getByRole("row", { name: /^Rae Penn/ });
	expect(
		within(row)
			.getAllByRole("cell")
			.map(({ textContent }) => textContent),
	).toEqual(["3", "1", "·", "·", "·", "2", expect.stringMatching(/^\d of 1$/)]);
	fireEvent.click(screen.getByRole("checkbox", { name: /^Select: Too late/ }));
	pick(await screen.findByLabelText("Give them to"), "north");
	fireEvent.click(await screen.findByRole("button", { name: "Hand over" }));
	await screen.findByText("1 task handed over.");
	expect((await all()).find(({ id }) => id === late)?.assigneeId).toBe("north");
});

test("a kit is changed with what was typed, and one without a task can’t be kept", async () => {
	const panel = async () => <KitsPanel kits={await readKits(await as("ops"))} kinds={["call"]} mayChange />;
	const shown = show(await panel(), "ops");
	fireEvent.click(button("Create kit"));
	type(await screen.findByLabelText("Name of the kit"), "Before a visit");
	expect(button("Save").disabled).toBe(true);
	type(screen.getByLabelText("Task 1"), "Ask {account} who comes");
	type(screen.getByLabelText("Working days of task 1"), "7");
	fireEvent.click(await screen.findByRole("button", { name: "Save" }));
	await screen.findByText("Before a visit saved.");
	expect((await readKits(await as("ops"))).map(({ name, steps }) => [name, steps[0]?.days])).toEqual([["Before a visit", 7]]);
	shown.again(await panel());
	expect(screen.getByText("after 7 working days")).toBeTruthy();
	fireEvent.click(button("Delete"));
	await screen.findByText("Before a visit deleted.");
	expect(await readKits(await as("ops"))).toEqual([]);
});

test("who leaves is looked at before anything is handed over", async () => {
	await give();
	show(<HandOverDialog from={{ id: "rep1", name: "Rae Penn" }} zone="Europe/Berlin" onClose={() => undefined} />, "boss");
	await screen.findByText("Ring them");
	expect(screen.getByText("Deck ovens")).toBeTruthy();
	expect(button("Hand over").disabled).toBe(true);
	pick(screen.getByLabelText("Give all deals to"), "north");
	// The task goes with its deal, unless it is said otherwise.
	expect(screen.getByText(/^1 deal of 1; 1 task of 1\./)).toBeTruthy();
	pick(screen.getByLabelText("Ring them goes to"), "");
	expect(screen.getByText(/^1 deal of 1; 0 tasks of 1, 1 stay\./)).toBeTruthy();
	fireEvent.click(await screen.findByRole("button", { name: "Hand over" }));
	await screen.findByText("1 deal and 0 tasks of Rae Penn were handed over.");
	expect((await previewHandOver(await as("boss"), { from: "rep1" })).tasks).toHaveLength(1);
});

test("what reaches somebody is chosen, shown and read", async () => {
	await lookForNews();
	const shown = show(<WishesPanel view={await readWishes(await as("rep1"))} />, "rep1");
	pick(screen.getByRole("combobox", { name: "By mail: I am given a task" }), "never");
	await screen.findByText("Saved.");
	fireEvent.click(screen.getByLabelText("My day, each working day at"));
	await waitFor(async () => expect((await readWishes(await as("rep1"))).daily).toBeNull());
	await give();
	expect(await lookForNews()).toEqual({ told: 1, mails: 0 });
	shown.again(<News {...(await readNews(await as("rep1")))} today="2026-11-24" />);
	expect(screen.getByRole("heading", { name: "News: 1 unread" })).toBeTruthy();
	fireEvent.click(button("Mark all read"));
	await screen.findByText("1 read.");
	expect((await readNews(await as("rep1"))).unread).toBe(0);
});

test("mails that don’t go out say why, and are tried again or cancelled", async () => {
	await lookForNews();
	await give();
	await lookForNews();
	await connection().db.update(outbox).set({ state: "refused", error: "no such mailbox", tries: 1, nextAt: sql`now()` });
	show(<MailPanel view={await readMailLog(await as("ops"))} zone="Europe/Berlin" mailbox={null} />, "ops");
	expect(screen.getByText("no such mailbox")).toBeTruthy();
	expect(screen.getByText(/No mail server is set/)).toBeTruthy();
	fireEvent.click(button("Retry refused mails"));
	await screen.findByText("1 mail tried again within a minute.");
	expect((await readMailLog(await as("ops"))).counts).toEqual({ waiting: 1, sent: 0, refused: 0 });
});
