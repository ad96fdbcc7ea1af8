import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { currencySign } from "@/core/money/words";
import { readMarks } from "@/features/changes/server/marks";
import { editDeals } from "@/features/deals/server/editDeals";
import { lookForNews } from "@/features/reaching/server/detectHappenings";
import { readNews } from "@/features/reaching/server/wishes";
import { goTo, noteRound, placeDeal, promise, takeDeal } from "@/features/rounds/server/conduct";
import { dropRound, endRound, reopenRound } from "@/features/rounds/server/endRound";
import { makeCall, takeCallBack } from "@/features/rounds/server/makeCall";
import { nextOf, readPlans, removePlan, savePlan } from "@/features/rounds/server/plans";
import { readPreparation, readPrepared, sayReady } from "@/features/rounds/server/preparation";
import { readHeld } from "@/features/rounds/server/readHeld";
import { readMinutes } from "@/features/rounds/server/readMinutes";
import { readRound } from "@/features/rounds/server/readRound";
import { readRounds } from "@/features/rounds/server/readRounds";
import { startRound } from "@/features/rounds/server/startRound";
import { minutesMarkdown } from "@/features/rounds/table/markdown";
import { readDeal } from "@/features/sheet/server/readDeal";
import { changeTask } from "@/features/tasks/server/changeTask";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf, wordsOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("rounds");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const start = async (who = "boss", more: Partial<Parameters<typeof startRound>[1]> = {}) => startRound(await as(who), { calmToo: true, ...more });
const call = async (who: string, id: string, given: Partial<Parameters<typeof makeCall>[1]> = {}, on?: string) =>
	makeCall(await as(who, on), { id, dealId: "d1", call: "holds", ...given });
const versionOf = async (id: string) => (await readDeal(await as("boss"), id, undefined)).versionId;
const edit = async (change: Parameters<typeof editDeals>[1]["change"], id = "d1") =>
	editDeals(await as("boss"), { targets: [{ id, versionId: await versionOf(id) }], change });

describe("a round", () => {
	test("goes through the open deals of its people, keeps the moment as a mark, and is seen by those it is about", async () => {
		const { id, mark, deals } = await start();
		expect(deals).toBe(3);
		expect((await readMarks(await as("boss"))).map(({ name }) => name)).toContain(mark);
		expect((await readRound(await as("boss"), id)).queue.map((one) => one.id).sort()).toEqual(["d1", "d2", "d3"]);
		// A rep sees their own deals of it alone, and holds nothing.
		const own = await readRound(await as("rep1"), id);
		expect([own.queue.map((one) => one.id), own.hidden, own.mayHold]).toEqual([["d1"], 2, false]);
		expect((await faultOf(async () => call("rep1", id))).status).toBe(403);
		expect((await readRounds(await as("rep2"))).rounds).toMatchObject([{ id, deals: 1, called: 0, ended: false }]);
		const north = await start("north");
		expect((await faultOf(async () => readRound(await as("rep2"), north.id))).status).toBe(404);
		expect((await faultOf(async () => call("north", north.id, { dealId: "d2" }))).status).toBe(404);
	});
	test("over nothing says so; one in which nothing was said can be taken away, by whoever started it", async () => {
		expect(await wordsOf(async () => startRound(await as("boss"), { due: "2031-Q1" }))).toContain("None of these deals is lit");
		expect(await wordsOf(async () => startRound(await as("boss"), { due: "2031-Q1", calmToo: true }))).toContain("no open deal");
		expect((await faultOf(async () => startRound(await as("north"), { dealIds: ["d2"] }))).status).toBe(404);
		const { id } = await start();
		expect((await faultOf(async () => dropRound(await as("north"), { id }))).status).toBe(403);
		await dropRound(await as("boss"), { id });
		expect((await readRounds(await as("boss"))).rounds).toEqual([]);
		const said = await start();
		await call("boss", said.id);
		expect(await wordsOf(async () => dropRound(await as("boss"), { id: said.id }))).toContain("end it instead");
	});
	test("has a queue that is put in order by hand, grows and shrinks, and is at one deal for all", async () => {
		const { id } = await start("boss", { dealIds: ["d2", "d1"], sorted: "hand" });
		const order = async () => (await readRound(await as("boss"), id)).queue.map((one) => one.id);
		expect(await order()).toEqual(["d2", "d1"]);
		await placeDeal(await as("boss"), { id, dealId: "d1", place: 0 });
		expect(await order()).toEqual(["d1", "d2"]);
		await goTo(await as("boss"), { id, dealId: "d2" });
		expect((await readRound(await as("north"), id)).current?.id).toBe("d1");
		expect((await readRound(await as("boss"), id)).current?.id).toBe("d2");
		await takeDeal(await as("boss"), { id, dealId: "d2", into: false });
		expect(await order()).toEqual(["d1"]);
		await takeDeal(await as("boss"), { id, dealId: "d2", into: true });
		expect(await order()).toEqual(["d1", "d2"]);
	});
});

