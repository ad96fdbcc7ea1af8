import { eq, sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { news, outbox } from "@/data/schema";
import { editDeals } from "@/features/deals/server/editDeals";
import { readDeal } from "@/features/deals/server/readDeal";
import { saveView } from "@/features/deals/server/views";
import { writeDigests } from "@/features/reaching/server/digests";
import { takeAnswer } from "@/features/reaching/server/inbound";
import { lookForNews } from "@/features/reaching/server/look";
import { readMailLog, sendAgain } from "@/features/reaching/server/mailLog";
import { answeredMail, replyAddress } from "@/features/reaching/server/replyAddress";
import { sendWaiting } from "@/features/reaching/server/send";
import { readNews, readNewsUpTo, readWishes, removeWish, saveDigestTimes, saveWish } from "@/features/reaching/server/wishes";
import { logActivity } from "@/features/sheet/server/logActivity";
import { writeNote } from "@/features/sheet/server/writeNote";
import { handBack } from "@/features/tasks/server/changeTasks";
import { giveEach } from "@/features/tasks/server/giveTasks";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf, wordsOf } from "../kit/fault";
import { mailServer } from "../kit/smtp";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("reaching");
});
beforeEach(async () => {
	await refill(small());
	await lookForNews();
});
afterAll(() => database.drop());

const give = async (given: Partial<Parameters<typeof giveEach>[1]["lines"][number]> = {}) => {
	const { tasks } = await giveEach(await as("north"), { lines: [{ dealId: "d1", title: "Ring them", dueOn: "2026-11-27", ...given }] });
	return tasks[0]?.id ?? "";
};
const told = async (who: string) => (await readNews(await as(who))).items.map(({ words }) => words);
const mails = () => connection().db.select().from(outbox).orderBy(outbox.id);
const edit = async (change: Parameters<typeof editDeals>[1]["change"]) =>
	editDeals(await as("north"), { targets: [{ id: "d1", versionId: (await readDeal(await as("north"), "d1", undefined)).versionId }], change });

describe("what is told", () => {
	test("a task given, to whom it was given, on screen and by mail; once, however often one looks", async () => {
		await give();
		expect(await lookForNews()).toEqual({ told: 1, mails: 1 });
		expect(await lookForNews()).toEqual({ told: 0, mails: 0 });
		expect(await told("rep1")).toEqual(["Nora Thistle asks you: Ring them (Deck ovens, Millrace Bread), due 27 Nov"]);
		expect(await told("north")).toEqual([]);
		const [mail] = await mails();
		expect(mail).toMatchObject({ address: "rae@firm.example", dealId: "d1", state: "waiting" });
		expect(mail?.text).toContain("/deals/d1?task=task-");
		expect(mail?.text).toContain("/setup?place=reaching");
		expect(mail?.html).toContain("<li");
	});
	test("a task handed back, with its reason, and being named in a note", async () => {
		const id = await give();
		await handBack(await as("rep1"), { id, why: "Not <mine>" });
		await writeNote(await as("north"), { dealId: "d1", body: "@Rae Penn look at this" });
		await lookForNews();
		expect(await told("north")).toEqual(["Rae Penn hands back: Ring them (Deck ovens, Millrace Bread). “Not <mine>”"]);
		expect(await told("rep1")).toEqual(["Nora Thistle on Deck ovens: @Rae Penn look at this"]);
		expect((await mails()).find(({ address }) => address === "north@firm.example")?.html).toContain("Not &lt;mine&gt;");
	});
	test("a reminder that is for silence only, unless the other side has answered since the task was given", async () => {
		await give({ remindOn: "2026-11-24", remindUnlessAnswered: true, title: "Silent" });
		await lookForNews();
		expect(await told("rep1")).toContain("Nobody has answered yet: Silent (Deck ovens, Millrace Bread), due 27 Nov");
		await refill(small());
		await lookForNews();
		await give({ remindOn: "2026-11-24", remindUnlessAnswered: true, title: "Answered" });
		await new Promise((resolve) => setTimeout(resolve, 5));
		await logActivity(await as("rep1"), { dealId: "d1", kind: "call", direction: "in", subject: "They rang" });
		await lookForNews();
		expect((await told("rep1")).filter((words) => words.startsWith("Nobody"))).toEqual([]);
	});
	test("what happens to deals, to whoever wishes to hear of it and reaches them, and to nobody else", async () => {
		await saveWish(await as("rep1"), { kind: "amount-cut", onScreen: true, mail: "digest" });
		await saveWish(await as("rep2"), { kind: "amount-cut", onScreen: true, mail: "now" });
		await saveWish(await as("north"), { kind: "pushed-out", onScreen: true, mail: "never" });
		await edit({ amount: 60_000 });
		await edit({ closeDate: "2027-02-01", reason: "Board" });
		await lookForNews();
		expect(await told("rep1")).toEqual(["Deck ovens: cut from €1k to €600"]);
		expect(await told("rep2")).toEqual([]);
		expect(await told("north")).toEqual(["Deck ovens: pushed from 18 Dec to 1 Feb, out of its period"]);
		expect(await mails()).toEqual([]);
	});
	test("a view that gains a deal, as long as one sees the view", async () => {
		const { id } = await saveView(await as("north"), { name: "Large ones", query: "f=amount.from.5000", shared: false });
		expect(await wordsOf(async () => saveWish(await as("rep2"), { kind: "view-gains", of: id, onScreen: true, mail: "never" }))).toContain(
			"one of the views you see",
		);
		await saveWish(await as("north"), { kind: "view-gains", of: id, onScreen: true, mail: "never" });
		await edit({ amount: 9_000_00 });
		await lookForNews();
		expect(await told("north")).toEqual(["Large ones shows Deck ovens"]);
		await removeWish(await as("north"), { kind: "view-gains", of: id });
		expect((await readWishes(await as("north"))).wishes.map(({ kind }) => kind)).not.toContain("view-gains");
	});
	test("of two views each as it was wished", async () => {
		const north = await as("north");
		const views = [await saveView(north, { name: "Large ones", query: "f=amount.from.5000", shared: false })];
		views.push(await saveView(north, { name: "Largest ones", query: "f=amount.from.6000", shared: false }));
		const [quiet, loud] = views.map(({ id }) => id).sort() as [string, string];
		await saveWish(north, { kind: "view-gains", of: quiet, onScreen: false, mail: "digest" });
		await saveWish(north, { kind: "view-gains", of: loud, onScreen: true, mail: "now" });
		await edit({ amount: 9_000_00 });
		expect(await lookForNews()).toEqual({ told: 2, mails: 1 });
		expect(await told("north")).toHaveLength(1);
	});
	test("nothing of what one has wished away; and what was read stays read", async () => {
		await saveWish(await as("rep1"), { kind: "task-given", onScreen: false, mail: "never" });
		await give();
		expect(await lookForNews()).toEqual({ told: 0, mails: 0 });
		await saveWish(await as("rep1"), { kind: "task-given", onScreen: true, mail: "never" });
		await give();
		await lookForNews();
		expect((await readNews(await as("rep1"))).unread).toBe(2);
		await readNewsUpTo(await as("rep1"), {});
		expect((await readNews(await as("rep1"))).unread).toBe(0);
	});
});

