import { afterAll, beforeAll, beforeEach, expect, test } from "vitest";
import { connection } from "@/data/db";
import { quotes } from "@/data/schema";
import { editDeals } from "@/features/deals/server/editDeals";
import { noteRound } from "@/features/rounds/server/conduct";
import { decide, makeCall } from "@/features/rounds/server/makeCall";
import { readRound } from "@/features/rounds/server/readRound";
import { giveRest } from "@/features/rounds/server/rests";
import { startRound } from "@/features/rounds/server/startRound";
import { startWalk } from "@/features/rounds/server/startWalk";
import { dealsWithText, search } from "@/features/search/server/search";
import { readDeal } from "@/features/sheet/server/readDeal";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("wordsfound");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const found = async (text: string, who = "boss") => (await dealsWithText(await as(who), { text })).sort();
const edit = async (id: string, change: Parameters<typeof editDeals>[1]["change"]) =>
	editDeals(await as("boss"), { targets: [{ id, versionId: (await readDeal(await as("boss"), id, undefined)).versionId }], change });

test("what was written anywhere of a deal is found by its words, by whoever reaches the deal", async () => {
	await edit("d1", { closeDate: "2026-12-21", reason: "waiting for the heron permit" });
	const { id } = await startRound(await as("boss"), { calmToo: true });
	await makeCall(await as("boss"), { id, dealId: "d1", call: "moves", to: "2026-12-28", why: "the otter survey is late", leave: "none" });
	await noteRound(await as("boss"), { id, dealId: "d2", note: "ask about the badger contract", before: "" });
	await giveRest(await as("boss"), { dealId: "d3", until: "2026-12-01", reason: "till the vole season ends" });
	await connection()
		.db.insert(quotes)
		.values({ id: "q-newt", dealId: "d2", number: "Q-77", sentOn: "2026-11-02", validUntil: "2026-12-02", answer: "the newt clause is refused" });
	expect(await found("heron permit")).toEqual(["d1"]);
	expect(await found("OTTER")).toEqual(["d1"]);
	expect(await found("badger")).toEqual(["d2"]);
	expect(await found("vole season")).toEqual(["d3"]);
	expect(await found("newt clause")).toEqual(["d2"]);
	// Others' deals aren't found by their words.
	expect(await found("badger", "rep1")).toEqual([]);
	expect(await found("heron", "rep1")).toEqual(["d1"]);
	await edit("d1", { stage: "Lost", outcomeReason: "the stoat budget went", competitor: null });
	expect(await found("stoat")).toEqual(["d1"]);
	expect((await search(await as("boss"), { text: "stoat" })).map(({ kind, dealId }) => [kind, dealId])).toEqual([["text", "d1"]]);
});

test("what a walk decided is found by whoever walked alone", async () => {
	const { id } = await startWalk(await as("boss"), {});
	const [first] = (await readRound(await as("boss"), id)).queue;
	await decide(await as("boss"), { id, dealId: first?.id ?? "", decision: "look", why: "the lynx visit settles it" });
	expect(await found("lynx")).toEqual([first?.id]);
	for (const who of ["north", "rep1", "rep2", "view"]) expect(await found("lynx", who)).toEqual([]);
});
