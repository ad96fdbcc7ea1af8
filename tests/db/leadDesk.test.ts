import { eq } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { surveyOn } from "@/core/survey";
import { connection } from "@/data/db";
import { answersIn, audit, outbox, tasks } from "@/data/schema";
import { generate } from "@/fakes/emberwick/generate";
import { readActivity } from "@/features/accounts/server/activity";
import { readDeals } from "@/features/deals/server/readDeals";
import { lookAtDesk, readLooks, setAside } from "@/features/desk/server/looks";
import { readLead } from "@/features/desk/server/readLead";
import { readPerson } from "@/features/desk/server/readPerson";
import { addTalkPoint, strikeTalkPoint } from "@/features/desk/server/talkPoints";
import { readPersonHabits } from "@/features/patterns/server/readPatterns";
import { readPeriod } from "@/features/period/server/readPeriod";
import { promise } from "@/features/rounds/server/conduct";
import { endRound } from "@/features/rounds/server/endRound";
import { savePlan } from "@/features/rounds/server/plans";
import { askRest } from "@/features/rounds/server/rests";
import { startRound } from "@/features/rounds/server/startRound";
import { changeTask } from "@/features/tasks/server/changeTask";
import { handBack } from "@/features/tasks/server/changeTasks";
import { giveEach } from "@/features/tasks/server/giveTasks";
import { resolveViewpoint } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("lead_desk");
	await importAs(generate({ today: day("2026-11-24"), deals: 240 }));
});
afterAll(() => database.drop());

const part = async (who: string, key: string) => (await readLead(await as(who), {}))?.parts.find((one) => one.key === key);