describe("a call", () => {
	test("moves what the period comes to by it, and each part is what the calls say", async () => {
		const { id } = await start();
		const totals = async () => (await readRound(await as("boss"), id)).totals;
		const before = await totals();
		await edit({ category: "commit", closeDate: "2026-12-18", reason: "Agreed" });
		const word = await totals();
		const amount = (await readRound(await as("boss"), id)).queue.find((one) => one.id === "d1")?.amount ?? 0;
		expect(amount).toBeGreaterThan(0);
		expect(word.byCalls).toBe(word.byWord);
		const said = async (given: Parameters<typeof call>[2]) => {
			const newest = (await readRound(await as("boss"), id)).queue.find((one) => one.id === "d1")?.newest ?? null;
			await call("boss", id, { ...given, seen: newest });
			return totals();
		};
		expect(await said({ call: "holds" })).toMatchObject({ byCalls: word.byWord, byWord: word.byWord, called: 1 });
		expect(await said({ call: "shaky" })).toMatchObject({ byCalls: word.byWord - amount, shaky: amount });
		expect(await said({ call: "moves", to: "2026-12-30", why: "Board" })).toMatchObject({ byCalls: word.byWord, shaky: 0 });
		expect(await said({ call: "moves", to: "2027-01-29", why: "Board" })).toMatchObject({ byCalls: word.byWord - amount, byWord: word.byWord });
		const gone = await said({ call: "gone", why: "Price" });
		expect(gone).toMatchObject({ byCalls: word.byWord - amount, differs: { byWord: amount, byCalls: 0 } });
		expect(before.won).toBe(gone.won);
	});
	test("of somebody else meanwhile isn’t overwritten, and says what they called", async () => {
		const { id } = await start();
		const { id: first } = await call("boss", id, { call: "shaky" });
		expect(await wordsOf(() => call("north", id, { call: "holds" }))).toContain("Bo Sable called it shaky in the meantime");
		await call("north", id, { call: "holds", seen: first });
		expect((await readRound(await as("boss"), id)).queue.find((one) => one.id === "d1")?.call).toMatchObject({ call: "holds", by: "Nora Thistle" });
		// Both at once: one is written, the other is told.
		const newest = (await readRound(await as("boss"), id)).queue.find((one) => one.id === "d1")?.newest ?? null;
		const both = await Promise.allSettled([call("boss", id, { call: "gone", why: "Price", seen: newest }), call("north", id, { call: "shaky", seen: newest })]);
		expect(both.map(({ status }) => status).sort()).toEqual(["fulfilled", "rejected"]);
	});
	test("needs its day and its reason, is made of open deals alone, and can be deleted", async () => {
		const { id } = await start();
		expect(await wordsOf(() => call("boss", id, { call: "moves", why: "Board" }))).toContain("the new close date");
		expect(await wordsOf(() => call("boss", id, { call: "moves", to: "2026-11-01", why: "Board" }))).toContain("today is");
		expect(await wordsOf(() => call("boss", id, { call: "moves", to: "2027-01-29" }))).toContain("a reason for the new date");
		expect(await wordsOf(() => call("boss", id, { call: "gone" }))).toContain("a reason for the loss");
		const { id: made } = await call("boss", id);
		await takeCallBack(await as("boss"), { id, dealId: "d1", seen: made });
		expect((await readRound(await as("boss"), id)).queue.find((one) => one.id === "d1")?.call).toBeNull();
		await edit({ stage: "Won", closedOn: "2026-11-24" });
		const newest = (await readRound(await as("boss"), id)).queue.find((one) => one.id === "d1")?.newest ?? null;
		expect(await wordsOf(() => call("boss", id, { seen: newest }))).toContain("It is won since");
		await endRound(await as("boss"), { id });
		expect((await faultOf(() => call("boss", id, { dealId: "d2" }))).status).toBe(409);
	});
	test("is done to the deal at once, or left for its owner as a promise; both or neither", async () => {
		const { id } = await start();
		await call("boss", id, { call: "moves", to: "2027-01-29", why: "Board meets later", leave: "deal" });
		expect((await readDeal(await as("rep1"), "d1", undefined)).closeDate).toBe("2027-01-29");
		await call("boss", id, { dealId: "d2", call: "gone", why: "Price", leave: "task" });
		const { agreed } = (await readRound(await as("boss"), id, "d2")).current ?? {};
		expect(agreed).toMatchObject([{ title: "Close it as lost: Price", whoId: "rep2", fate: "open" }]);
		expect((await readDeal(await as("boss"), "d2", undefined)).status).toBe("open");
	});
});

