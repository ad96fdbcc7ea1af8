import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { views } from "@/data/schema";
import { readAccounts } from "@/features/accounts/server/readAccounts";
import { editDeals } from "@/features/deals/server/editDeals";
import { exportTable } from "@/features/deals/server/exportTable";
import { readDeals } from "@/features/deals/server/readDeals";
import { changeView, openWith, orderViews, readViews, removeView, saveView } from "@/features/deals/server/views";
import { readMentions } from "@/features/desk/server/readMentions";
import { dealsWithText, search } from "@/features/search/server/search";
import { addStep, changeStep, removeStep } from "@/features/sheet/server/closePlan";
import { logActivity, settleActivity } from "@/features/sheet/server/logActivity";
import { readDeal } from "@/features/sheet/server/readDeal";
import { readSheet } from "@/features/sheet/server/readSheet";
import { takeBackNote, writeNote } from "@/features/sheet/server/writeNote";
import { comeBack } from "@/features/tasks/server/comeBack";
import { readOwnTasks } from "@/features/tasks/server/readTasks";
import { MOST_SHOWN } from "@/platform/sharing";
import { resolveViewpoint } from "@/platform/viewpoint";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf, wordsOf } from "../kit/fault";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("together");
});
beforeEach(() => refill(inspected()));
afterAll(() => database.drop());

const sheet = async (person = "north", day = "2026-11-24") => readSheet(await as(person), "d1", day, "2026-11-09");
const whole = async (person: string) => {
	const context = await as(person);
	return [context, resolveViewpoint(context, { due: "any" })] as const;
};

describe("notes", () => {
	test("call on colleagues who reach the deal, who find them on their desk", async () => {
		const done = await writeNote(await as("north"), { dealId: "d1", body: "@Rae Penn and @Sol Quint: ask about <b>steam</b>" });
		expect(done.mentions).toEqual(["Rae Penn"]);
		const rep = await as("rep1");
		expect(await readMentions(rep, rep.now.day)).toMatchObject([
			{ deal: "Deck ovens", by: "Nora Thistle", body: "@Rae Penn and @Sol Quint: ask about <b>steam</b>" },
		]);
		const other = await as("rep2");
		expect(await readMentions(other, other.now.day)).toEqual([]);
		expect((await sheet()).happenings.find((item) => item.kind === "note")).toMatchObject({ by: "Nora Thistle" });
		expect((await sheet("north", "2026-11-23")).happenings.some((item) => item.kind === "note")).toBe(false);
	});
	test("never move the score, and can be deleted by whoever wrote them", async () => {
		const before = (await sheet()).qualification.strength;
		const { id } = await writeNote(await as("north"), { dealId: "d1", body: "They love it" });
		expect((await sheet()).qualification.strength).toBe(before);
		expect((await faultOf(async () => takeBackNote(await as("rep1"), { id }))).status).toBe(403);
		await takeBackNote(await as("north"), { id });
		expect((await sheet()).happenings.some((item) => item.kind === "note")).toBe(false);
	});
	test("of 100 000 letters, of none, and on another’s deal are refused", async () => {
		expect(await wordsOf(async () => writeNote(await as("north"), { dealId: "d1", body: "x".repeat(100_000) }))).toContain("at most 10 000 letters");
		expect(await wordsOf(async () => writeNote(await as("north"), { dealId: "d1", body: "  " }))).toContain("empty");
		expect((await faultOf(async () => writeNote(await as("rep2"), { dealId: "d1", body: "hi" }))).status).toBe(404);
	});
});