describe("the desk of a manager", () => {
	test("lists what is due within a week and what came to act, of their own teams", async () => {
		const ruth = await as("ruth");
		const { organisation, now } = ruth;
		const due = await part("ruth", "due");
		const seen = surveyOn(organisation.company, now.day).deals;
		const north = new Set(organisation.people.flatMap(({ team }, i) => (team === "North" ? [i] : [])));
		const expected = seen.filter((one) => one?.status === "open" && north.has(one.owner) && one.close >= now.day && one.close <= now.day + 7);
		expect(due?.count ?? 0).toBe(expected.length);
		const lit = await part("ruth", "lit");
		const before = surveyOn(organisation.company, now.day - 1).deals;
		for (const { id } of lit?.items ?? []) {
			const index = organisation.dealIndex.get(id.replace(/^lit /, "")) ?? -1;
			expect([seen[index]?.attention.level, before[index]?.attention.level === "act"]).toEqual(["act", false]);
		}
	});
	test("has what is asked of them, and the rounds of the coming week with who is ready", async () => {
		expect(await part("ruth", "word")).toBeUndefined();
		await askRest(await as("ines"), { dealId: "story-rack", until: "2026-12-15", reason: "They are on holiday" });
		expect((await part("ruth", "word"))?.items).toMatchObject([{ words: "Rack ovens, three sites", about: expect.stringContaining("They are on holiday") }]);
		await savePlan(await as("ruth"), { id: null, name: "Thursdays", whose: "team:North", weekday: 4 });
		expect((await part("ruth", "rounds"))?.items.find(({ words }) => words === "Thursdays")?.about).toMatch(/^26 Nov; \d+ of \d+ deals? prepared$/);
	});
	test("has tasks handed back with the reason, those they gave that are late, and replies to their mails", async () => {
		const { db } = connection();
		const { tasks: given } = await giveEach(await as("ruth"), {
			lines: ["Hand back", "Be late"].map((title) => ({ dealId: "story-rack", title, dueOn: "2026-11-25" })),
		});
		const [back, late] = given.map(({ id }) => id);
		const had = (await part("ruth", "late"))?.count ?? 0;
		await handBack(await as("ines"), { id: back ?? "", why: "Not mine" });
		expect((await part("ruth", "back"))?.items[0]).toMatchObject({
			words: "Hand back",
			about: "Ines Valdoro: Not mine",
			path: `/deals/story-rack?task=${back}`,
		});
		await db
			.update(tasks)
			.set({ dueOn: "2026-11-20" })
			.where(eq(tasks.id, late ?? ""));
		const lates = await part("ruth", "late");
		expect(lates?.count).toBe(had + 1);
		expect(lates?.items.find(({ id }) => id === `late ${late}`)?.about).toBe("Ines Valdoro, due 20 Nov");
		expect(await part("ruth", "replies")).toBeUndefined();
		const mail = {
			id: "m1",
			key: "k1",
			personId: "ruth",
			address: "ruth@x.example",
			subject: "The offer",
			text: "",
			html: "",
			dealId: "story-rack",
			createdAt: new Date(),
		};
		await db.insert(outbox).values(mail);
		const { now } = await as("ruth");
		await db.insert(answersIn).values({ messageId: "<r@x>", outboxId: "m1", at: new Date(now.instant), fate: "logged" });
		await db.insert(answersIn).values({ messageId: "<old@x>", outboxId: "m1", at: new Date(now.instant - 30 * 86_400_000), fate: "logged" });
		expect((await part("ruth", "replies"))?.items).toMatchObject([{ words: "Rack ovens, three sites", about: "reply to: The offer" }]);
		expect(await part("helena", "replies")).toBeUndefined();
	});
	test("is worked off: what they set aside is gone until it is said otherwise, and comes back when it is put back", async () => {
		const now = async () => (await part("ruth", "rounds"))?.count ?? 0;
		const was = await now();
		const [item] = (await part("ruth", "rounds"))?.items ?? [];
		if (!item) throw new Error("no round is planned");
		const { id, words, about } = item;
		await setAside(await as("ruth"), { item: id, words, about });
		expect([await now(), (await readLead(await as("ruth"), {}))?.aside]).toEqual([was - 1, 1]);
		// It is one’s own: who leads them sees it still.
		expect((await part("helena", "rounds"))?.items.map((one) => one.id)).toContain(id);
		await setAside(await as("ruth"), { item: id, words, about: "as it was said before" });
		expect(await now()).toBe(was);
		await setAside(await as("ruth"), { item: id, words, about });
		await setAside(await as("ruth"), { item: id, words, about, aside: false });
		expect(await now()).toBe(was);
		for (const { items } of (await readLead(await as("helena"), {}))?.parts ?? [])
			for (const { id: each, words, about } of items) await setAside(await as("helena"), { item: each, words, about });
		const left = (await readLead(await as("helena"), {}))?.parts.flatMap(({ items }) => items) ?? [];
		for (const one of left) await setAside(await as("helena"), { item: one.id, words: one.words, about: one.about });
		expect((await readLead(await as("helena"), {}))?.parts.filter(({ count }) => count <= 8)).toEqual([]);
	});
	test("tells what came to act since they last looked, on whatever day that was", async () => {
		const since = async (on: string) => (await readLead(await as("ruth", on), {}))?.parts.find(({ key }) => key === "lit")?.heading;
		await lookAtDesk(await as("ruth", "2026-11-18"), {});
		expect((await readLead(await as("ruth", "2026-11-18"), {}))?.looked).toBe(true);
		const view = await readLead(await as("ruth"), {});
		expect(view?.looked).toBe(false);
		const lit = view?.parts.find(({ key }) => key === "lit");
		const { organisation } = await as("ruth");
		const [today, then] = [day("2026-11-24"), day("2026-11-18")].map((on) => surveyOn(organisation.company, on).deals);
		const expected = today?.filter(
			(one, i) =>
				one?.status === "open" && organisation.people[one.owner]?.team === "North" && one.attention.level === "act" && then?.[i]?.attention.level !== "act",
		);
		expect([lit?.heading, lit?.count]).toEqual(["Came to act since 18 Nov", expected?.length]);
		// Looking twice on a day changes nothing of what is told on it.
		await lookAtDesk(await as("ruth"), {});
		await lookAtDesk(await as("ruth"), {});
		expect(await since("2026-11-24")).toBe("Came to act since 18 Nov");
		await lookAtDesk(await as("ruth", "2026-11-25"), {});
		expect((await readLooks(await as("ruth", "2026-11-25"))).since).toBe(day("2026-11-24"));
		// Who was away for months is told of the last thirty days.
		expect((await readLooks(await as("ruth", "2027-03-01"))).since).toBe(day("2027-01-30"));
	});
	test("is nobody’s who doesn’t lead", async () => {
		for (const who of ["ines", "arno", "mirela"]) expect(await readLead(await as(who), {})).toBeNull();
	});
});