describe("what was promised", () => {
	test("opens the next round with what happened: kept, late, not done, daily it was given for", async () => {
		const first = await start();
		const line = (title: string, dueOn: string) => ({ dealId: "d1", title, dueOn, flags: ["no-next-step"] });
		const { tasks } = await promise(await as("boss"), {
			id: first.id,
			lines: [line("Kept", "2026-11-26"), line("Late", "2026-11-25"), line("Not done", "2026-11-27"), line("Moved", "2026-11-26"), line("Ahead", "2026-12-18")],
		});
		await endRound(await as("boss"), { id: first.id });
		const [kept, late, , moved] = tasks.map(({ id }) => id) as [string, string, string, string];
		await changeTask(await as("rep1", "2026-11-25"), { id: kept, state: "done" });
		await changeTask(await as("rep1", "2026-11-27"), { id: late, state: "done" });
		await changeTask(await as("rep1", "2026-11-25"), { id: moved, dueOn: "2026-12-10" });
		const next = await startRound(await as("boss", "2026-12-01"), { calmToo: true });
		const { promises, agreed, before } = (await readRound(await as("boss", "2026-12-01"), next.id, "d1")).current ?? {};
		expect(promises?.map(({ title, fate }) => [title, fate])).toEqual([
			["Kept", "kept"],
			["Late", "late"],
			["Not done", "not done"],
			["Moved", "not done"],
			["Ahead", "open"],
		]);
		expect(agreed).toEqual([]);
		expect(before).toMatchObject({ id: first.id, on: "2026-11-24" });
		expect((await readMinutes(await as("boss", "2026-12-01"), next.id)).kept).toEqual({ kept: 1, late: 1, "not done": 2, dropped: 0, open: 1 });
	});
});

describe("minutes", () => {
	test("hold calls, changes, notes, promises and totals; of a rep their own; as Markdown too", async () => {
		const { id } = await start();
		await call("boss", id, { call: "shaky" });
		await edit({ amount: 77_700 });
		await noteRound(await as("rep1"), { id, dealId: "d1", note: "They want | Friday", before: "" });
		expect((await faultOf(async () => noteRound(await as("boss"), { id, dealId: "d1", note: "Mine", before: "" }))).detail).toContain("They want | Friday");
		await promise(await as("rep1"), { id, lines: [{ dealId: "d1", title: "Ring them", dueOn: "2026-11-27" }] });
		await endRound(await as("boss"), { id });
		const view = await readMinutes(await as("boss"), id);
		const d1 = view.deals.find((deal) => deal.id === "d1");
		expect(d1).toMatchObject({ said: "Shaky", note: "They want | Friday", changes: [{ words: expect.stringContaining("777"), by: "Bo Sable" }] });
		// A deal stands in the minutes as it was called; the totals are of the end.
		expect([d1?.amount, view.after?.shaky]).toEqual([120_000, 77_700]);
		expect(view.promises).toMatchObject([{ title: "Ring them", who: "Rae Penn" }]);
		const text = minutesMarkdown(view, (amount) => `${currencySign("EUR")}${amount}`);
		expect(text).toContain("They want \\| Friday");
		expect(text).toContain("- [ ] Ring them (Rae Penn, by 2026-11-27)");
		const own = await readMinutes(await as("rep2"), id);
		expect([own.deals.map((deal) => deal.id), own.hidden, own.promises]).toEqual([["d2"], 2, []]);
	});
	test("go to whom the round concerned, once, with a mail; a round can be opened again and ended again", async () => {
		await lookForNews();
		const { id } = await start("north");
		await call("north", id);
		await endRound(await as("north"), { id });
		await lookForNews();
		await lookForNews();
		const told = async (who: string) => (await readNews(await as(who))).items.filter(({ words }) => words.includes(" ended on ")).length;
		expect([await told("rep1"), await told("north"), await told("rep2"), await told("view")]).toEqual([1, 1, 0, 0]);
		await reopenRound(await as("north"), { id });
		expect((await readRound(await as("north"), id)).ended).toBe(false);
		expect((await faultOf(async () => reopenRound(await as("north"), { id }))).status).toBe(409);
		await endRound(await as("north"), { id });
		await lookForNews();
		expect(await told("rep1")).toBe(2);
	});
});

