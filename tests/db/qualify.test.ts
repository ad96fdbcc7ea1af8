import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { answerQuestion } from "@/features/evidence/server/answerQuestion";
import { readEvidence } from "@/features/evidence/server/readEvidence";
import { storedBundle } from "@/features/import/server/exportBundle";
import { readQuestions, saveQuestions, undoQuestions } from "@/features/setup/server/questionSettings";
import { readDeal } from "@/features/sheet/server/readDeal";
import { readSheet } from "@/features/sheet/server/readSheet";
import { resolveViewpoint } from "@/platform/viewpoint";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { allDeals } from "../kit/deals";
import { faultOf, wordsOf } from "../kit/fault";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("qualify");
});
beforeEach(() => refill(inspected()));
afterAll(() => database.drop());

const HEARD = "2026-11-12T09:00:00.000Z";
const sheet = async (day = "2026-11-24", person = "north") => readSheet(await as(person), "d1", day, "2026-11-09");
const answer = async (level: "unknown" | "against" | "assumed" | "heard" | "shown", more: object = {}, person = "rep1", id = "d1") =>
	answerQuestion(await as(person), { dealId: id, questionId: "q1", level, seenAt: HEARD, ...more });

describe("answering a question", () => {
	test("adds to what was said before: who, what, when and what shows it", async () => {
		await answer("shown", { note: "In writing", shownBy: "activity:x1" });
		const question = (await sheet()).qualification.questions[0];
		expect(question).toMatchObject({ level: "shown", note: "In writing", age: 0, gap: false });
		expect(question?.history.map((h) => [h.level, h.by, h.shownBy])).toEqual([
			["shown", "Rae Penn", "email: Asks for a price"],
			["heard", "Rae Penn", null],
		]);
		expect((await sheet("2026-11-23")).qualification.questions[0]).toMatchObject({ level: "heard", age: 7 });
	});
	test("says beforehand what each answer would make of strength and coverage, and keeps its word", async () => {
		const effects = (await sheet()).qualification.questions[0]?.effects ?? [];
		expect(effects.map((e) => [e.level, e.strength, e.coverage])).toEqual([
			["unknown", 0, 0],
			["against", 0, 25],
			["assumed", 8, 25],
			["heard", 17, 25],
			["shown", 25, 25],
		]);
		await answer("against");
		expect((await sheet()).qualification).toMatchObject({ strength: 0, coverage: 25 });
	});
	test("shown needs what shows it: an activity or contact of the deal, or a link", async () => {
		expect((await faultOf(() => answer("shown"))).detail).toContain("Name the source");
		for (const shownBy of ["activity:x4", "contact:c3", "activity:", "javascript:alert(1)", "nonsense"]) {
			expect((await faultOf(() => answer("shown", { shownBy }))).status).toBe(422);
		}
		await answer("shown", { shownBy: "contact:c1" });
		expect((await sheet()).qualification.questions[0]?.history[0]).toMatchObject({ shownBy: "Ada Holm", link: null });
		const { at } = await answer("shown", { shownBy: "https://files.example/offer", anyway: true });
		expect((await sheet()).qualification.questions[0]).toMatchObject({ at, history: [{ link: "https://files.example/offer" }, {}, {}] });
	});
	test("two at once: the second is told who said what, and chooses", async () => {
		const both = await Promise.allSettled([answer("assumed", { note: "Hm" }, "rep1"), answer("against", {}, "north")]);
		const lost = both.find((result) => result.status === "rejected") as PromiseRejectedResult;
		expect(both.filter((result) => result.status === "fulfilled")).toHaveLength(1);
		expect(lost.reason).toMatchObject({ status: 409, title: "Answered by someone else" });
		await answer("heard", { anyway: true }, "north");
		const history = (await sheet()).qualification.questions[0]?.history ?? [];
		expect(history).toHaveLength(3);
		expect(history[0]).toMatchObject({ level: "heard", by: "Nora Thistle" });
	});
	test("isn’t for those who don’t reach the deal, nor for a question nobody asks", async () => {
		expect((await faultOf(() => answer("heard", {}, "rep2"))).status).toBe(404);
		expect((await faultOf(() => answer("heard", {}, "view"))).status).toBe(403);
		expect((await faultOf(() => answer("heard", { questionId: "q9" }))).status).toBe(404);
		expect(await wordsOf(() => answer("heard", { note: "x".repeat(2001) }))).toContain("2000 letters");
	});
});

