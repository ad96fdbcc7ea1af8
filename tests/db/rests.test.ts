import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { LIGHTS } from "@/core/attention/attention";
import { surveyOn } from "@/core/survey";
import { editDeals } from "@/features/deals/server/editDeals";
import { countAct } from "@/features/deals/server/readDeals";
import { lookForNews } from "@/features/reaching/server/detectHappenings";
import { readNews } from "@/features/reaching/server/wishes";
import { briefText } from "@/features/rounds/server/briefOf";
import { endRound } from "@/features/rounds/server/endRound";
import { decide } from "@/features/rounds/server/makeCall";
import { roundsOfDeal } from "@/features/rounds/server/ofDeal";
import { readBrief } from "@/features/rounds/server/readBrief";
import { readRests } from "@/features/rounds/server/readRests";
import { readRound } from "@/features/rounds/server/readRound";
import { answerRest, askRest, endRest, endRests, giveRest } from "@/features/rounds/server/rests";
import { readWalk, startWalk } from "@/features/rounds/server/startWalk";
import { readDeal } from "@/features/sheet/server/readDeal";
import { writeNote } from "@/features/sheet/server/writeNote";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf, wordsOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("rests");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const seen = async (id = "d1", on?: string) => {
	const { organisation, now } = await as("boss", on);
	return surveyOn(organisation.company, now.day).deals[organisation.dealIndex.get(id) ?? -1];
};
const rest = async (who = "boss", more: Partial<Parameters<typeof giveRest>[1]> = {}, on?: string) =>
	giveRest(await as(who, on), { dealId: "d1", until: "2026-12-04", reason: "Board meets 3 Dec, known", ...more });
const edit = async (change: Parameters<typeof editDeals>[1]["change"], on?: string) =>
	editDeals(await as("boss", on), { targets: [{ id: "d1", versionId: (await readDeal(await as("boss", on), "d1", undefined)).versionId }], change });
const holds = async (on?: string) => (await readRests(await as("boss", on))).rests.map((one) => [one.state, one.holds, one.over]);

describe("a rest", () => {
	test("takes a lit deal out of every count until its day, and leaves score and flags", async () => {
		const before = await seen();
		if (!before) throw new Error("no deal");
		expect(before.attention.level).not.toBe("calm");
		const levels = async (on?: string) => {
			const { organisation, now } = await as("boss", on);
			const deals = surveyOn(organisation.company, now.day).deals;
			return LIGHTS.map((level) => deals.filter((deal) => deal?.status === "open" && deal.attention.level === level).length);
		};
		const [calm = 0, ...lit] = await levels();
		await rest();
		const after = await seen();
		expect(after).toMatchObject({ attention: { ...before.attention, level: "calm" }, rest: { reason: "Board meets 3 Dec, known" } });
		expect(after?.flags.map(({ code }) => code)).toEqual(before.flags.map(({ code }) => code));
		const [more = 0, ...fewer] = await levels();
		expect([more, fewer.reduce((sum, n) => sum + n, 0)]).toEqual([calm + 1, lit.reduce((sum, n) => sum + n, 0) - 1]);
		const boss = await as("boss");
		expect(countAct(boss, resolveViewpoint(boss, { due: "any" }))).toBe(fewer[LIGHTS.indexOf("act") - 1] ?? 0);
		expect((await readDeal(boss, "d1", undefined)).attention.level).toBe("calm");
		// On its day it is lit again by itself.
		expect((await seen("d1", "2026-12-04"))?.attention.level).not.toBe("calm");
		expect(await holds()).toEqual([["given", true, null]]);
		expect((await seen("d1", "2026-11-25"))?.rest?.until).toBe((await seen())?.rest?.until);
	});
	test("ends when another flag lights, says which, and stays ended when that goes out again", async () => {
		await rest();
		// A date that has passed is another flag.
		await edit({ closeDate: "2026-11-20", reason: "Mistaken" });
		expect((await seen())?.rest).toBeNull();
		expect((await seen())?.attention.level).not.toBe("calm");
		expect(await holds()).toEqual([["given", false, "overdue lit"]]);
		expect(await endRests()).toEqual(["1 rests ended"]);
		expect(await endRests()).toEqual([]);
		await edit({ closeDate: "2026-12-18", reason: "Put right" });
		expect((await seen())?.rest).toBeNull();
		expect(await holds()).toEqual([["given", false, "overdue lit"]]);
	});
	test("is a manager’s to give, of deals within reach that are lit, till a day ahead that isn’t far", async () => {
		expect((await faultOf(() => rest("rep1"))).status).toBe(403);
		expect((await faultOf(() => rest("north", { dealId: "d2" }))).status).toBe(404);
		expect(await wordsOf(() => rest("boss", { until: "2026-11-24" }))).toContain("today is");
		expect(await wordsOf(() => rest("boss", { until: "2027-11-24" }))).toContain("at most 120 days");
		expect(await wordsOf(() => rest("boss", { reason: " " }))).toContain("Enter a reason");
		await rest();
		expect(await wordsOf(() => rest())).toContain("At rest until 2026-12-04: Board meets 3 Dec, known");
		const [{ id = "" } = {}] = (await readRests(await as("boss"))).rests;
		expect((await faultOf(async () => endRest(await as("rep1"), { id }))).status).toBe(403);
		await endRest(await as("north"), { id });
		expect((await seen())?.rest).toBeNull();
		expect(await holds()).toEqual([["given", false, "Nora Thistle ended it"]]);
		await edit({ stage: "Won", closedOn: "2026-11-24" });
		expect(await wordsOf(() => rest())).toContain("It is won");
	});
	test("is asked for by a rep, given or refused once, and they are told", async () => {
		await lookForNews();
		const ask = async () => askRest(await as("rep1"), { dealId: "d1", until: "2026-12-04", reason: "Their holiday" });
		const { id } = await ask();
		expect((await seen())?.rest).toBeNull();
		expect(await wordsOf(ask)).toContain("waits for an answer");
		expect((await faultOf(async () => answerRest(await as("rep1"), { id, give: true }))).status).toBe(403);
		expect((await roundsOfDeal(await as("rep1"), { dealId: "d1" })).rests).toMatchObject([{ state: "asked", askedBy: "Rae Penn" }]);
		await lookForNews();
		const asked = async (who: string) =>
			(await readNews(await as(who))).items.filter(({ words }) => words === "Rae Penn asks that Deck ovens may rest until 4 Dec: Their holiday").length;
		expect([await asked("north"), await asked("boss"), await asked("rep1")]).toEqual([1, 0, 0]);
		await answerRest(await as("north"), { id, give: true });
		expect((await seen())?.rest?.reason).toBe("Their holiday");
		expect(await wordsOf(async () => answerRest(await as("boss"), { id, give: false }))).toContain("Nora Thistle has given it already");
		await lookForNews();
		expect((await readNews(await as("rep1"))).items.map(({ words }) => words)).toContain("Nora Thistle lets Deck ovens rest until 4 Dec");
	});
	test("past the close date says so, and goes on when the deal changes hands", async () => {
		await rest("boss", { until: "2027-01-15" });
		expect((await readRests(await as("boss"))).rests[0]?.afterClose).toBe(true);
		await edit({ ownerId: "rep2" });
		expect((await seen())?.rest?.reason).toContain("Board");
		expect((await readRests(await as("rep2"))).rests).toHaveLength(1);
		expect((await readRests(await as("north"))).rests).toHaveLength(0);
	});
});

