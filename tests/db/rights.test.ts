import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { changeAccount, makeAccount } from "@/features/accounts/server/editAccounts";
import { previewAccountMerge } from "@/features/accounts/server/mergeAccounts";
import { readAccountOfApi } from "@/features/accounts/server/readAccount";
import { readAccounts } from "@/features/accounts/server/readAccounts";
import { noteAtAccount } from "@/features/accounts/server/writeAtAccount";
import { listBoards, makeBoard, removeBoard } from "@/features/boards/server/boards";
import { boardReaders, openBoardsFor, openingBoard } from "@/features/boards/server/openings";
import { readBridge } from "@/features/changes/server/bridgeJson";
import { keepMark, readMarks, removeMark } from "@/features/changes/server/marks";
import { readChanges } from "@/features/changes/server/readChanges";
import { closePeriod } from "@/features/closes/server/closePeriod";
import { editDeals, previewEdit } from "@/features/deals/server/editDeals";
import { exportTable } from "@/features/deals/server/exportTable";
import { readDeals } from "@/features/deals/server/readDeals";
import { undoEdit } from "@/features/deals/server/undoEdit";
import { removeView, saveView } from "@/features/deals/server/views";
import { answerQuestion } from "@/features/evidence/server/answerQuestion";
import { readEvidence } from "@/features/evidence/server/readEvidence";
import { exportBundle } from "@/features/import/server/exportBundle";
import { listImports, readImport, startImport } from "@/features/import/server/importBundle";
import { USUAL_LOOK } from "@/features/patterns/server/looking";
import { readForetelling } from "@/features/patterns/server/readPatterns";
import { previewHandOver } from "@/features/people/server/handOver/preview";
import { createKey, listKeys, revokeKey } from "@/features/people/server/keys";
import { saveTeam } from "@/features/people/server/managePeople";
import { readOwnSignIn } from "@/features/people/server/ownSignIn";
import { readProvider } from "@/features/people/server/provider/settings";
import { readPeople } from "@/features/people/server/readPeople";
import { readPeriodOfApi } from "@/features/period/server/periodJson";
import { readPeriod } from "@/features/period/server/readPeriod";
import { saveTargets } from "@/features/period/server/targets";
import { readThresholds, saveThresholds } from "@/features/period/server/thresholds";
import { removeTry, saveTry } from "@/features/period/server/tries";
import { readTryGround } from "@/features/period/server/tryGround";
import { readMailLog } from "@/features/reaching/server/mailLog";
import { savePlan } from "@/features/rounds/server/plans";
import { sayReady } from "@/features/rounds/server/preparation";
import { readBrief } from "@/features/rounds/server/readBrief";
import { readRounds } from "@/features/rounds/server/readRounds";
import { endRest } from "@/features/rounds/server/rests";
import { dealsWithText, search } from "@/features/search/server/search";
import { saveSending } from "@/features/sendings/server/sendings";
import { previewFlags, readFlagSettings, saveFlags } from "@/features/setup/server/flagSettings";
import { readHabits, saveHabits } from "@/features/setup/server/habitSettings";
import { holdDay } from "@/features/setup/server/holdDay";
import { howItRuns } from "@/features/setup/server/howItRuns";
import { readQuestions, saveQuestions } from "@/features/setup/server/questionSettings";
import { readAudit } from "@/features/setup/server/readAudit";
import { readStages, saveStages } from "@/features/setup/server/stageSettings";
import { addStep } from "@/features/sheet/server/closePlan";
import { logActivity } from "@/features/sheet/server/logActivity";
import { readDeal } from "@/features/sheet/server/readDeal";
import { readSheet } from "@/features/sheet/server/readSheet";
import { writeNote } from "@/features/sheet/server/writeNote";
import { readTable } from "@/features/tables/server/readTable";
import { changeTask } from "@/features/tasks/server/changeTask";
import { comeBack } from "@/features/tasks/server/comeBack";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { readOwnTasks, readTasks } from "@/features/tasks/server/readTasks";
import { readHooks } from "@/features/webhooks/server/hooks";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { RIGHTS } from "@/platform/rights";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { as, freshDatabase, importAs } from "../kit/database";
import { allDeals } from "../kit/deals";

