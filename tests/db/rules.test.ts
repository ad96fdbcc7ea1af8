import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { previewFlags, readFlagSettings, saveFlags, undoFlags } from "@/features/setup/server/flagSettings";
import { readHabits, saveHabits } from "@/features/setup/server/habitSettings";
import { readAudit } from "@/features/setup/server/readAudit";
import { readStages, saveStages } from "@/features/setup/server/stageSettings";
import { readDeal } from "@/features/sheet/server/readDeal";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf, wordsOf } from "../kit/fault";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("rules");
});
beforeEach(() => refill(inspected()));
afterAll(() => database.drop());

const codes = async (id = "d1", day?: string) => (await readDeal(await as("ops"), id, day)).flags.map((flag) => flag.code);

describe("flag settings", () => {
	test("say first what they would do, name by name, and write nothing", async () => {
		expect(await codes()).toContain("reply-owed");
		const effect = await previewFlags(await as("ops"), { flags: { "reply-owed": { days: 5 } } });
		expect(effect.flags).toEqual([{ code: "reply-owed", name: "reply owed", before: 1, after: 0, out: [{ id: "d1", name: "Deck ovens" }], lights: [] }]);
		expect(effect.after.calm).toBeGreaterThanOrEqual(effect.before.calm);
		expect(await codes()).toContain("reply-owed");
	});
	test("what was said is what happens, at once and for the past; and one undo brings it back", async () => {
		const wish = { "reply-owed": { days: 5 }, stalled: { days: 3 } };
		const effect = await previewFlags(await as("ops"), { flags: wish });
		const { change } = await saveFlags(await as("ops"), { flags: wish });
		const after = await readFlagSettings(await as("ops"));
		for (const flag of effect.flags) expect(after.rules.find((rule) => rule.code === flag.code)?.lit).toBe(flag.after);
		expect(await codes("d1", "2026-11-23")).not.toContain("reply-owed");
		await undoFlags(await as("ops"), { change });
		expect(await codes()).toContain("reply-owed");
		expect((await faultOf(async () => undoFlags(await as("ops"), { change }))).status).toBe(409);
	});
	test("of attention say how many deals each level would hold, and then hold; an undo brings both back", async () => {
		const levels = async () => (await readFlagSettings(await as("ops"))).attention.levels;
		const before = await levels();
		const wish = { flags: { stalled: { days: 3 } }, attention: { act: 12, watch: 5, weight2: 0.9 } };
		const effect = await previewFlags(await as("ops"), wish);
		expect(effect.before).toEqual(before);
		expect(effect.after.act).toBeGreaterThan(before.act);
		expect(await levels()).toEqual(before);
		const { change } = await saveFlags(await as("ops"), wish);
		expect(await levels()).toEqual(effect.after);
		const score = async () => (await readDeal(await as("ops"), "d1", "2026-11-24")).attention.score;
		const high = await score();
		await undoFlags(await as("ops"), { change });
		expect(await levels()).toEqual(before);
		expect(await score()).toBeLessThan(high);
		// Without a wish of their own they stay as they are.
		await saveFlags(await as("ops"), { flags: {}, attention: { act: 70 } });
		await saveFlags(await as("ops"), { flags: { stalled: { days: 9 } } });
		expect((await readFlagSettings(await as("ops"))).attention.set).toEqual({ act: 70 });
		const save = (attention: Record<string, number>) => wordsOf(async () => saveFlags(await as("ops"), { flags: {}, attention }));
		expect(await save({ act: 20 })).toContain("watch begins at or below act");
		expect(await save({ weight3: 1.2 })).toContain("at most 1");
	});
	test("can differ in a stage, and be off there", async () => {
		await saveFlags(await as("ops"), { flags: { "reply-owed": { stages: { Survey: { on: false } } } } });
		expect(await codes()).not.toContain("reply-owed");
		await saveFlags(await as("ops"), { flags: { "reply-owed": { days: 90, stages: { Survey: { days: 4 } } } } });
		expect(await codes()).toContain("reply-owed");
	});
	test("are kept without what only repeats the standard, and out of bounds they are refused in words", async () => {
		await saveFlags(await as("ops"), { flags: { stalled: { days: null }, slipped: {}, overdue: { stages: { Survey: {} } } } });
		expect((await readFlagSettings(await as("ops"))).set).toEqual({});
		const save = (flags: unknown) => wordsOf(async () => saveFlags(await as("ops"), { flags }));
		expect(await save({ stalled: { days: 0 } })).toContain("at least 1 working days");
		expect(await save({ "amount-cut": { percent: 101 } })).toContain("at most 100 per cent");
		expect(await save({ "aging-stage": { percentile: 60 } })).toContain("one of 25, 50, 75, 90");
		expect(await save({ stalled: { days: "many" } })).toContain("must be a number");
		expect(await save({ "reply-owed": { stages: { Limbo: { on: false } } } })).toContain("no stage is called Limbo");
		expect(await save({ unheard: { on: false } })).toContain("unheard");
		expect((await readFlagSettings(await as("ops"))).set).toEqual({});
	});
	test("stand in the audit with who and when", async () => {
		await saveFlags(await as("ops"), { flags: { stalled: { days: 20 } } });
		expect((await readAudit(await as("ops"), { limit: 1 })).entries[0]).toMatchObject({ who: "Oda Pell", action: "flag settings changed" });
		expect((await readFlagSettings(await as("rep1"))).changed?.by).toBe("Oda Pell");
	});
});