describe("the page of one of ours", () => {
	const person = async (who: string, id = "tobias") => readPerson(await as(who), {}, id);
	test("says what deals, period and activities say of them", async () => {
		const ruth = await as("ruth");
		const view = await person("ruth");
		const deals = readDeals(ruth, resolveViewpoint(ruth, { whose: "person:tobias", due: "any" })).rows;
		expect([view.dealCount, view.lit]).toEqual([deals.length, deals.filter(({ level }) => level !== "calm").length]);
		expect(view.deals.map(({ score }) => score)).toEqual(view.deals.map(({ score }) => score).sort((a, b) => b - a));
		const period = await readPeriod(ruth, resolveViewpoint(ruth, { whose: "person:tobias" }));
		expect(view.figures).toEqual({
			won: period?.figures.won.amount,
			target: period?.figures.target,
			open: period?.figures.open.amount,
			gap: period?.figures.gap,
		});
		const { people } = await readActivity(ruth, { from: "2026-10-28", to: "2026-11-24", owner: "tobias" });
		expect(view.contacts).toMatchObject({ touches: people[0]?.touches, usual: people[0]?.usual, perDay: people[0]?.perDay });
		expect(view.habits).toEqual(await readPersonHabits(ruth, "tobias", ruth.now.day));
	});
	test("lists what they promised in rounds with what came of it, what waits first, to those who reach the deals", async () => {
		expect((await person("ruth", "ines")).promised).toMatchObject({ lines: [], more: 0 });
		const { id } = await startRound(await as("ruth"), { dealIds: ["story-rack"] });
		const lines = ["Kept in time", "To come"].map((title) => ({ dealId: "story-rack", title, dueOn: "2026-11-27", assigneeId: "ines" }));
		const { tasks: given } = await promise(await as("ruth"), { id, lines });
		await endRound(await as("ruth"), { id });
		await changeTask(await as("ines"), { id: given[0]?.id ?? "", state: "done" });
		const { promised } = await person("ruth", "ines");
		expect(promised.lines.map(({ title, fate, deal, due }) => [title, fate, deal, due])).toEqual([
			["To come", "open", "Rack ovens, three sites", "2026-11-27"],
			["Kept in time", "kept", "Rack ovens, three sites", "2026-11-27"],
		]);
		expect(promised.counts).toMatchObject({ kept: 1, open: 1, late: 0 });
		expect((await person("ines", "ines")).promised.lines).toHaveLength(2);
		expect((await person("ruth")).promised.lines).toEqual([]);
	});
	test("is theirs and of those who reach them; points for the talk are read by who leads alone", async () => {
		const { id } = await addTalkPoint(await as("ruth"), { personId: "tobias", body: "Ask about the two ovens" });
		expect((await person("ruth")).points).toMatchObject([{ body: "Ask about the two ovens", by: "Ruth Calloway" }]);
		expect((await person("helena")).points).toHaveLength(1);
		for (const who of ["tobias", "arno"]) expect((await person(who)).points).toBeNull();
		for (const who of ["ines", "tomas"]) expect(await faultOf(async () => person(who)), who).toMatchObject({ status: 404 });
		expect(await faultOf(async () => addTalkPoint(await as("tomas"), { personId: "tobias", body: "Not theirs" }))).toMatchObject({ status: 404 });
		expect(await faultOf(async () => addTalkPoint(await as("ruth"), { personId: "ruth", body: "Oneself" }))).toMatchObject({ status: 403 });
		await strikeTalkPoint(await as("helena"), { id });
		expect((await person("ruth")).points).toEqual([]);
		await strikeTalkPoint(await as("helena"), { id, struck: false });
		expect((await person("ruth")).points).toHaveLength(1);
		// What is said between two isn't told to all who read the audit.
		const rows = await connection().db.select().from(audit).where(eq(audit.subject, "tobias"));
		expect(JSON.stringify(rows)).not.toContain("two ovens");
	});
});
