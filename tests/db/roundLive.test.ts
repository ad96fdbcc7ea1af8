import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { onSaid } from "@/data/live";
import { editDeals } from "@/features/deals/server/editDeals";
import { goTo, noteRound, placeDeal, promise } from "@/features/rounds/server/conduct";
import { endRound } from "@/features/rounds/server/endRound";
import { makeCall } from "@/features/rounds/server/makeCall";
import { readRests } from "@/features/rounds/server/readRests";
import { readRound } from "@/features/rounds/server/readRound";
import { endRests, giveRest } from "@/features/rounds/server/rests";
import { startRound } from "@/features/rounds/server/startRound";
import { startWalk } from "@/features/rounds/server/startWalk";
import { readDeal } from "@/features/sheet/server/readDeal";
import { takeBackTasks } from "@/features/tasks/server/giveTasks";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";

// Who is told of what happens in a round, and what several do at once.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("round_live");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

/** Whom the database tells something while some work is done. */
async function told(work: () => Promise<unknown>): Promise<string[]> {
	const heard = new Set<string>();
	let revisions = 0;
	const stop = onSaid(database.url, (said) => ("person" in said ? heard.add(said.person) : revisions++));
	await expect.poll(() => revisions, { timeout: 40_000 }).toBeGreaterThan(0);
	await work();
	// What is told is told in order: once this has come, all before it has.
	const before = revisions;
	await giveRest(await as("boss"), { dealId: "d3", until: "2026-12-04", reason: "A last word" });
	await expect.poll(() => revisions, { timeout: 40_000 }).toBeGreaterThan(before);
	stop();
	return [...heard].sort();
}

describe("what happens in a round", () => {
	test("is told to whoever may take part in it, and to nobody else", async () => {
		const { id } = await startRound(await as("north"), { calmToo: true, dealIds: ["d1"] });
		const doings = [
			async () => makeCall(await as("north"), { id, dealId: "d1", call: "shaky" }),
			async () => noteRound(await as("north"), { id, dealId: "d1", note: "They sign", before: "" }),
			async () => promise(await as("north"), { id, lines: [{ dealId: "d1", title: "Ring them", dueOn: "2026-11-27" }] }),
			async () => placeDeal(await as("north"), { id, dealId: "d1", place: 0 }),
		];
		const heard = await told(async () => {
			for (const doing of doings) await doing();
		});
		expect(heard).toEqual(expect.arrayContaining(["boss", "rep1"]));
		for (const who of ["north", "rep2", "view"]) expect(heard).not.toContain(who);
	});
	test("of a walk is told to nobody: it is one’s own", async () => {
		const { id } = await startWalk(await as("boss"), {});
		const { queue } = await readRound(await as("boss"), id);
		const heard = await told(async () => goTo(await as("boss"), { id, dealId: queue[0]?.id ?? "" }));
		expect(heard).toEqual([]);
	});
	test("a promise that is deleted is gone from the round", async () => {
		const { id } = await startRound(await as("boss"), { dealIds: ["d1"] });
		const { tasks } = await promise(await as("boss"), { id, lines: [{ dealId: "d1", title: "Ring them", dueOn: "2026-11-27" }] });
		expect((await readRound(await as("boss"), id)).current?.agreed).toHaveLength(1);
		await takeBackTasks(await as("boss"), { ids: tasks.map((task) => task.id) });
		expect((await readRound(await as("boss"), id)).current?.agreed).toHaveLength(0);
	});
});

describe("several at once", () => {
	test("who end a round: one does, the others are told", async () => {
		const { id } = await startRound(await as("boss"), { calmToo: true });
		const ends = await Promise.allSettled(["boss", "north", "boss"].map(async (who) => endRound(await as(who), { id })));
		expect(ends.filter(({ status }) => status === "fulfilled")).toHaveLength(1);
		for (const end of ends) if (end.status === "rejected") expect(end.reason).toMatchObject({ status: 409 });
	});
	test("who call different deals are all heard", async () => {
		const { id } = await startRound(await as("boss"), { calmToo: true });
		await Promise.all(["d1", "d2", "d3"].map(async (dealId) => makeCall(await as("boss"), { id, dealId, call: "holds" })));
		expect((await readRound(await as("boss"), id)).queue.map(({ call }) => call?.call)).toEqual(["holds", "holds", "holds"]);
	});
	test("who let one deal rest: it rests once", async () => {
		const gives = await Promise.allSettled(["boss", "north"].map(async (who) => giveRest(await as(who), { dealId: "d1", until: "2026-12-04", reason: who })));
		expect(gives.some(({ status }) => status === "fulfilled")).toBe(true);
		const holding = (await readRests(await as("boss"))).rests.filter(({ holds }) => holds);
		expect(holding.length).toBe(gives.filter(({ status }) => status === "fulfilled").length);
		expect(holding).toHaveLength(1);
	});
	test("processes that look for rests that are over end each once, and say it once", async () => {
		await giveRest(await as("boss"), { dealId: "d1", until: "2026-12-04", reason: "Known" });
		const { versionId } = await readDeal(await as("boss"), "d1", undefined);
		await editDeals(await as("boss"), { targets: [{ id: "d1", versionId }], change: { closeDate: "2026-11-20", reason: "Mistaken" } });
		await Promise.all([endRests(), endRests(), endRests()]);
		expect(await endRests()).toEqual([]);
		expect((await readRests(await as("boss"))).rests).toMatchObject([{ holds: false, over: "overdue lit" }]);
	});
});