describe("activities", () => {
	test("an answer logged puts the owed reply out; deleted, it is owed again", async () => {
		const codes = async () => (await readDeal(await as("ops"), "d1", undefined)).flags.map((flag) => flag.code);
		expect(await codes()).toContain("reply-owed");
		const { id } = await logActivity(await as("rep1"), { dealId: "d1", kind: "email", direction: "out", subject: "The price", contactIds: ["c1"] });
		expect(await codes()).not.toContain("reply-owed");
		expect((await sheet()).people.find((p) => p.id === "c1")?.last).toBe("2026-11-24");
		await settleActivity(await as("rep1"), { id, what: "back" });
		expect(await codes()).toContain("reply-owed");
	});
	test("on a day to come it is planned, and done when it took place", async () => {
		const { id, planned } = await logActivity(await as("rep1"), { dealId: "d1", kind: "visit", direction: "both", subject: "Look", day: "2026-12-01" });
		expect(planned).toBe(true);
		expect((await sheet()).happenings.filter((item) => item.planned).map((item) => item.what)).toEqual(["Visit: Look", "Call: Call back"]);
		await settleActivity(await as("rep1"), { id, what: "done" });
		expect(await sheet()).toMatchObject({ lastTouch: "2026-11-24", waiting: null });
		expect((await faultOf(async () => settleActivity(await as("rep1"), { id, what: "done" }))).status).toBe(409);
	});
	test("of no kind there is, with somebody else’s contact, or without words are refused", async () => {
		const log = (change: object) =>
			wordsOf(async () => logActivity(await as("rep1"), { dealId: "d1", kind: "call", direction: "both", subject: "Hi", ...change }));
		expect(await log({ kind: "telepathy" })).toContain("there are call, meeting");
		expect(await log({ contactIds: ["c3"] })).toContain("no contact c3");
		expect(await log({ subject: "" })).toContain("what it was about");
		expect((await faultOf(async () => settleActivity(await as("north"), { id: "x1", what: "back" }))).status).toBe(403);
	});
});

describe("the close plan", () => {
	test("has steps of ours and theirs; late ones stand out until they are done", async () => {
		const { id } = await addStep(await as("rep1"), { dealId: "d1", title: "Board says yes", dueOn: "2026-11-20", side: "theirs" });
		await addStep(await as("north"), { dealId: "d1", title: "Hold the crew", dueOn: null, side: "ours" });
		expect((await sheet()).plan.map((step) => [step.title, step.side, step.late])).toEqual([
			["Board says yes", "theirs", true],
			["Hold the crew", "ours", false],
		]);
		await changeStep(await as("rep1"), { id, done: true });
		expect((await sheet()).plan[0]).toMatchObject({ done: "2026-11-24", late: false });
		// Yesterday nobody had written it down yet.
		expect((await sheet("north", "2026-11-23")).plan).toEqual([]);
		await removeStep(await as("rep1"), { id });
		expect((await sheet()).plan).toHaveLength(1);
		expect((await faultOf(async () => addStep(await as("rep2"), { dealId: "d1", title: "x", dueOn: null, side: "ours" }))).status).toBe(404);
	});
});

describe("the sheet", () => {
	test("says the trouble in one sentence, and since when each flag is lit", async () => {
		const view = await sheet();
		expect(view.headline).toMatch(
			/^They wrote or called on 18 Nov, 4 working days ago, and nobody answered; 1 key question open, strength 17 where 67 is expected\.$/,
		);
		expect(view.flags.find((flag) => flag.code === "reply-owed")).toMatchObject({ since: "2026-11-20", days: 2, settings: ["2 working days"] });
	});
	test("shows who reports to whom, who is missing, and what the account bought and has besides", async () => {
		const view = await sheet();
		expect(view.people.map((p) => [p.name, p.depth])).toEqual([
			["Ada Holm", 0],
			["Ben Rye", 1],
		]);
		expect(view.missing).toEqual(["somebody of ours who knows who signs"]);
		expect(view.accountInfo?.orders.map((o) => [o.year, o.product, o.amount])).toEqual([
			["2026", "Deck oven", 90_000],
			["2025", "Mixer", 10_000],
			["2024", "Mixer", 5_000],
		]);
		expect(view.accountInfo?.others.map((d) => d.id)).toEqual(["d3"]);
		expect((await readSheet(await as("rep2"), "d2", "2026-11-24", "2026-11-09")).missing).toEqual(["signatory", "champion"]);
	});
	test("tells of each move of the date who made it and why", async () => {
		const { versionId } = await readDeal(await as("ops"), "d1", undefined);
		await editDeals(await as("rep1"), { targets: [{ id: "d1", versionId }], change: { closeDate: "2026-12-30", reason: "Board" } });
		expect((await sheet()).trail.points.at(-1)).toEqual({ set: "2026-11-24", close: "2026-12-30", by: "Rae", reason: "Board" });
	});
});