describe("before a round", () => {
	test("a rep sees what it will ask, says when they are ready, and their manager sees how far they are", async () => {
		const { deals, next } = await readPreparation(await as("rep1"));
		expect(next).toBeNull();
		expect(deals.map((deal) => deal.id)).toEqual(["d1"]);
		expect(deals[0]?.asks.length).toBeGreaterThan(0);
		const north = await as("north");
		const prepared = async () => readPrepared(await as("north"), resolveViewpoint(await as("north"), { whose: "person:rep1" }));
		expect(await prepared()).toMatchObject([{ id: "rep1", deals: 1, ready: 0 }]);
		await sayReady(await as("rep1"), { dealId: "d1", ready: true });
		expect(await prepared()).toMatchObject([{ id: "rep1", deals: 1, ready: 1, asks: 0 }]);
		expect((await faultOf(async () => sayReady(await as("rep1"), { dealId: "d2", ready: true }))).status).toBe(404);
		// A round that was held since asks anew.
		const { id } = await start("north");
		await endRound(await as("north"), { id });
		expect(await prepared()).toMatchObject([{ id: "rep1", ready: 0 }]);
		expect(north.now.day).toBe(day("2026-11-24"));
	});
	test("it is planned for a day of the week, due on it until it is held, and told the day before", async () => {
		const plan = { id: null, name: "Tuesdays with North", whose: "team:North", weekday: 2 };
		expect((await faultOf(async () => savePlan(await as("north"), { ...plan, whose: "team:South" }))).status).toBe(403);
		const { id, version } = await savePlan(await as("north"), plan);
		expect((await readPlans(await as("north")))[0]).toMatchObject({ id, next: "2026-11-24", due: true });
		expect(await readPlans(await as("rep2"))).toEqual([]);
		expect((await readPreparation(await as("rep1"))).next).toEqual({ name: plan.name, on: "2026-11-24" });
		await start("north", { planId: id });
		expect(await wordsOf(async () => start("boss", { planId: id }))).toContain("was already started today");
		expect((await readPlans(await as("north")))[0]).toMatchObject({ next: "2026-12-01", due: false });
		expect((await faultOf(async () => savePlan(await as("north"), { ...plan, id, version: 0 }))).status).toBe(412);
		await savePlan(await as("north"), { ...plan, id, version, weekday: 3 });
		await lookForNews();
		await lookForNews();
		expect((await readNews(await as("rep1"))).items.filter(({ words }) => words.includes(" is on "))).toMatchObject([
			{ words: expect.stringContaining("25 Nov") },
		]);
		await removePlan(await as("north"), { id });
		expect(await readPlans(await as("north"))).toEqual([]);
		const context = await as("north");
		for (let from = context.now.day; from < context.now.day + 30; from++) {
			const next = nextOf(context, 4, from);
			expect(next).toBeGreaterThanOrEqual(from);
			expect(context.organisation.company.rules.calendar.isWorking(next)).toBe(true);
		}
	});
});

describe("how calls held", () => {
	test("is counted against what came, by who called and whose the deals were", async () => {
		const { id } = await start();
		await call("boss", id, { call: "holds" });
		await call("boss", id, { dealId: "d2", call: "gone", why: "Price" });
		await endRound(await as("boss"), { id });
		expect((await readHeld(await as("boss"))).managers).toMatchObject([{ id: "boss", held: { holds: { called: 1, open: 1 }, gone: { called: 1, open: 1 } } }]);
		await edit({ stage: "Won", closedOn: "2026-11-24" });
		const { managers, reps, calls } = await readHeld(await as("boss"));
		expect(calls).toBe(2);
		expect(managers).toMatchObject([{ held: { holds: { called: 1, true: 1, false: 0, open: 0 } } }]);
		expect(reps.map(({ id: who }) => who).sort()).toEqual(["rep1", "rep2"]);
		expect((await readHeld(await as("rep1"))).reps.map(({ id: who }) => who)).toEqual(["rep1"]);
	});
});