let database: Awaited<ReturnType<typeof freshDatabase>>;
let taskId = "";
beforeAll(async () => {
	database = await freshDatabase("rights");
	await importAs(small());
	taskId = (await giveTasks(await as("north"), { dealIds: ["d1"], title: "Call" })).tasks[0]?.id ?? "";
});
afterAll(() => database.drop());

/** `yes`, or the status of the fault. */
const outcome = (work: () => unknown) =>
	Promise.resolve()
		.then(work)
		.then(
			() => "yes",
			(error) => {
				if (error instanceof Fault) return error.status;
				throw error;
			},
		);

const TRY = { name: "t", whose: "all", due: "2026-Q4", moves: [{ whom: { field: "category" as const, value: "commit" }, what: "win" as const, percent: 50 }] };
const whole = (context: Context) => resolveViewpoint(context, { due: "any" });
const USE_CASES: Record<string, (context: Context) => unknown> = {
	readDeals: (c) => readDeals(c, whole(c)),
	listDeals: (c) => allDeals(c, {}),
	readRunning: (c) => howItRuns(c),
	manageSignIn: (c) => readProvider(c),
	readTables: (c) => readTable(c, "deals", { as: "csv" }),
	"readDeal d1": (c) => readDeal(c, "d1", undefined),
	"readDeal d2": (c) => readDeal(c, "d2", undefined),
	"readSheet d2": (c) => readSheet(c, "d2", "2026-11-24", "2026-11-16"),
	readChanges: (c) => readChanges(c, whole(c)),
	readBridge: (c) => readBridge(c, { a: "2026-11-09" }),
	readPeriod: (c) => readPeriod(c, resolveViewpoint(c, {})),
	"readPeriod of the API": (c) => readPeriodOfApi(c, {}),
	"readPeriod marks": (c) => readThresholds(c, "North"),
	keepTries: async (c) => removeTry(c, { id: (await saveTry(c, TRY)).id }),
	keepBoards: async (c) => removeBoard(c, { id: (await makeBoard(c, { name: "b" })).id }),
	"keepBoards listed": async (c) => [await listBoards(c), await openingBoard(c)],
	"openBoardsFor rep1": (c) => openBoardsFor(c, { openings: [{ person: "rep1", board: null }] }),
	"openBoardsFor rep2": (c) => openBoardsFor(c, { openings: [{ person: "rep2", board: null }] }),
	"openBoardsFor readers": (c) => boardReaders(c, "none"),
	"keepTries ground": (c) => readTryGround(c, resolveViewpoint(c, {})),
	// Each a period of their own: one is closed once.
	closePeriods: (c) => closePeriod(c, { whose: "team:North", from: c.actor.person.id === "boss" ? "2026-07-01" : "2026-07-02", to: "2026-09-30" }),
	sendRegularly: (c) => saveSending(c, { kind: "period", rhythm: { kind: "month" }, at: "07:30", to: ["boss"] }),
	"setTargets targets": (c) =>
		saveTargets(c, { cells: [{ personId: "rep1", start: "2027-01-01", end: "2027-03-31", family: "", amount: 1, currency: "EUR" }] }),
	"setTargets marks of North": (c) => saveThresholds(c, { team: "North", marks: [] }),
	"setTargets marks of everyone": (c) => saveThresholds(c, { team: "", marks: [] }),
	readTasks: (c) => readTasks(c, whole(c).whose.scope, c.now.day),
	readOwnTasks: (c) => readOwnTasks(c, c.now.day),
	"giveTasks d1": (c) => giveTasks(c, { dealIds: ["d1"], title: "Call" }),
	"giveTasks d2": (c) => giveTasks(c, { dealIds: ["d2"], title: "Call" }),
	"editDeals d1": async (c) =>
		previewEdit(c, { targets: [{ id: "d1", versionId: (await readDeal(await as("ops"), "d1", undefined)).versionId }], change: { category: "commit" } }),
	"editDeals d2": async (c) => editDeals(c, { targets: [{ id: "d2", versionId: 0 }], change: { category: "commit" } }),
	"undoEdit d1": (c) => undoEdit(c, { targets: [{ id: "d1", versionId: 0 }] }),
	"answerQuestions d1": (c) => answerQuestion(c, { dealId: "d1", questionId: "none", level: "heard", seenAt: null }),
	"writeNotes d1": (c) => writeNote(c, { dealId: "d1", body: "Hello" }),
	"log d1": (c) => logActivity(c, { dealId: "d1", kind: "call", direction: "both", subject: "Hello" }),
	"close plan d1": (c) => addStep(c, { dealId: "d1", title: "Step", dueOn: null, side: "ours" }),
	"come back d1": (c) => comeBack(c, { dealId: "d1", day: "2027-01-01", title: "Back" }),
	"readRules flags": (c) => readFlagSettings(c),
	"readRules others": async (c) => [readQuestions(c), await readStages(c), readHabits(c)],
	"changeRules flags": (c) => saveFlags(c, { flags: {} }),
	"changeRules preview": (c) => previewFlags(c, { flags: {} }),
	"changeRules questions": (c) => saveQuestions(c, { questions: [] }),
	"changeRules stages": async (c) => saveStages(c, { stages: (await readStages(await as("ops"))).map(({ used: _, open: __, ...stage }) => stage) }),
	"changeRules habits": async (c) => saveHabits(c, readHabits(await as("ops"))),
	keepViews: async (c) => removeView(c, { id: (await saveView(c, { name: "v", query: "", shared: false })).id }),
	search: (c) => search(c, { text: "deck" }),
	"search texts": (c) => dealsWithText(c, { text: "deck" }),
	readAccounts: (c) => readAccounts(c, whole(c)),
	"account a1": (c) => readAccountOfApi(c, "a1", undefined),
	"editAccounts made": (c) => makeAccount(c, { name: "New" }),
	"editAccounts a1": (c) => changeAccount(c, { id: "a1", versionId: 0, change: { industry: "Bakery" } }),
	"mergeAccounts a2 into a1": (c) => previewAccountMerge(c, { from: "a2", into: "a1" }),
	"writeNotes at a1": (c) => noteAtAccount(c, { accountId: "a1", body: "Hello" }),
	"evidence of deals": (c) => readEvidence(c, whole(c)),
	"table of deals": (c) => exportTable(c, whole(c), { form: "csv", columns: ["name"], ids: ["d1"] }),
	readAudit: (c) => readAudit(c, { limit: 10 }),
	keepMarks: async (c) => removeMark(c, { id: (await keepMark(c, { name: "m" })).id }),
	"marks listed": (c) => readMarks(c),
	"changeTask of rep1": (c) => changeTask(c, { id: taskId, note: "seen" }),
	readPeople: (c) => readPeople(c),
	importBundle: async (c) => (await startImport(c, small(), { dryRun: true, skipBad: false, name: "x" })).end,
	readImports: (c) => listImports(c),
	exportBundle: (c) => exportBundle(c, {}),
	managePeople: (c) => saveTeam(c, { was: "South", name: "South", parent: "Firm" }),
	readPatterns: (c) => readForetelling(c, USUAL_LOOK, c.now.day),
	readRounds: (c) => readRounds(c),
	"holdRounds by a plan": (c) => savePlan(c, { id: null, name: "Mondays", whose: "team:North", weekday: 1 }),
	"prepareRounds d1": (c) => sayReady(c, { dealId: "d1", ready: true }),
	"askRests of none": (c) => endRest(c, { id: "none" }),
	"brief of d2": (c) => readBrief(c, "d2"),
	handOver: (c) => previewHandOver(c, { from: "rep1" }),
	readMail: (c) => readMailLog(c),
	manageHooks: (c) => readHooks(c),
	changeClock: (c) => holdDay(c, { day: "2026-11-24" }),
	ownSignIn: async (c) => readOwnSignIn(c, null),
	ownKeys: async (c) => revokeKey(c, { id: (await createKey(c, { name: "k" })).id }),
};