describe("digests", () => {
	const clockTime = () => new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: "Europe/Berlin" }).format(Date.now());
	test("come at the chosen time, once, with what is due and what was kept for them", async () => {
		await saveWish(await as("rep1"), { kind: "task-given", onScreen: false, mail: "digest" });
		await give({ title: "For today", dueOn: "2026-11-24" });
		await lookForNews();
		for (const who of ["rep1", "rep2", "boss", "north"]) await saveDigestTimes(await as(who), { daily: null, weekly: null });
		expect(await writeDigests()).toBe(0);
		await saveDigestTimes(await as("rep1"), { daily: clockTime(), weekly: null });
		await saveDigestTimes(await as("boss"), { daily: null, weekly: `2 ${clockTime()}` });
		expect(await writeDigests()).toBe(2);
		expect(await writeDigests()).toBe(0);
		const [day, week] = [...(await mails())].sort((a, b) => (a.key < b.key ? -1 : 1));
		expect(day?.subject).toBe("Your day: 1 task due today, 0 overdue");
		expect(day?.text).toContain("For today (Deck ovens)");
		expect(day?.text).toContain("Nora Thistle asks you: For today");
		expect(week?.subject).toContain("Your week: ");
		expect(week?.text).toContain("What moved");
		expect((await connection().db.select().from(news).where(eq(news.personId, "rep1")))[0]?.digestedAt).not.toBeNull();
		expect(await wordsOf(async () => saveDigestTimes(await as("rep1"), { daily: "25:00", weekly: null }))).toContain("written as 07:30");
	});
});

