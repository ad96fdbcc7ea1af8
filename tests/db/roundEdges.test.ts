import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { editDeals } from "@/features/deals/server/editDeals";
import { undoEdit } from "@/features/deals/server/undoEdit";
import { savePerson } from "@/features/people/server/managePeople";
import { API_ROUTES } from "@/features/registry";
import { goTo, noteRound, placeDeal, promise, takeDeal } from "@/features/rounds/server/conduct";
import { endRound, reopenRound } from "@/features/rounds/server/endRound";
import { minutesFile } from "@/features/rounds/server/files";
import { decide, makeCall, takeCallBack } from "@/features/rounds/server/makeCall";
import { makePlanned, savePlan } from "@/features/rounds/server/plans";
import { readMinutes } from "@/features/rounds/server/readMinutes";
import { readRests } from "@/features/rounds/server/readRests";
import { readRound } from "@/features/rounds/server/readRound";
import { readRounds } from "@/features/rounds/server/readRounds";
import { giveRest } from "@/features/rounds/server/rests";
import { startRound } from "@/features/rounds/server/startRound";
import { startWalk } from "@/features/rounds/server/startWalk";
import { minutesMarkdown } from "@/features/rounds/table/markdown";
import { readDeal } from "@/features/sheet/server/readDeal";
import { resolveViewpoint } from "@/platform/viewpoint";
import { more, small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf, wordsOf } from "../kit/fault";

// What may happen to a round while it runs, and the same through the API.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("round_edges");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const start = async (who = "boss") => (await startRound(await as(who), { calmToo: true })).id;
const edit = async (change: Parameters<typeof editDeals>[1]["change"], id = "d1") =>
	editDeals(await as("boss"), { targets: [{ id, versionId: (await readDeal(await as("boss"), id, undefined)).versionId }], change });
const queue = async (who: string, id: string) => (await readRound(await as(who), id)).queue.map((deal) => [deal.id, deal.status]);

describe("what is named by its id", () => {
	const plan = { id: null, name: "Mondays", whose: "team:South", weekday: 1 } as const;
	test("a plan of others can’t be used up, nor one started with other people, nor one that isn’t there", async () => {
		const { id } = await savePlan(await as("boss"), plan);
		for (const planId of [id, "no-such-plan"]) {
			expect((await faultOf(async () => startRound(await as("north"), { calmToo: true, planId }))).status).toBe(404);
			const { id: mine } = await startRound(await as("north"), { calmToo: true });
			expect((await faultOf(async () => makePlanned(await as("north"), { id: mine, planId }))).status).toBe(404);
			await endRound(await as("north"), { id: mine });
		}
		expect(await wordsOf(async () => startRound(await as("boss"), { calmToo: true, whose: "team:North", planId: id }))).toContain("planned for other people");
		await startRound(await as("boss"), { calmToo: true, planId: id });
	});
	test("a round that was started without a plan is made the planned one, once, and not any more", async () => {
		const today = (new Date((await as("boss")).now.day * 86_400_000).getUTCDay() + 6) % 7;
		const planId = (await savePlan(await as("boss"), { ...plan, whose: "team:North", weekday: Math.min(5, today + 1) })).id;
		const id = await start("north");
		await makePlanned(await as("north"), { id, planId });
		expect((await readRound(await as("north"), id)).name).toBe("Mondays");
		expect(await wordsOf(async () => startRound(await as("north"), { calmToo: true, planId }))).toContain("was already started today");
		expect((await faultOf(async () => makePlanned(await as("north"), { id, planId }))).status).toBe(409);
		await makePlanned(await as("north"), { id, planId: null });
		expect((await readRound(await as("north"), id)).name).toBe("Mondays");
		await startRound(await as("north"), { calmToo: true, planId });
	});
	test("a decision of a walk isn’t written over one that wasn’t seen, nor on a deal that is closed since", async () => {
		const { id } = await startWalk(await as("boss"), {});
		const [first, second] = (await readRound(await as("boss"), id)).queue;
		const one = await decide(await as("boss"), { id, dealId: first?.id ?? "", decision: "look" });
		expect(await wordsOf(async () => decide(await as("boss"), { id, dealId: first?.id ?? "", decision: "rest" }))).toContain("decided “looked at”");
		await decide(await as("boss"), { id, dealId: first?.id ?? "", decision: "rest", seen: one.id });
		if (!second) return;
		await edit({ stage: "Won", closedOn: "2026-11-24" }, second.id);
		expect(await faultOf(async () => decide(await as("boss"), { id, dealId: second.id, decision: "look" }))).toMatchObject({ title: "The deal is closed" });
	});
	test("nothing of a walk’s minutes says promise", async () => {
		const { id } = await startWalk(await as("boss"), {});
		const [first] = (await readRound(await as("boss"), id)).queue;
		await promise(await as("boss"), { id, lines: [{ dealId: first?.id ?? "", title: "Ring them", dueOn: "2026-12-01" }] });
		await endRound(await as("boss"), { id });
		const view = await readMinutes(await as("boss"), id);
		const file = await minutesFile.read(await as("boss"), resolveViewpoint(await as("boss"), {}), (name) => (name === "round" ? id : undefined));
		for (const text of [minutesMarkdown(view, String), JSON.stringify(file)]) expect(text).not.toMatch(/promis/i);
		expect(minutesMarkdown(view, String)).toContain("## 1 task given");
	});
});

