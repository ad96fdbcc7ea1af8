import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { promise } from "@/features/rounds/server/conduct";
import { endRound } from "@/features/rounds/server/endRound";
import { roundsOfDeal } from "@/features/rounds/server/ofDeal";
import { countDueRounds, makePlanned, readPlans, savePlan } from "@/features/rounds/server/plans";
import { promisesOf } from "@/features/rounds/server/promises";
import { readRound } from "@/features/rounds/server/readRound";
import { startRound } from "@/features/rounds/server/startRound";
import { startWalk } from "@/features/rounds/server/startWalk";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";

// The day is Tuesday, 24 November 2026.
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("round_plans");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const plan = async (who: string, name: string, weekday: number, whose = "all") => savePlan(await as(who), { id: null, name, whose, weekday });

describe("planned rounds", () => {
	test("stand by their next day, then by name; who doesn’t hold them sees theirs, and is due none", async () => {
		await plan("boss", "Zeal", 2);
		await plan("boss", "Ale", 2);
		await plan("boss", "Monday’s", 1);
		await plan("boss", "Thursday’s", 4, "team:North");
		const boss = await as("boss");
		expect((await readPlans(boss)).map(({ name, next, due, mayHold }) => [name, next, due, mayHold])).toEqual([
			["Ale", "2026-11-24", true, true],
			["Zeal", "2026-11-24", true, true],
			["Thursday’s", "2026-11-26", false, true],
			["Monday’s", "2026-11-30", false, true],
		]);
		expect(await countDueRounds(boss)).toBe(2);
		const rep = await as("rep1");
		expect((await readPlans(rep)).every(({ mayHold }) => !mayHold)).toBe(true);
		expect(await countDueRounds(rep)).toBe(0);
	});
	test("are changed by those alone who see them, and as they were seen", async () => {
		const { id } = await plan("boss", "Everyone’s", 2);
		expect(await faultOf(async () => savePlan(await as("boss"), { id, version: 7, name: "Other", whose: "all", weekday: 3 }))).toMatchObject({ status: 412 });
		expect(await faultOf(async () => savePlan(await as("boss"), { id: "nowhere", name: "Other", whose: "all", weekday: 3 }))).toMatchObject({ status: 404 });
		const own = await plan("boss", "My own", 2, "person:boss");
		expect(await faultOf(async () => savePlan(await as("north"), { id: own.id, version: 1, name: "Other", whose: "team:North", weekday: 3 }))).toMatchObject({
			status: 404,
		});
		expect(await savePlan(await as("boss"), { id, version: 1, name: "Fridays", whose: "all", weekday: 5 })).toEqual({ id, version: 2 });
		expect((await readPlans(await as("boss"))).map(({ name, next, version }) => [name, next, version])).toEqual([
			["My own", "2026-11-24", 1],
			["Fridays", "2026-11-27", 2],
		]);
	});
	test("beside a round that was started without one, the due are named, as long as it runs", async () => {
		const planned = await plan("boss", "Tuesday’s", 2);
		const { id } = await startRound(await as("boss"), { calmToo: true });
		expect(await readRound(await as("boss"), id)).toMatchObject({ due: [{ id: planned.id, name: "Tuesday’s" }], ended: false, mayHold: true, mayNote: true });
		expect((await readRound(await as("rep1"), id)).due).toEqual([]);
		await makePlanned(await as("boss"), { id, planId: planned.id });
		expect((await readRound(await as("boss"), id)).due).toEqual([]);
		expect(await countDueRounds(await as("boss"))).toBe(0);
		await endRound(await as("boss"), { id, dealIds: [] } as never);
		expect(await readRound(await as("boss"), id)).toMatchObject({ due: [], ended: true, mayHold: false, mayNote: false });
	});
	test("a walk is planned by nobody", async () => {
		await plan("boss", "Tuesday’s", 2);
		const { id } = await startWalk(await as("boss"), { dealIds: ["d1", "d2"], name: "Two" } as never);
		expect((await readRound(await as("boss"), id)).due).toEqual([]);
	});
});

describe("promises", () => {
	test("are told with who gave them and what they came to, and none before the day they were given", async () => {
		const { id } = await startRound(await as("boss"), { calmToo: true });
		await promise(await as("boss"), { id, lines: [{ dealId: "d1", title: "Ask", dueOn: "2026-11-27" }] });
		await giveTasks(await as("boss"), { dealIds: ["d1"], title: "No promise", dueOn: "2026-11-27", flags: [] } as never);
		const boss = await as("boss");
		const told = await promisesOf(boss, { rounds: [id] }, boss.now.day);
		expect(told).toMatchObject([
			{ roundId: id, dealId: "d1", title: "Ask", who: "Rae Penn", whoId: "rep1", given: "2026-11-24", due: "2026-11-27", fate: "open", doneOn: null },
		]);
		expect(await promisesOf(boss, { deals: ["d1"] }, boss.now.day)).toEqual(told);
		expect(await promisesOf(boss, { deals: ["d2"] }, boss.now.day)).toEqual([]);
		expect(await promisesOf(boss, { rounds: [] }, boss.now.day)).toEqual([]);
		expect(await promisesOf(boss, { rounds: [id] }, day("2026-11-23"))).toEqual([]);
	});
});

test("on a deal’s sheet it is said whether a flag is lit, which could be left alone", async () => {
	const lit = async (id: string) => (await roundsOfDeal(await as("boss"), { dealId: id })).lit;
	expect([await lit("d1"), await lit("d2")]).toEqual([true, true]);
	expect(await roundsOfDeal(await as("rep1"), { dealId: "d1" })).toMatchObject({ calls: [], mayGive: false, mayRest: true });
});