describe("a walk", () => {
	test("holds what asks for its manager, is theirs alone, and is done when all is decided", async () => {
		const lit = (await as("boss")).organisation.deals.length;
		const { id, deals } = await startWalk(await as("boss"), {});
		expect(deals).toBeGreaterThan(0);
		expect(deals).toBeLessThanOrEqual(lit);
		expect((await faultOf(async () => readRound(await as("north"), id))).status).toBe(404);
		expect((await faultOf(async () => startWalk(await as("rep1"), {}))).status).toBe(403);
		const { queue } = await readRound(await as("boss"), id);
		for (const deal of queue) await decide(await as("boss"), { id, dealId: deal.id, decision: "look", why: "Known" });
		expect((await readRound(await as("boss"), id)).queue.map(({ call }) => call?.call)).toEqual(queue.map(() => "look"));
		await endRound(await as("boss"), { id });
		expect((await readWalk(await as("boss")))?.running).toBeNull();
	});
	test("leaves out what rests", async () => {
		const before = (await readWalk(await as("boss")))?.deals ?? 0;
		const { queue } = await readRound(await as("boss"), (await startWalk(await as("boss"), {})).id);
		await rest("boss", { dealId: queue[0]?.id ?? "" });
		const left = (await readWalk(await as("boss", "2026-11-25")))?.deals ?? 0;
		expect(left).toBeLessThan(before);
		expect(await readWalk(await as("rep1"))).toBeNull();
	});
});

describe("a brief", () => {
	test("says what is stored and nothing else, each line with its source", async () => {
		await writeNote(await as("rep1"), { dealId: "d1", body: "Lea signs after the fair" });
		const brief = await readBrief(await as("rep1"), "d1");
		const lines = brief.parts.flatMap((part) => part.lines);
		expect(lines.every(({ source }) => source.length > 2)).toBe(true);
		expect(lines.find(({ words }) => words.includes("Lea signs after the fair"))?.source).toBe("note by Rae Penn, 24 Nov");
		expect(brief.parts[0]?.lines[0]?.words).toMatch(/^Deck ovens for Millrace Bread, customer: €1.200, due 18 Dec\.$/);
		expect(briefText("Title", brief.parts)).toContain("[note by Rae Penn, 24 Nov]");
		expect((await faultOf(async () => readBrief(await as("rep2"), "d1"))).status).toBe(404);
	});
});
