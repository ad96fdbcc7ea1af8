import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { editDeals } from "@/features/deals/server/editDeals";
import { undoEdit } from "@/features/deals/server/undoEdit";
import { answerQuestion } from "@/features/evidence/server/answerQuestion";
import { handOver } from "@/features/people/server/handOver/write";
import { addStep, changeStep, removeStep } from "@/features/sheet/server/closePlan";
import { addPerson, removePerson, setRole } from "@/features/sheet/server/dealPeople";
import { answerQuote, sendQuote } from "@/features/sheet/server/dealQuotes";
import { logActivity, settleActivity } from "@/features/sheet/server/logActivity";
import { readDeal } from "@/features/sheet/server/readDeal";
import { readSheet } from "@/features/sheet/server/readSheet";
import { writeNote } from "@/features/sheet/server/writeNote";
import { changeTask } from "@/features/tasks/server/changeTask";
import { changeTasks } from "@/features/tasks/server/changeTasks";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { inspected } from "../kit/inspection";
import { everythingSaid } from "../kit/said";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("yesterday");
});
const TASKS = {
	"tasks.csv": [
		"id,deal_id,title,assignee_id,due_on,created_at,done_at,state,flags",
		"t1,d1,Ask again,rep1,2026-11-20,2026-11-16T09:00:00Z,,open,no-next-step",
		"t2,d2,Set a date,rep2,2026-11-27,2026-11-16T09:00:00Z,2026-11-20T09:00:00Z,done,stalled",
	],
};
beforeEach(() => refill(inspected(TASKS)));
afterAll(() => database.drop());

const YESTERDAY = "2026-11-23";
const BEFORE = "2026-11-09";

/** Everything that is said of yesterday, by query. */
const saidOfYesterday = async () => everythingSaid(await as("boss"), { seen: YESTERDAY, against: BEFORE, deal: "d1" });

const version = async (id = "d1") => (await readDeal(await as("boss"), id, undefined)).versionId;
const edit = async (change: Parameters<typeof editDeals>[1]["change"]) =>
	editDeals(await as("boss"), { targets: [{ id: "d1", versionId: await version() }], change });

/** Writes of today, each of which once changed what was said of days before or well could. */
const WRITES: Record<string, () => Promise<unknown>> = {
	"an amount and an owner": () => edit({ amount: 999_900, ownerId: "rep2" }),
	"a push": () => edit({ closeDate: "2027-03-31", reason: "Board meets later" }),
	"a loss, with its reason and competitor": () => edit({ stage: "Lost", outcomeReason: "Price", competitor: "Hearthmark" }),
	"a loss that is deleted": async () => {
		await edit({ stage: "Lost", outcomeReason: "Price", competitor: "Hearthmark" });
		await undoEdit(await as("boss"), { targets: [{ id: "d1", versionId: await version() }] });
	},
	"a talk today, and one that was last week": async () => {
		await logActivity(await as("north"), { dealId: "d1", kind: "call", direction: "both", subject: "Today" });
		await logActivity(await as("north"), { dealId: "d1", kind: "call", direction: "both", subject: "Last week", day: "2026-11-17" });
	},
	"a meeting that is planned, and one that took place": async () => {
		const { id } = await logActivity(await as("north"), { dealId: "d1", kind: "meeting", direction: "both", subject: "Soon", day: "2026-11-26" });
		await settleActivity(await as("north"), { id, what: "done" });
	},
	"an answer, a note and a task": async () => {
		await answerQuestion(await as("north"), { dealId: "d1", questionId: "q1", level: "against", note: "No", shownBy: null, seenAt: null, anyway: true });
		await writeNote(await as("north"), { dealId: "d1", body: "Ask again" });
		const { tasks } = await giveTasks(await as("north"), { dealIds: ["d1"], title: "Call" });
		await changeTask(await as("rep1"), { id: tasks[0]?.id ?? "", state: "done", note: "Called" });
	},
	"a task that is moved, handed over and dropped, one that is opened again": async () => {
		await changeTasks(await as("boss"), { ids: ["t1"], dueOn: "2026-12-04" });
		await changeTasks(await as("boss"), { ids: ["t1"], assigneeId: "north" });
		await changeTasks(await as("boss"), { ids: ["t1"], drop: true, why: "No use" });
		await changeTask(await as("boss"), { id: "t2", state: "open" });
	},
	"somebody’s deals and tasks that are handed over": async () =>
		handOver(await as("boss"), { from: "rep1", deals: [{ id: "d1", to: "north" }], tasks: [{ id: "t1", to: "north" }] }),
	"somebody who signs": async () => {
		const { id } = await addPerson(await as("north"), { dealId: "d1", who: { name: "Sig Natory", title: null, role: "decision_maker" } });
		await setRole(await as("north"), { dealId: "d1", contactId: id, role: "user" });
		await removePerson(await as("north"), { dealId: "d1", contactId: id });
	},
	"a quote and its answer": async () => {
		const { id } = await sendQuote(await as("north"), { dealId: "d1", number: "Q-9", validUntil: "2026-12-24" });
		await answerQuote(await as("north"), { id, answer: "yes" });
	},
	"the close plan": async () => {
		const { id } = await addStep(await as("north"), { dealId: "d1", title: "Board says yes", dueOn: "2026-11-20", side: "theirs" });
		await changeStep(await as("north"), { id, done: true });
		await removeStep(await as("north"), { id });
	},
};