describe("stages", () => {
	// biome-ignore lint/suspicious/noExplicitAny: tests change what was read in every way
	const now = async (): Promise<any[]> => (await readStages(await as("ops"))).map(({ used: _, open: __, ...stage }) => stage);
	test("a renamed stage keeps its deals, its past and its settings", async () => {
		await saveFlags(await as("ops"), { flags: { "reply-owed": { stages: { Survey: { on: false } } } } });
		const before = await readDeal(await as("ops"), "d1", "2026-11-20");
		await saveStages(await as("ops"), { stages: (await now()).map((stage) => (stage.was === "Survey" ? { ...stage, name: "Visit on site" } : stage)) });
		const after = await readDeal(await as("ops"), "d1", "2026-11-20");
		expect(after).toEqual({
			...before,
			stage: "Visit on site",
			versions: before.versions.map((v) => (v.stage === "Survey" ? { ...v, stage: "Visit on site" } : v)),
		});
		expect(Object.keys((await readFlagSettings(await as("ops"))).set["reply-owed"]?.stages ?? {})).toEqual(["Visit on site"]);
	});
	test("two may swap their names and places at once", async () => {
		const [a, b, ...rest] = await now();
		await saveStages(await as("ops"), { stages: [{ ...b, name: "Enquiry" }, { ...a, name: "Survey" }, ...rest] });
		expect((await readStages(await as("ops"))).map((s) => s.name)).toEqual(["Enquiry", "Survey", "Terms", "Won", "Lost"]);
		expect((await readDeal(await as("ops"), "d1", undefined)).stage).toBe("Enquiry");
	});
	test("stages in another order keep every visit; steps are counted the new way", async () => {
		const [a, b, ...rest] = await now();
		const before = await readDeal(await as("ops"), "d1", undefined);
		await saveStages(await as("ops"), { stages: [b, a, ...rest] });
		const after = await readDeal(await as("ops"), "d1", undefined);
		expect([after.stageAge, after.cycles, after.stage]).toEqual([before.stageAge, before.cycles, before.stage]);
		expect(await codes()).toContain("stepped-back");
	});
	test("one that deals stood in can’t be removed, an empty one can, and one a question needs can’t", async () => {
		const list = await now();
		expect((await faultOf(async () => saveStages(await as("ops"), { stages: list.filter((stage) => stage.name !== "Enquiry") }))).detail).toContain(
			"Enquiry can’t be removed",
		);
		const more = [...list.slice(0, 3), { was: null, name: "Signature", kind: "open", probability: 0.9, usualDays: 3 }, ...list.slice(3)];
		await saveStages(await as("ops"), { stages: more as never });
		const { saveQuestions, readQuestions } = await import("@/features/setup/server/questionSettings");
		const [q] = readQuestions(await as("ops")).questions;
		await saveQuestions(await as("ops"), { questions: [{ ...q, due: 4 }] as never });
		expect((await faultOf(async () => saveStages(await as("ops"), { stages: list }))).detail).toContain("Change the question first");
		await saveQuestions(await as("ops"), { questions: [{ ...q, due: 1 }] as never });
		await saveStages(await as("ops"), { stages: list });
		expect(await now()).toEqual(list);
	});
	test("no two of one name, none without a kind that deals need, no chance above one", async () => {
		const list = await now();
		const save = (stages: unknown) => wordsOf(async () => saveStages(await as("ops"), { stages: stages as never }));
		expect(await save(list.map((stage) => ({ ...stage, name: stage.kind === "open" ? "Same" : stage.name })))).toContain("Two stages are called Same");
		expect(await save(list.filter((stage) => stage.kind !== "lost"))).toContain("for lost deals");
		expect(await save(list.map((stage) => ({ ...stage, probability: 2 })))).toContain("at most 1");
		expect(await save(list.map((stage) => (stage.was === "Terms" ? { ...stage, kind: "won" } : stage)))).toContain("must stay a stage for open deals");
		expect(await save(list.map((stage) => ({ ...stage, was: `${stage.was}?` })))).toContain("no longer exists");
		expect(await now()).toEqual(list);
	});
});

describe("habits", () => {
	test("a kind tied to a later stage lights what lags behind it", async () => {
		expect(await codes()).not.toContain("stage-behind");
		const habits = readHabits(await as("ops"));
		await saveHabits(await as("ops"), { ...habits, kinds: habits.kinds.map((kind) => (kind.kind === "call" ? { ...kind, position: 3 } : kind)) });
		expect(await codes()).toContain("stage-behind");
	});
	test("bands must grow, stages must be there, reasons must have words", async () => {
		const habits = readHabits(await as("ops"));
		const save = (change: object) => wordsOf(async () => saveHabits(await as("ops"), { ...habits, ...change }));
		expect(await save({ bands: [42, 14, 91] })).toContain("later than the one before");
		expect(await save({ bands: [0, 14, 91] })).toContain("at least one day");
		expect(await save({ kinds: [{ kind: "call", position: 4 }] })).toContain("there are 3 open stages");
		expect(await save({ reasons: [""] })).toContain("can’t be empty");
		await saveHabits(await as("ops"), { ...habits, bands: [7, 30, 60], reasons: ["Price", "Price", "Rain"] });
		expect(readHabits(await as("ops"))).toMatchObject({ bands: [7, 30, 60], reasons: ["Price", "Rain"] });
	});
});