describe("while a round runs", () => {
	test("a deal that is won leaves what is open, counts as won, and stands in the queue as such", async () => {
		const id = await start();
		await makeCall(await as("boss"), { id, dealId: "d1", call: "holds" });
		const before = (await readRound(await as("boss"), id)).totals;
		await edit({ stage: "Won", closedOn: "2026-11-24" });
		const { totals } = await readRound(await as("boss"), id);
		expect(totals.won).toBe(before.won + 120_000);
		// Once it is won its call says nothing more: both sums hold it once.
		expect(totals.byCalls).toBe(before.byCalls);
		expect(totals.byWord).toBe(before.byWord + 120_000);
		expect(await queue("boss", id)).toContainEqual(["d1", "won"]);
	});
	test("a deal that is given to another team is hidden from who no longer reaches it, and its call stays in the minutes of who does", async () => {
		const id = await start("north");
		await makeCall(await as("north"), { id, dealId: "d1", call: "shaky" });
		await edit({ ownerId: "rep2" });
		expect(await queue("north", id)).not.toContainEqual(["d1", "open"]);
		expect((await readRound(await as("north"), id)).hidden).toBe(1);
		expect((await faultOf(async () => readRound(await as("rep2"), id))).status).toBe(404);
		expect((await readMinutes(await as("boss"), id)).deals.find((deal) => deal.id === "d1")).toMatchObject({ said: "Shaky", ownerId: "rep1" });
		expect((await faultOf(async () => makeCall(await as("north"), { id, dealId: "d1", call: "holds", seen: 1 }))).status).toBe(404);
	});
	test("a deal may be in two rounds at once: each has its own calls and totals", async () => {
		const [one, other] = [await start("boss"), await start("north")];
		await makeCall(await as("boss"), { id: one, dealId: "d1", call: "holds" });
		await makeCall(await as("north"), { id: other, dealId: "d1", call: "gone", why: "Price" });
		const said = async (who: string, id: string) => (await readRound(await as(who), id)).queue.find((deal) => deal.id === "d1")?.call?.call;
		expect([await said("boss", one), await said("north", other)]).toEqual(["holds", "gone"]);
		expect((await readRounds(await as("rep1"))).rounds.map(({ id }) => id).sort()).toEqual([one, other].sort());
	});
	test("somebody who leaves keeps what they promised, by name", async () => {
		const id = await start();
		await promise(await as("boss"), { id, lines: [{ dealId: "d1", title: "Ring them", dueOn: "2026-11-27" }] });
		const { name, email, role, team } = (await as("rep1")).actor.person;
		await savePerson(await as("ops"), { id: "rep1", name, email, role, team, activeFrom: null, activeTo: "2026-11-20" });
		const { promises, deals } = await readMinutes(await as("boss"), id);
		expect(promises).toMatchObject([{ title: "Ring them", who: "Rae Penn", fate: "open" }]);
		expect(deals.map((deal) => deal.owner)).toContain("Rae");
	});
	test("changes that are deleted aren’t in its minutes; those of before and after neither", async () => {
		await edit({ amount: 55_000 });
		const id = await start();
		const [done] = await edit({ amount: 66_000 });
		await undoEdit(await as("boss"), { targets: [{ id: "d1", versionId: done?.versionId ?? 0 }] });
		await edit({ category: "commit" });
		await endRound(await as("boss"), { id });
		await edit({ amount: 88_000 });
		const changes = (await readMinutes(await as("boss"), id)).deals.find((deal) => deal.id === "d1")?.changes.map(({ words }) => words);
		expect(changes).toEqual(["category best case → commit"]);
	});
	test("only deals of the round are called, noted and promised for; of a round that has ended none", async () => {
		const id = await start();
		await takeDeal(await as("boss"), { id, dealId: "d2", into: false });
		for (const doing of [
			async () => makeCall(await as("boss"), { id, dealId: "d2", call: "holds" }),
			async () => noteRound(await as("boss"), { id, dealId: "d2", note: "x", before: "" }),
			async () => promise(await as("boss"), { id, lines: [{ dealId: "d2", title: "x", dueOn: "2026-11-27" }] }),
			async () => decide(await as("boss"), { id, dealId: "d1", decision: "look" }),
		])
			expect([404, 409]).toContain((await faultOf(doing)).status);
		const { id: call } = await makeCall(await as("boss"), { id, dealId: "d1", call: "holds" });
		await endRound(await as("boss"), { id });
		for (const doing of [
			async () => takeCallBack(await as("boss"), { id, dealId: "d1", seen: call }),
			async () => noteRound(await as("boss"), { id, dealId: null, note: "x", before: "" }),
			async () => endRound(await as("boss"), { id }),
		])
			expect((await faultOf(doing)).status).toBe(409);
		// Another one over the same people keeps it closed.
		await start();
		expect(await wordsOf(async () => reopenRound(await as("boss"), { id }))).toContain("is running for the same people");
	});
	test("who takes part in a larger round moves and goes to none of others’ deals", async () => {
		const id = await start("boss");
		expect((await faultOf(async () => goTo(await as("north"), { id, dealId: "d2" }))).status).toBe(404);
		expect((await faultOf(async () => placeDeal(await as("north"), { id, dealId: "d2", place: 0 }))).status).toBe(404);
		await goTo(await as("north"), { id, dealId: "d1" });
	});
	test("a rep notes of their own deals, and not of the round as a whole", async () => {
		const id = await start();
		await noteRound(await as("rep1"), { id, dealId: "d1", note: "Mine", before: "" });
		expect((await faultOf(async () => noteRound(await as("rep1"), { id, dealId: "d2", note: "x", before: "" }))).status).toBe(404);
		expect((await faultOf(async () => noteRound(await as("rep1"), { id, dealId: null, note: "x", before: "" }))).status).toBe(403);
		expect((await faultOf(async () => noteRound(await as("view"), { id, dealId: "d1", note: "x", before: "" }))).status).toBe(403);
		await noteRound(await as("boss"), { id, dealId: null, note: "A good week", before: "" });
		expect((await readMinutes(await as("rep1"), id)).note).toBe("A good week");
	});
	test("the same call sent twice under one name is made once", async () => {
		const id = await start();
		const context = { ...(await as("boss")), once: "call-1" };
		const first = await makeCall(context, { id, dealId: "d1", call: "holds" });
		expect(await makeCall(context, { id, dealId: "d1", call: "holds" })).toEqual(first);
		expect((await readRound(await as("boss"), id)).queue.find((deal) => deal.id === "d1")?.newest).toBe(first.id);
	});
});