// north: manager of North; boss: manager above all; view: viewer of North; rep1 is in North, rep2 in South.
const TABLE: Record<string, Record<string, string | number>> = {
	readDeals: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	readRunning: { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	manageSignIn: { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	readTables: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	listDeals: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	"readDeal d1": { boss: "yes", north: "yes", rep1: "yes", rep2: 404, ops: "yes", view: "yes" },
	"readDeal d2": { boss: "yes", north: 404, rep1: 404, rep2: "yes", ops: "yes", view: 404 },
	"readSheet d2": { boss: "yes", north: 404, rep1: 404, rep2: "yes", ops: "yes", view: 404 },
	readChanges: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	readBridge: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	readPeriod: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	"readPeriod of the API": { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	"readPeriod marks": { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	keepTries: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	keepBoards: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	"keepBoards listed": { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	"openBoardsFor rep1": { boss: "yes", north: "yes", rep1: 403, rep2: 403, ops: "yes", view: 403 },
	"openBoardsFor rep2": { boss: "yes", north: 404, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	"openBoardsFor readers": { boss: 404, north: 404, rep1: 403, rep2: 403, ops: 404, view: 403 },
	"keepTries ground": { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	closePeriods: { boss: "yes", north: "yes", rep1: 403, rep2: 403, ops: 403, view: 403 },
	sendRegularly: { boss: "yes", north: "yes", rep1: 403, rep2: 403, ops: "yes", view: "yes" },
	"setTargets targets": { boss: "yes", north: "yes", rep1: 403, rep2: 403, ops: "yes", view: 403 },
	"setTargets marks of North": { boss: "yes", north: "yes", rep1: 403, rep2: 403, ops: "yes", view: 403 },
	"setTargets marks of everyone": { boss: "yes", north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	readTasks: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	readOwnTasks: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	"giveTasks d1": { boss: "yes", north: "yes", rep1: "yes", rep2: 404, ops: 403, view: 403 },
	"giveTasks d2": { boss: "yes", north: 404, rep1: 404, rep2: "yes", ops: 403, view: 403 },
	"editDeals d1": { boss: "yes", north: "yes", rep1: "yes", rep2: 404, ops: 403, view: 403 },
	"editDeals d2": { boss: 412, north: 404, rep1: 404, rep2: 412, ops: 403, view: 403 },
	"undoEdit d1": { boss: 409, north: 409, rep1: 409, rep2: 404, ops: 403, view: 403 },
	"answerQuestions d1": { boss: 404, north: 404, rep1: 404, rep2: 404, ops: 403, view: 403 },
	"writeNotes d1": { boss: "yes", north: "yes", rep1: "yes", rep2: 404, ops: 403, view: 403 },
	"log d1": { boss: "yes", north: "yes", rep1: "yes", rep2: 404, ops: 403, view: 403 },
	"close plan d1": { boss: "yes", north: "yes", rep1: "yes", rep2: 404, ops: 403, view: 403 },
	"come back d1": { boss: 409, north: 409, rep1: 409, rep2: 404, ops: 403, view: 403 },
	"readRules flags": { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	"readRules others": { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	"changeRules flags": { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	"changeRules preview": { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	"changeRules questions": { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	"changeRules stages": { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	"changeRules habits": { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	keepViews: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	search: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	"search texts": { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	readAccounts: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	"account a1": { boss: "yes", north: "yes", rep1: "yes", rep2: 404, ops: "yes", view: "yes" },
	"editAccounts made": { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: 403 },
	"editAccounts a1": { boss: 412, north: 412, rep1: 412, rep2: 404, ops: 412, view: 403 },
	"mergeAccounts a2 into a1": { boss: "yes", north: 404, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	"writeNotes at a1": { boss: "yes", north: "yes", rep1: "yes", rep2: 404, ops: 403, view: 403 },
	"evidence of deals": { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	"table of deals": { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	keepMarks: { boss: "yes", north: "yes", rep1: 403, rep2: 403, ops: "yes", view: 403 },
	"marks listed": { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	readAudit: { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	"changeTask of rep1": { boss: "yes", north: "yes", rep1: "yes", rep2: 404, ops: 403, view: 403 },
	readPeople: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	importBundle: { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	readImports: { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	exportBundle: { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	managePeople: { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	readPatterns: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	readRounds: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	"holdRounds by a plan": { boss: "yes", north: "yes", rep1: 403, rep2: 403, ops: 403, view: 403 },
	"prepareRounds d1": { boss: "yes", north: "yes", rep1: "yes", rep2: 404, ops: 403, view: 403 },
	"askRests of none": { boss: 404, north: 404, rep1: 404, rep2: 404, ops: 403, view: 403 },
	"brief of d2": { boss: "yes", north: 404, rep1: 404, rep2: "yes", ops: "yes", view: 404 },
	handOver: { boss: "yes", north: "yes", rep1: 403, rep2: 403, ops: "yes", view: 403 },
	manageHooks: { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	readMail: { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	changeClock: { boss: 403, north: 403, rep1: 403, rep2: 403, ops: "yes", view: 403 },
	ownSignIn: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
	ownKeys: { boss: "yes", north: "yes", rep1: "yes", rep2: "yes", ops: "yes", view: "yes" },
};

describe("who may", () => {
	for (const [name, expected] of Object.entries(TABLE)) {
		test(name, async () => {
			const found: Record<string, string | number> = {};
			for (const person of Object.keys(expected)) {
				const context = await as(person);
				found[person] = await outcome(() => (USE_CASES[name] as (c: Context) => unknown)(context));
			}
			expect(found).toEqual(expected);
		});
	}
	test("the table of rights names every use case tried here", () => {
		const tried = Object.keys(TABLE).join(" ");
		for (const right of Object.keys(RIGHTS).filter((r) => !["readDesk", "changeTask", "assignTasks"].includes(r))) expect(tried).toContain(right);
	});
});

describe("whose deals", () => {
	const ids = async (person: string) =>
		allDeals(await as(person), {})
			.map((deal) => deal.id)
			.sort();
	test("a rep sees their own, a manager and a viewer their team’s with those who left, ops and the head all", async () => {
		expect(await ids("rep1")).toEqual(["d1"]);
		expect(await ids("north")).toEqual(["d1", "d3"]);
		expect(await ids("view")).toEqual(["d1", "d3"]);
		expect(await ids("boss")).toEqual(["d1", "d2", "d3"]);
		expect(await ids("ops")).toEqual(["d1", "d2", "d3"]);
	});
	test("a filter never widens what one sees", async () => {
		expect(allDeals(await as("north"), { owner: "rep2" })).toEqual([]);
		expect(allDeals(await as("rep1"), { team: "Firm" }).map((d) => d.id)).toEqual(["d1"]);
		expect(await outcome(async () => resolveViewpoint(await as("north"), { whose: "team:South" }))).toBe(403);
		expect(await outcome(async () => resolveViewpoint(await as("rep1"), { whose: "person:rep2" }))).toBe(403);
	});
	test("addresses are shown to those who manage, not to reps and viewers", async () => {
		const shown = async (person: string) =>
			readPeople(await as(person))
				.teams.flatMap((t) => t.people)
				.some((p) => p.email);
		expect([await shown("north"), await shown("ops"), await shown("rep1"), await shown("view")]).toEqual([true, true, false, false]);
	});
	test("keys are one’s own; ops sees all", async () => {
		const { id } = await createKey(await as("rep1"), { name: "mine" });
		expect((await listKeys(await as("rep2"))).map((k) => k.id)).not.toContain(id);
		expect((await listKeys(await as("ops"))).map((k) => k.id)).toContain(id);
		expect(await outcome(async () => revokeKey(await as("rep2"), { id }))).toBe(404);
		expect(await outcome(async () => readImport(await as("rep1"), "x"))).toBe(403);
	});
});
