import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { noteRound, promise } from "@/features/rounds/server/conduct";
import { dropRound, endRound, reopenRound } from "@/features/rounds/server/endRound";
import { minutesFile } from "@/features/rounds/server/files";
import { makeCall } from "@/features/rounds/server/makeCall";
import { readHeld } from "@/features/rounds/server/readHeld";
import { readMinutes } from "@/features/rounds/server/readMinutes";
import { readRound } from "@/features/rounds/server/readRound";
import { readRounds } from "@/features/rounds/server/readRounds";
import { endRests, giveRest } from "@/features/rounds/server/rests";
import { startRound } from "@/features/rounds/server/startRound";
import { startWalk } from "@/features/rounds/server/startWalk";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";

// One round from its start to its minutes, told again by hand.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("rounds_told");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const start = async (who = "boss", more: Partial<Parameters<typeof startRound>[1]> = {}) => startRound(await as(who), { calmToo: true, ...more });
const call = async (id: string, dealId: string, given: Partial<Parameters<typeof makeCall>[1]>) =>
	makeCall(await as("boss"), { id, dealId, call: "holds", ...given });
const written = async () =>
	(await connection().pool.query("select action, subject, detail from audit where action <> 'bundle imported' order by id")).rows.map(
		(row) => [row.action, row.subject, row.detail] as const,
	);

describe("a round from its start to its minutes", () => {
	const held = async () => {
		const { id } = await start();
		await call(id, "d1", { call: "moves", to: "2027-01-15", why: "They asked for time", leave: "task" });
		await call(id, "d2", { call: "shaky" });
		await noteRound(await as("boss"), { id, dealId: "d2", note: "No money yet", before: "" });
		await promise(await as("boss"), { id, lines: [{ dealId: "d2", title: "Ask for the budget", dueOn: "2026-11-27" }] });
		return id;
	};
	test("is a file: its calls, its promises, and the totals before and after", async () => {
		const id = await held();
		const context = await as("boss");
		const file = await minutesFile.read(context, resolveViewpoint(context, {}), (name) => (name === "round" ? id : undefined));
		expect(file.columns.map(({ label, kind }) => `${label} ${kind}`)).toEqual([
			"Deal text",
			"Account text",
			"Rep text",
			"Category text",
			"Amount EUR amount",
			"Call text",
			"New close date day",
			"Reason text",
			"By text",
			"Note text",
			"Changed text",
		]);
		const byName = Object.fromEntries(file.rows.map((row) => [row[0], row]));
		expect(byName["Deck ovens"]).toEqual([
			"Deck ovens",
			"Millrace Bread",
			"Rae",
			"best_case",
			120_000,
			"moves",
			"2027-01-15",
			"They asked for time",
			"Bo Sable",
			"",
			"",
		]);
		expect(byName.Mixers).toEqual(["Mixers", "Oat Inn", "Sol", "pipeline", 50_000, "shaky", null, null, "Bo Sable", "No money yet", ""]);
		expect(byName["Left behind"]?.slice(5)).toEqual(["", null, null, null, "", ""]);
		const [promised, totals] = file.sheets ?? [];
		expect(promised?.columns.map(({ label, kind }) => `${label} ${kind}`)).toEqual(["Promise text", "Who text", "By day", "What happened to it text"]);
		expect(promised?.rows.find(([title]) => title === "Ask for the budget")).toEqual(["Ask for the budget", "Sol Quint", "2026-11-27", "open"]);
		expect(totals?.columns.map(({ label, kind }) => `${label} ${kind}`)).toEqual([" text", "Before EUR amount", "After EUR amount"]);
		expect(totals?.rows.map(([words]) => words)).toEqual(["target", "won", "by the reps", "by the calls", "called shaky"]);
		expect(totals?.rows.at(-1)).toEqual(["called shaky", 0, 50_000]);
	});
	test("says of each deal what was said, and counts those not called", async () => {
		const id = await held();
		const view = await readMinutes(await as("boss"), id);
		expect(Object.fromEntries(view.deals.map(({ id: deal, said }) => [deal, said]))).toEqual({
			d1: "Moves to 15 Jan 2027: They asked for time",
			d2: "Shaky",
			d3: "not called",
		});
		expect([view.uncalled, view.hidden, view.startedBy, view.on, view.ended]).toEqual([1, 0, "Bo Sable", "2026-11-24", false]);
		expect(view.kept).toEqual({ kept: 0, late: 0, "not done": 0, dropped: 0, open: 0 });
	});
	test("is written down: started, called, promised, ended, opened again", async () => {
		const id = await held();
		await endRound(await as("boss"), { id });
		await reopenRound(await as("boss"), { id });
		const entries = await written();
		const actions = entries.map(([action]) => action);
		expect(actions[0]).toBe("round started");
		expect(actions.slice(-2)).toEqual(["round ended", "round reopened"]);
		expect(entries[0]).toEqual(["round started", id, { name: "Round with everyone", deals: 3 }]);
		expect(entries.find(([action, subject]) => action === "deal called" && subject === "d2")).toEqual([
			"deal called",
			"d2",
			{ round: "Round with everyone", call: "shaky", to: null, left: "none" },
		]);
		expect(entries.at(-2)?.slice(1)).toEqual([id, { name: "Round with everyone" }]);
	});
	test("can be deleted while nothing was said in it, and by whoever started it alone", async () => {
		const { id } = await start();
		await call(id, "d2", { call: "shaky" });
		expect(await faultOf(async () => dropRound(await as("boss"), { id }))).toMatchObject({ status: 409, title: "Round has entries" });
		const { id: noted } = await start("boss", { whose: "team:North" });
		await noteRound(await as("boss"), { id: noted, dealId: "d1", note: "Mind the date", before: "" });
		expect(await faultOf(async () => dropRound(await as("boss"), { id: noted }))).toMatchObject({ status: 409, title: "Round has entries" });
		const { id: bare } = await start("boss", { whose: "team:South" });
		await dropRound(await as("boss"), { id: bare });
		expect((await written()).at(-1)).toEqual(["round deleted", bare, { name: expect.any(String) }]);
		expect(await faultOf(async () => dropRound(await as("boss"), { id: bare }))).toMatchObject({ status: 404 });
	});
	test("is opened again only where it has ended and no other runs for the same people", async () => {
		const id = await held();
		expect(await faultOf(async () => reopenRound(await as("boss"), { id }))).toMatchObject({ status: 409, title: "Still running" });
		await endRound(await as("boss"), { id });
		const other = await start();
		expect(await faultOf(async () => reopenRound(await as("boss"), { id }))).toMatchObject({ status: 409, title: "Another round is running" });
		await dropRound(await as("boss"), { id: other.id });
		await reopenRound(await as("boss"), { id });
		expect((await readRound(await as("boss"), id)).ended).toBe(false);
	});
});