describe("changing the questions", () => {
	// biome-ignore lint/suspicious/noExplicitAny: tests change what was read in every way
	const current = async (): Promise<any[]> => [...readQuestions(await as("ops")).questions];
	test("makes a new edition from today on, and leaves the scores of earlier days as they were", async () => {
		const before = allDeals(await as("ops"), { as_of: "2026-11-23" }).map((d) => d.qualification);
		const now = await current();
		await saveQuestions(await as("ops"), {
			questions: [
				{ ...now[0], weight: 9 },
				{ id: null, area: "Way", prompt: "Which steps?", help: null, weight: 1, due: 1, key: false },
			],
		});
		expect(allDeals(await as("ops"), { as_of: "2026-11-23" }).map((d) => d.qualification)).toEqual(before);
		expect((await readDeal(await as("ops"), "d1", undefined)).qualification).toMatchObject({ strength: 60, coverage: 90 });
		const questions = (await sheet()).qualification.questions;
		expect(questions.map((q) => q.prompt)).toEqual(["What hurts?", "Which steps?"]);
		expect((await sheet("2026-11-23")).qualification.questions.map((q) => q.prompt)).toEqual(["What hurts?", "Who signs?"]);
		expect((await readQuestions(await as("ops"))).editions).toEqual(["2026-11-24", null]);
	});
	test("is undone as another edition; what was taken out is asked again with its answers", async () => {
		const now = await current();
		const { change } = await saveQuestions(await as("ops"), { questions: [now[1]] });
		expect((await sheet()).qualification.coverage).toBe(0);
		await undoQuestions(await as("ops"), { change });
		expect((await current()).map((q) => q.id)).toEqual(["q1", "q2"]);
		expect((await sheet()).qualification).toMatchObject({ strength: 17, coverage: 25 });
		expect((await faultOf(async () => undoQuestions(await as("ops"), { change }))).status).toBe(409);
	});
	test("an import that changes a question makes an edition too", async () => {
		await importAs(
			inspected({ "questions.csv": ["id,area,prompt,help,weight,due_stage_position,key", "q1,Need,What hurts?,,1,1,true", "q2,People,Who signs?,,1,2,true"] }),
		);
		expect((await sheet()).qualification.coverage).toBe(50);
		expect((await sheet("2026-11-23")).qualification.coverage).toBe(25);
	});
	test("editions go out with the bundle and come back the same", async () => {
		await saveQuestions(await as("ops"), { questions: [{ ...(await current())[0], weight: 2 }] });
		const first = await storedBundle();
		expect(first.has("question_editions.csv")).toBe(true);
		const report = await importAs(first);
		expect([report.state, Object.values(report.changed).some((n) => n > 0)]).toEqual(["done", false]);
		expect([...(await storedBundle())].map(([name, bytes]) => [name, Buffer.from(bytes).toString()])).toEqual(
			[...first].map(([name, bytes]) => [name, Buffer.from(bytes).toString()]),
		);
	});
	test("a weight of zero, one above a million, a stage that isn’t there and a question twice are refused", async () => {
		const [q] = await current();
		const save = async (change: object) => saveQuestions(await as("ops"), { questions: [{ ...q, ...change }] });
		expect(await wordsOf(() => save({ weight: 0 }))).toContain("above zero");
		expect(await wordsOf(() => save({ weight: 1_000_001 }))).toContain("at most a million");
		expect(await wordsOf(() => save({ weight: Number.NaN }))).toContain("must be a number");
		expect(await wordsOf(() => save({ due: 4 }))).toContain("there are 3 open stages");
		expect(await wordsOf(() => save({ prompt: " " }))).toContain("can’t be empty");
		expect(await wordsOf(async () => saveQuestions(await as("ops"), { questions: [q, q] }))).toContain("twice");
		await save({ weight: 1_000_000 });
		expect((await current())[0]?.weight).toBe(1_000_000);
	});
});

describe("deals by questions", () => {
	test("the question that is a gap most often stands first, the deal known worst first", async () => {
		const north = await as("north");
		const view = readEvidence(north, resolveViewpoint(north, { due: "any" }));
		expect(view.questions.map((q) => [q.id, q.asked, q.due, q.gaps])).toEqual([
			["q2", 0, 2, 2],
			["q1", 1, 2, 1],
		]);
		expect(view.deals.map((d) => d.id)).toEqual(["d3", "d1"]);
		expect(view.deals[1]?.cells.map((c) => [c.level, c.gap])).toEqual([
			["unknown", true],
			["heard", false],
		]);
	});
});