describe("views", () => {
	test("are private, until they are shared with the team and those below", async () => {
		const { id } = await saveView(await as("north"), { name: "Slipped", query: "flags=slipped", shared: false });
		expect(await readViews(await as("rep1"))).toEqual([]);
		await changeView(await as("north"), { id, shared: true });
		expect(await readViews(await as("rep1"))).toMatchObject([{ name: "Slipped", query: "flags=slipped", own: false, by: "Nora Thistle", sharedWith: "North" }]);
		expect(await readViews(await as("rep2"))).toEqual([]);
		expect((await faultOf(async () => changeView(await as("rep1"), { id, name: "Mine" }))).status).toBe(404);
		expect((await faultOf(async () => removeView(await as("rep1"), { id }))).status).toBe(404);
	});
	test("stand in an order of one’s own, and one of them opens first", async () => {
		const boss = await as("boss");
		const ids: string[] = [];
		for (const name of ["A", "B", "C"]) ids.push((await saveView(boss, { name, query: "", shared: true })).id);
		await orderViews(await as("rep1"), { ids: [ids[2] as string, ids[0] as string, ids[1] as string] });
		expect((await readViews(await as("rep1"))).map((v) => v.name)).toEqual(["C", "A", "B"]);
		expect((await readViews(boss)).map((v) => v.name)).toEqual(["A", "B", "C"]);
		await openWith(await as("rep1"), { id: ids[1] as string });
		await openWith(await as("rep1"), { id: ids[0] as string });
		expect((await readViews(await as("rep1"))).map((v) => v.opening)).toEqual([false, true, false]);
		expect((await readViews(boss)).some((v) => v.opening)).toBe(false);
		await openWith(await as("rep1"), { id: null });
		expect((await readViews(await as("rep1"))).some((v) => v.opening)).toBe(false);
		await removeView(boss, { id: ids[0] as string });
		expect(await readViews(await as("rep1"))).toHaveLength(2);
	});
	test("need a name, and one that is there to open", async () => {
		expect(await wordsOf(async () => saveView(await as("north"), { name: " ", query: "", shared: false }))).toContain("Give the view a name");
		expect((await faultOf(async () => openWith(await as("north"), { id: "nothing" }))).status).toBe(404);
	});
});

describe("search", () => {
	const hits = async (person: string, text: string) => (await search(await as(person), { text })).map((hit) => `${hit.kind} ${hit.title}`);
	test("finds deals, accounts, people and words, within what one reaches", async () => {
		expect(await hits("north", "deck")).toEqual(["deal Deck ovens"]);
		expect(await hits("north", "millrace")).toEqual(["deal Left behind", "deal Deck ovens", "account Millrace Bread"]);
		expect(await hits("north", "holm")).toEqual(["person Ada Holm"]);
		expect(await hits("rep2", "holm")).toEqual([]);
		expect(await hits("rep2", "millrace")).toEqual([]);
		expect((await hits("rep1", "steel_pipe"))[0]).toContain("text Asks for a price: Chimney of 100% steel_pipe");
	});
	test("signs of patterns are only signs, and one letter is no search", async () => {
		expect(await hits("north", "100%")).toHaveLength(1);
		expect(await hits("north", "10_%")).toEqual([]);
		expect(await hits("north", "%%")).toEqual([]);
		expect(await hits("north", "d")).toEqual([]);
	});
	test("text in notes, answers and activities filters deals", async () => {
		await writeNote(await as("boss"), { dealId: "d2", body: "Chimney again" });
		expect(await dealsWithText(await as("boss"), { text: "chimney" })).toEqual(expect.arrayContaining(["d1", "d2"]));
		expect(await dealsWithText(await as("north"), { text: "chimney" })).toEqual(["d1"]);
		expect(await dealsWithText(await as("north"), { text: "they said so" })).toEqual(["d1"]);
	});
});