describe("a walk", () => {
	test("holds on its second day only what has lit since the first, besides what is at act", async () => {
		await refill(
			small({
				...more("deals.csv", "d4,a1,Later,Web,2026-11-02T09:00:00Z,,,"),
				...more("deal_versions.csv", "d4,2026-11-02T09:00:00Z,Terms,900,EUR,2026-11-25,rep1,commit,Sign,2026-11-25"),
			}),
		);
		const first = await startWalk(await as("boss"), {});
		await endRound(await as("boss"), { id: first.id });
		const second = await startWalk(await as("boss", "2026-11-27"), {}).catch(() => null);
		if (!second) return;
		const levels = (await readRound(await as("boss", "2026-11-27"), second.id)).queue.map(({ id, level }) => [id, level]);
		for (const [, level] of levels) expect(level).not.toBe("calm");
	});
});

describe("through the API", () => {
	const callOf = (id: string) => {
		const call = API_ROUTES.find((one) => one.id === id);
		if (!call) throw new Error(`no call ${id}`);
		return call;
	};
	const ask = async <T>(id: string, { params = {}, body = {}, query = {} }: { params?: object; body?: object; query?: object } = {}, who = "boss") => {
		const call = callOf(id);
		const answer = await call.run(await as(who), { params, body: call.body?.parse(body) ?? body, query: call.query?.parse(query) ?? query } as never);
		return (call.answer ? call.answer.parse(answer) : answer) as T;
	};
	test("a round is started, called, read and ended; rests are given, listed and ended", async () => {
		const { id, deals } = await ask<{ id: string; deals: number }>("startRound", { body: { calmToo: true } });
		expect(deals).toBe(3);
		await ask("callDeal", { params: { id }, body: { dealId: "d1", call: "moves", to: "2027-01-29", why: "Board" } });
		const minutes = await ask<{ deals: { id: string; call: { to: string } | null }[]; ended: boolean; kept: object }>("readRound", { params: { id } });
		expect(minutes.deals.find((deal) => deal.id === "d1")?.call?.to).toBe("2027-01-29");
		expect(minutes.ended).toBe(false);
		await ask("endRound", { params: { id } });
		expect((await ask<{ items: { id: string; ended: boolean }[] }>("listRounds")).items).toMatchObject([{ id, ended: true }]);
		const rest = await ask<{ id: string }>("giveRest", { body: { dealId: "d1", until: "2026-12-04", reason: "Known" } });
		expect((await ask<{ items: object[] }>("listRests", {}, "rep1")).items).toMatchObject([{ id: rest.id, dealId: "d1", holds: true }]);
		expect((await ask<{ items: object[] }>("listRests", {}, "rep2")).items).toEqual([]);
		await ask("endRest", { params: { id: rest.id } });
		expect((await readRests(await as("boss"))).rests.some(({ holds }) => holds)).toBe(false);
	});
	test("what is wrong is refused before anything is written, and a list comes a part at a time", async () => {
		expect(() => callOf("callDeal").body?.parse({ dealId: "d1", call: "perhaps" })).toThrow();
		expect(() => callOf("giveRest").body?.parse({ dealId: "d1", until: "soon", reason: "x" })).toThrow();
		expect(() => callOf("startRound").body?.parse({ dealIds: Array.from({ length: 501 }, (_, i) => `d${i}`) })).toThrow();
		for (let i = 0; i < 3; i++) await start();
		const first = await ask<{ items: { id: string }[]; next: string }>("listRounds", { query: { limit: "2" } });
		const rest = await ask<{ items: { id: string }[]; next: null }>("listRounds", { query: { limit: "2", cursor: first.next } });
		expect([first.items.length, rest.items.length, rest.next]).toEqual([2, 1, null]);
	});
	test("minutes go out as a table with its promises and totals beside", async () => {
		const id = await start();
		await giveRest(await as("boss"), { dealId: "d2", until: "2026-12-04", reason: "Known" });
		await promise(await as("boss"), { id, lines: [{ dealId: "d1", title: "Ring them", dueOn: "2026-11-27" }] });
		const context = await as("boss");
		const { columns, rows, sheets } = await minutesFile.read(context, resolveViewpoint(context, {}), (name) => (name === "round" ? id : undefined));
		expect(rows).toHaveLength(3);
		expect(rows.every((row) => row.length === columns.length)).toBe(true);
		expect(sheets?.map(({ name, rows: own }) => [name, own.length])).toEqual([
			["Promised", 1],
			["Totals", 5],
		]);
		expect((await faultOf(async () => minutesFile.read(await as("rep2"), resolveViewpoint(context, {}), () => "nothing"))).status).toBe(404);
	});
});