describe("sending", () => {
	const settled = async () => Object.fromEntries((await mails()).map(({ address, state }) => [address, state]));
	test("each mail once, with its own Message-ID; an address that is refused for good holds up nobody else", async () => {
		const server = await mailServer({ refuses: ["rae@firm.example"] });
		await give();
		await give({ dealId: null, title: "Mine too" });
		await giveEach(await as("boss"), { lines: [{ dealId: null, title: "Other", dueOn: "2026-11-27", assigneeId: "rep2" }] });
		await giveEach(await as("boss"), { lines: [{ dealId: "d1", title: "Refused", dueOn: "2026-11-27" }] });
		await lookForNews();
		expect(await sendWaiting(server.url)).toMatchObject({ sent: 1 });
		expect(await settled()).toEqual({ "rae@firm.example": "refused", "sol@firm.example": "sent" });
		expect(server.came.map(({ to, subject }) => [to, subject])).toEqual([["sol@firm.example", "Bo Sable asks you: Other, due 27 Nov"]]);
		expect(await sendWaiting(server.url)).toEqual({ sent: 0, failed: 0 });
		const log = await readMailLog(await as("ops"));
		expect(log.counts).toMatchObject({ sent: 1, waiting: 0 });
		expect(log.mails[0]).toMatchObject({ state: "refused", error: expect.stringContaining("no such mailbox") });
		expect((await faultOf(async () => readMailLog(await as("boss")))).status).toBe(403);
		await sendAgain(await as("ops"), { ids: log.mails.filter(({ state }) => state === "refused").map(({ id }) => id) });
		expect((await readMailLog(await as("ops"))).counts.waiting).toBe(log.counts.refused);
		await server.stop();
	});
	test("a server that is down for a while loses nothing: mails wait, say why, and go out when it is back", async () => {
		const server = await mailServer();
		await server.stop();
		await give();
		await lookForNews();
		expect(await sendWaiting(server.url)).toEqual({ sent: 0, failed: 1 });
		expect((await readMailLog(await as("ops"))).trouble?.words).toMatch(/ECONNREFUSED|connect/);
		const back = await mailServer({ port: server.port });
		expect(await sendWaiting(back.url)).toEqual({ sent: 0, failed: 0 });
		await connection().db.update(outbox).set({ nextAt: sql`now()` });
		expect(await sendWaiting(back.url)).toEqual({ sent: 1, failed: 0 });
		expect(back.came).toHaveLength(1);
		await back.stop();
	});
	test("who has no address is told on screen alone, and is named to ops", async () => {
		await refill(
			small({
				"people.csv": [
					"id,name,email,role,team,parent_team,active_from,active_to",
					"boss,Bo Sable,,manager,Firm,,,",
					"north,Nora Thistle,north@firm.example,manager,North,Firm,,",
					"rep1,Rae Penn,,rep,North,Firm,,",
					"rep2,Sol Quint,sol@firm.example,rep,South,Firm,,",
					"gone,Gil Orr,,rep,North,Firm,2025-01-01,2026-10-31",
					"ops,Oda Pell,ops@firm.example,ops,Firm,,,",
				],
			}),
		);
		await lookForNews();
		await give();
		expect(await lookForNews()).toEqual({ told: 1, mails: 0 });
		expect((await readMailLog(await as("ops"))).without).toEqual(["Bo Sable", "Rae Penn"]);
	});
});

describe("an answer", () => {
	const raw = (headers: Record<string, string>, text = "I rang them, they want Friday.\n\nOn Tue somebody wrote:\n> Ring them") =>
		Buffer.from(
			`${Object.entries(headers)
				.map(([name, value]) => `${name}: ${value}`)
				.join("\r\n")}\r\n\r\n${text}`,
		);
	const asked = async () => {
		await give();
		await lookForNews();
		const [mail] = await mails();
		if (!mail) throw new Error("no mail");
		return { From: "Rae <rae@firm.example>", To: replyAddress(mail.id), Subject: "Re: Ring them", "Message-ID": "<1@there.example>" };
	};
	const logged = async () => (await readDeal(await as("rep1"), "d1", undefined)).activities.filter(({ direction }) => direction === "in");
	test("is logged on its deal once, without what it quotes", async () => {
		const headers = await asked();
		expect(await takeAnswer(raw(headers))).toEqual({ fate: "logged", why: "" });
		expect(await takeAnswer(raw(headers))).toMatchObject({ fate: "seen before" });
		expect(await logged()).toMatchObject([{ subject: "Re: Ring them", body: "I rang them, they want Friday." }]);
	});
	test("from somebody else, from a machine, or to an address nobody gave is refused", async () => {
		const headers = await asked();
		expect(await takeAnswer(raw({ ...headers, From: "evil@elsewhere.example" }))).toMatchObject({
			fate: "refused",
			why: expect.stringContaining("comes from evil"),
		});
		expect(await takeAnswer(raw({ ...headers, "Message-ID": "<2@x>", "Auto-Submitted": "auto-replied" }))).toMatchObject({
			fate: "refused",
			why: "a machine wrote it",
		});
		expect(
			await takeAnswer(raw({ ...headers, "Message-ID": "<3@x>", To: headers.To.replace(/.@/, "0@").replace(/\.[0-9a-f]{24}@/, ".000000000000000000000000@") })),
		).toMatchObject({ fate: "refused", why: "it isn’t an answer to a mail of ours" });
		expect(await logged()).toEqual([]);
		expect((await faultOf(async () => takeAnswer(Buffer.alloc(11 * 1024 * 1024, "a")))).status).toBe(413);
		expect((await faultOf(async () => takeAnswer(Buffer.from("no mail at all")))).status).toBe(422);
		expect([answeredMail("answer+mail-x.0@y"), answeredMail(""), answeredMail(replyAddress("mail-1"))]).toEqual([null, null, "mail-1"]);
	});
});