describe("accounts", () => {
	test("lie in bands by their last contact, with its kind, purchases of this year and the last, and open deals", async () => {
		const view = await readAccounts(...(await whole("boss")));
		expect(view.years).toEqual(["2026", "2025"]);
		expect(view.accounts.map((a) => [a.id, a.band, a.lastTouch, a.lastKind, a.lastWith])).toEqual([
			["a2", 3, "2026-06-12", "visit", "Cy Dale"],
			["a1", 0, "2026-11-18", "email", "Ada Holm"],
		]);
		expect(view.accounts[1]).toMatchObject({ thisYear: 90_000, lastYear: 10_000, openAmount: 190_000 });
		expect((await readAccounts(...(await whole("rep1")))).accounts.map((a) => a.id)).toEqual(["a1"]);
	});
	test("a lost deal suggests a day to come back, which makes a task for whoever lost it", async () => {
		const { versionId } = await readDeal(await as("ops"), "d1", undefined);
		expect((await faultOf(async () => comeBack(await as("north"), { dealId: "d1", day: "2027-02-01", title: "x" }))).status).toBe(409);
		await editDeals(await as("rep1"), { targets: [{ id: "d1", versionId }], change: { stage: "Lost", outcomeReason: "Price", competitor: null } });
		const [lost] = (await readAccounts(...(await whole("north")))).lost.deals;
		expect(lost).toMatchObject({ id: "d1", reason: "Price", competitor: "nobody named", lostOn: "2026-11-24", suggested: "2027-05-25", back: null });
		expect((await faultOf(async () => comeBack(await as("north"), { dealId: "d1", day: "2026-11-24", title: "x" }))).status).toBe(422);
		expect(await comeBack(await as("north"), { dealId: "d1", day: "2027-05-25", title: "Follow up" })).toMatchObject({ assignee: "Rae Penn" });
		const rep = await as("rep1");
		expect((await readOwnTasks(rep, rep.now.day)).own.map((t) => [t.title, t.dueOn])).toEqual([["Follow up", "2027-05-25"]]);
		expect((await readAccounts(...(await whole("north")))).lost.deals[0]?.back).toBe("2027-05-25");
	});
});

describe("the table", () => {
	test("says what lit and what cleared since the earlier moment", async () => {
		const context = await as("north");
		const rows = readDeals(context, resolveViewpoint(context, { due: "any", against: "2026-11-18" })).rows;
		const d1 = rows.find((r) => r.id === "d1");
		expect(d1?.newlyLit).toContain("reply-owed");
		await logActivity(await as("rep1"), { dealId: "d1", kind: "call", direction: "both", subject: "Answered" });
		const after = await as("north");
		const later = readDeals(after, resolveViewpoint(after, { due: "any", against: "2026-11-23" })).rows.find((r) => r.id === "d1");
		expect(later?.wentOut).toContain("reply-owed");
	});
	test("goes out as it is shown, and only with deals of the viewpoint", async () => {
		const [context, viewpoint] = await whole("rep1");
		const file = await exportTable(context, viewpoint, { form: "csv", columns: ["name", "amount", "close"], ids: ["d2", "d1", "nothing"] });
		expect(new TextDecoder().decode(file.bytes).replace("\uFEFF", "").trim().split(/\r?\n/)).toEqual([
			"Deal number,Deal,Account,Amount EUR,Close date,Seen on",
			"d1,Deck ovens,Millrace Bread,1200,2026-12-18,2026-11-24",
		]);
		expect((await exportTable(context, viewpoint, { form: "xlsx", columns: ["flags"], ids: ["d1"] })).bytes.length).toBeGreaterThan(1000);
		expect(await wordsOf(() => exportTable(context, viewpoint, { form: "pdf", columns: [], ids: [] }))).not.toBe("nothing");
	});
});

test("of a list that others have filled with what they share, one’s own are never left out", async () => {
	const { db } = connection();
	const shared = Array.from({ length: MOST_SHOWN + 5 }, (_, i) => ({
		id: `view-${i}`,
		name: `A ${i}`,
		query: "",
		ownerId: "boss",
		sharedWith: "Firm",
		screen: "deals" as const,
	}));
	await db.insert(views).values(shared);
	await saveView(await as("ops"), { name: "Z mine", query: "due=any", shared: false });
	const names = (await readViews(await as("ops"))).map(({ name }) => name);
	expect(names).toHaveLength(MOST_SHOWN);
	expect(names).toContain("Z mine");
});
