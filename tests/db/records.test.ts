import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { readRecords } from "@/data/queries/dealRecords";
import { answerQuestion } from "@/features/evidence/server/answerQuestion";
import { addStep, changeStep, removeStep } from "@/features/sheet/server/closePlan";
import { addPerson, removePerson, setRole } from "@/features/sheet/server/dealPeople";
import { answerQuote, sendQuote } from "@/features/sheet/server/dealQuotes";
import { logActivity } from "@/features/sheet/server/logActivity";
import { readSheet } from "@/features/sheet/server/readSheet";
import { writeNote } from "@/features/sheet/server/writeNote";
import { changeTask } from "@/features/tasks/server/changeTask";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import type { Context } from "@/platform/context";
import { recordsOf } from "@/platform/dealRecords";
import { small } from "../kit/bundle";
import { as, freshDatabase, importAs } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("records");
	await importAs(small({ "questions.csv": ["id,area,prompt,help,weight,due_stage_position,key", "q1,Need,What hurts?,,1,1,true"] }));
});
afterAll(() => database.drop());

const kept = async (dealId: string) => {
	const { organisation } = await as("north");
	return recordsOf(organisation, organisation.dealIndex.get(dealId) ?? -1);
};

describe("what is kept of a deal’s records", () => {
	test("is read once while nothing is written", async () => {
		expect(await kept("d1")).toBe(await kept("d1"));
	});
	const made: Record<string, string> = {};
	/** Every kind of write about a deal, one after the other. */
	const WRITES: Record<string, (context: Context) => Promise<unknown>> = {
		"a note": (c) => writeNote(c, { dealId: "d1", body: "They like the oven" }),
		"an activity": (c) => logActivity(c, { dealId: "d1", kind: "call", direction: "both", subject: "Called them" }),
		"an answer": (c) => answerQuestion(c, { dealId: "d1", questionId: "q1", level: "heard", seenAt: null }),
		"a step of the plan": async (c) => (made.step = (await addStep(c, { dealId: "d1", title: "Contract", dueOn: "2026-12-01", side: "ours" })).id),
		"a step that is done": (c) => changeStep(c, { id: made.step ?? "", done: true }),
		"a step taken out": (c) => removeStep(c, { id: made.step ?? "" }),
		"a quote": async (c) => (made.quote = (await sendQuote(c, { dealId: "d1", number: "Q-9", validUntil: "2026-12-20" })).id),
		"a quote’s answer": (c) => answerQuote(c, { id: made.quote ?? "", answer: "yes" }),
		"a new person": async (c) => (made.person = (await addPerson(c, { dealId: "d1", who: { name: "Ada Holm", title: null, role: "champion" } })).id),
		"a person’s role": (c) => setRole(c, { dealId: "d1", contactId: made.person ?? "", role: "decision_maker" }),
		"a task": async (c) => (made.task = (await giveTasks(c, { dealIds: ["d1"], title: "Ask for the plan" })).tasks[0]?.id ?? ""),
		"a task that is done": (c) => changeTask(c, { id: made.task ?? "", state: "done", note: "They sent it" }),
		"a person taken off": (c) => removePerson(c, { dealId: "d1", contactId: made.person ?? "" }),
	};
	for (const [what, write] of Object.entries(WRITES)) {
		test(`is read anew after ${what}, and is what the database holds`, async () => {
			const before = await kept("d1");
			await write(await as("north"));
			const after = await kept("d1");
			expect(after).not.toBe(before);
			expect(after).toEqual(await readRecords("d1", "a1"));
			expect(after).not.toEqual(before);
		});
	}
	test("of the other deals of an account knows a person who is new to it", async () => {
		const others = async () => (await readSheet(await as("north"), "d3", "2026-11-24", "2026-11-16")).others.map((person) => person.name);
		const before = await others();
		await addPerson(await as("north"), { dealId: "d1", who: { name: "Ben Rye", title: "Baker", role: "champion" } });
		expect(await others()).toEqual([...before, "Ben Rye"].sort());
	});
	test("of a deal that nobody touched stays", async () => {
		const before = await kept("d2");
		await writeNote(await as("north"), { dealId: "d1", body: "Again" });
		expect(await kept("d2")).toBe(before);
		expect(connection().pool.totalCount).toBeGreaterThan(0);
	});
});