describe("what is said of yesterday stays what it was, whatever is written today:", () => {
	for (const [name, write] of Object.entries(WRITES)) {
		test(name, async () => {
			const before = await saidOfYesterday();
			await write();
			const after = await saidOfYesterday();
			for (const query of Object.keys(before)) expect([query, after[query]]).toEqual([query, before[query]]);
		});
	}
});

test("today all of it is known", async () => {
	for (const write of [WRITES["somebody who signs"], WRITES["a talk today, and one that was last week"]]) await write?.();
	const sheet = await readSheet(await as("north"), "d1", "2026-11-24", YESTERDAY);
	expect(sheet.happenings.filter((item) => item.kind === "contact").map((item) => item.day)).toEqual(expect.arrayContaining(["2026-11-24", "2026-11-17"]));
	const { id } = await addPerson(await as("north"), { dealId: "d1", who: { name: "Sig Natory", title: null, role: "decision_maker" } });
	expect((await readSheet(await as("north"), "d1", "2026-11-24", YESTERDAY)).people.map((person) => person.id)).toContain(id);
});

describe("someone whose deal was handed over", () => {
	test("sees past days as they were, and nothing that came after, on screen and by the API", async () => {
		await edit({ ownerId: "rep2", reason: "Handed over" });
		await logActivity(await as("boss"), { dealId: "d1", kind: "call", direction: "both", subject: "Secret talk", day: "2026-11-16" });
		await writeNote(await as("boss"), { dealId: "d1", body: "Secret note" });
		expect((await faultOf(async () => readSheet(await as("rep1"), "d1", "2026-11-24", YESTERDAY))).status).toBe(404);
		expect((await faultOf(async () => readDeal(await as("rep1"), "d1", undefined))).status).toBe(404);
		const seen = [await readSheet(await as("rep1"), "d1", YESTERDAY, BEFORE), await readDeal(await as("rep1"), "d1", YESTERDAY)];
		expect(JSON.stringify(seen)).not.toMatch(/Secret|Handed over/);
	});
	test("and whoever has it now sees its past too", async () => {
		await edit({ ownerId: "rep2", reason: "Handed over" });
		expect((await readSheet(await as("rep2"), "d1", YESTERDAY, BEFORE)).name).toBeTruthy();
		expect((await readDeal(await as("rep2"), "d1", YESTERDAY)).ownerId).toBe("rep1");
	});
});