describe("a round starts", () => {
	test("with the deals that need most first, or the largest, or as they were chosen", async () => {
		const queue = async (more: Partial<Parameters<typeof startRound>[1]>) => {
			const { id } = await start("boss", more);
			const order = (await readRound(await as("boss"), id)).queue.map((one) => one.id);
			await dropRound(await as("boss"), { id });
			return order;
		};
		expect(await queue({ sorted: "amount" })).toEqual(["d1", "d3", "d2"]);
		expect(await queue({ dealIds: ["d3", "d1", "d3"], sorted: "hand" })).toEqual(["d3", "d1"]);
		const { deals } = await readMinutes(await as("boss"), (await start()).id);
		expect(deals).toHaveLength(3);
	});
	test("under a name that says whose deals it is over", async () => {
		const named = async (who: string, whose?: string) => (await start(who, whose ? { whose } : {})).name;
		expect(await named("boss")).toBe("Round with everyone");
		expect(await named("boss", "team:North")).toBe("Round with North team");
		expect(await named("boss", "person:rep1")).toBe("Round with Rae Penn");
	});
	test("leaves a mark, once for each name and moment", async () => {
		const { mark } = await start();
		expect(mark).toBe("Round with everyone, 24 Nov");
	});
	test("of lit deals alone leaves out the calm", async () => {
		const { id } = await startRound(await as("boss"), {});
		const { queue } = await readRound(await as("boss"), id);
		for (const one of queue) expect(one.level).not.toBe("calm");
	});
});

describe("a call", () => {
	test("of a new date needs the date, not yet passed, and a reason; of a loss its reason", async () => {
		const { id } = await start();
		const refused = async (given: Parameters<typeof call>[2]) => {
			const { status, title } = (await faultOf(() => call(id, "d1", given))) as { status: number; title: string };
			return [status, title];
		};
		expect(await refused({ call: "moves" })).toEqual([422, "No day"]);
		expect(await refused({ call: "moves", to: "2026-11-23", why: "x" })).toEqual([422, "The day has passed"]);
		expect(await refused({ call: "moves", to: "2026-11-25" })).toEqual([422, "No reason"]);
		expect(await refused({ call: "gone" })).toEqual([422, "No reason"]);
		// Today will do.
		expect(await call(id, "d1", { call: "moves", to: "2026-11-24", why: "Today" })).toMatchObject({ id: expect.any(Number) });
	});
	test("of a round that has ended is counted against what came of it", async () => {
		const { id } = await start();
		await call(id, "d1", { call: "holds" });
		await call(id, "d3", { call: "holds" });
		await endRound(await as("boss"), { id });
		const told = await readHeld(await as("boss"));
		expect(told.calls).toBe(2);
		expect(told.managers.map(({ name, commit }) => [name, commit])).toEqual([["Bo Sable", { called: 1, true: 0, false: 0, open: 1 }]]);
		expect(told.reps.map(({ id: rep, commit }) => [rep, commit.called])).toEqual([
			["gone", 1],
			["rep1", 0],
		]);
	});
});

describe("a walk and a rest", () => {
	test("are written down, each by its name", async () => {
		await startWalk(await as("boss"), {});
		const [action, , detail] = (await written()).at(-1) ?? [];
		expect([action, Object.keys(detail ?? {}).length > 0]).toEqual(["walk started", true]);
		await giveRest(await as("boss"), { dealId: "d2", until: "2026-12-04", reason: "Known" });
		expect((await written()).at(-1)?.slice(0, 2)).toEqual(["rest given", "d2"]);
		expect(await endRests()).toEqual([]);
		expect((await readRounds(await as("boss"))).rounds.map(({ kind, ended }) => [kind, ended])).toEqual([["walk", false]]);
	});
});
