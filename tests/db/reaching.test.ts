import { readFile } from "node:fs/promises";
import { eq, sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { news, outbox } from "@/data/schema";
import { recordChange } from "@/data/store/changeLog";
import { editDeals } from "@/features/deals/server/editDeals";
import { saveView } from "@/features/deals/server/views";
import { lookForNews } from "@/features/reaching/server/detectHappenings";
import { writeDigests } from "@/features/reaching/server/digests";
import { takeAnswer } from "@/features/reaching/server/inbound";
import { readMailLog, sendAgain } from "@/features/reaching/server/mailLog";
import { answeredMail, replyAddress } from "@/features/reaching/server/replyAddress";
import { sendWaiting } from "@/features/reaching/server/send";
import { readNews, readNewsUpTo, readWishes, removeWish, saveDigestTimes, saveWish } from "@/features/reaching/server/wishes";
import { logActivity } from "@/features/sheet/server/logActivity";
import { readDeal } from "@/features/sheet/server/readDeal";
import { writeNote } from "@/features/sheet/server/writeNote";
import { handBack } from "@/features/tasks/server/changeTasks";
import { giveEach } from "@/features/tasks/server/giveTasks";
import { addressedTo } from "@/formats/mail/readMail";
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
		// What is stored are facts: they are worded when they are read. What was stored in words before stays as it is.
		const stored = await connection().db.select({ facts: news.facts }).from(news);
		expect(stored).toEqual([{ facts: { by: "Nora Thistle", title: "Ring them", deal: "Deck ovens, Millrace Bread", due: "2026-11-27" } }]);
		await connection()
			.db.update(news)
			.set({ facts: { told: "Nora Thistle once asked you: Ring them" } });
		expect(await told("rep1")).toEqual(["Nora Thistle once asked you: Ring them"]);
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
		await writeNote(await as("north"), { dealId: "d1", body: "@Rae Penn look at <this>" });
		await lookForNews();
		expect(await told("north")).toEqual(["Rae Penn hands back: Ring them (Deck ovens, Millrace Bread). “Not <mine>”"]);
		expect(await told("rep1")).toEqual(["Nora Thistle on Deck ovens: @Rae Penn look at <this>"]);
		expect((await mails()).find(({ html }) => html.includes("look at"))?.html).toContain("look at &lt;this&gt;");
		// What can wait comes with the next digest.
		expect((await mails()).filter(({ address }) => address === "north@firm.example")).toEqual([]);
	});
	test("several tasks of one giver in one mail, those of another in another; and what is overdue overnight in one", async () => {
		const lines = ["One", "Two", "Three"].map((title) => ({ dealId: "d1", title, dueOn: "2026-11-25" }));
		await giveEach(await as("boss"), { lines });
		await give({ title: "Four", dueOn: "2026-11-25" });
		await lookForNews();
		expect(await told("rep1")).toHaveLength(4);
		const given = await mails();
		expect(given.map(({ subject }) => / (gives you 3 tasks$|asks you: Four)/.exec(subject)?.[1]).sort()).toEqual(["asks you: Four", "gives you 3 tasks"]);
		const together = given.find(({ subject }) => subject.endsWith("3 tasks"));
		for (const title of ["One", "Two", "Three"]) expect(together?.text).toContain(title);
		// All are about one deal, so an answer stands on it.
		expect(together?.dealId).toBe("d1");
		await connection().db.execute(sql`update tasks set due_on = '2026-11-23'`);
		await lookForNews();
		expect((await mails()).filter(({ subject }) => subject.includes("overdue")).map(({ subject }) => subject)).toEqual(["4 tasks of yours are overdue"]);
	});
	test("a reminder that is for silence only, unless the other side has answered since the task was given", async () => {
		await give({ remindOn: "2026-11-24", remindUnlessAnswered: true, title: "Silent" });
		await lookForNews();
		expect(await told("rep1")).toContain("No answer yet: Silent (Deck ovens, Millrace Bread), due 27 Nov");
		await refill(small());
		await lookForNews();
		await give({ remindOn: "2026-11-24", remindUnlessAnswered: true, title: "Answered" });
		await new Promise((resolve) => setTimeout(resolve, 5));
		await logActivity(await as("rep1"), { dealId: "d1", kind: "call", direction: "in", subject: "They rang" });
		await lookForNews();
		expect((await told("rep1")).filter((words) => words.startsWith("No answer yet"))).toEqual([]);
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
		expect(week?.text).toContain("What changed");
		expect((await connection().db.select().from(news).where(eq(news.personId, "rep1")))[0]?.digestedAt).not.toBeNull();
		expect(await wordsOf(async () => saveDigestTimes(await as("rep1"), { daily: "25:00", weekly: null }))).toContain("Write the time as 07:30");
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
			"latin1",
		);
	const asked = async (given: Parameters<typeof give>[0] = {}) => {
		await give(given);
		await lookForNews();
		const [mail] = await mails();
		if (!mail) throw new Error("no mail");
		return { From: "Rae <rae@firm.example>", To: replyAddress(mail.id), Subject: "Re: Ring them", "Message-ID": "<1@there.example>" };
	};
	const seen = async () => readDeal(await as("rep1"), "d1", undefined);
	const logged = async () => (await seen()).activities;
	const withContact = (email: string) =>
		refill(
			small({
				"contacts.csv": [
					"id,account_id,name,title,email,buying_role,reports_to_id",
					`c1,a1,Mo Lind,Owner,${email},champion,`,
					"c2,a2,Ed Far,Owner,ed@far.example,,",
				],
				"deal_contacts.csv": ["deal_id,contact_id", "d1,c1"],
				"activities.csv": [
					"id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body",
					"x1,d1,a1,c1,email,out,done,2026-11-12T09:00:00Z,rep1,Sent,",
				],
			}),
		).then(() => lookForNews());

	test("of one of ours is internal: logged once, without what it quotes, and nobody takes it for the customer’s word", async () => {
		await withContact("mo@there.example");
		const before = await seen();
		const headers = await asked({ remindOn: "2026-11-24", remindUnlessAnswered: true });
		expect(await takeAnswer(raw(headers))).toEqual({ fate: "logged", why: "" });
		expect(await takeAnswer(raw(headers))).toMatchObject({ fate: "seen before" });
		expect((await logged())[0]).toMatchObject({ direction: "none", subject: "Re: Ring them", body: "I rang them, they want Friday." });
		const after = await seen();
		expect([after.lastTouch, after.waiting, after.flags.map(({ code }) => code)]).toEqual([
			before.lastTouch,
			before.waiting,
			// The task given is a next step; nothing else has changed.
			before.flags.map(({ code }) => code).filter((code) => code !== "no-next-step"),
		]);
	});
	test("of one of ours doesn’t silence a reminder that waits for the customer", async () => {
		await withContact("mo@there.example");
		const headers = await asked();
		await give({ title: "Silent", remindOn: "2026-11-24", remindUnlessAnswered: true });
		expect(await takeAnswer(raw(headers))).toMatchObject({ fate: "logged" });
		await lookForNews();
		expect((await told("rep1")).filter((words) => words.startsWith("No answer yet"))).toHaveLength(1);
	});
	test("of a contact of the customer, found by address, is theirs: they are waiting for us", async () => {
		await withContact("Mo@There.example");
		const headers = await asked();
		expect(await takeAnswer(raw({ ...headers, From: "Mo Lind <mo@there.example>" }))).toMatchObject({ fate: "logged" });
		expect((await logged())[0]).toMatchObject({ direction: "in", contactIds: ["c1"] });
		expect((await seen()).waiting).toEqual({ side: "they", since: "2026-11-24" });
		// A contact of another account has no say here; nor has an address of ours that stands as a contact's too.
		expect(await takeAnswer(raw({ ...headers, "Message-ID": "<4@x>", From: "ed@far.example" }))).toMatchObject({ fate: "refused" });
		await withContact("sol@firm.example");
		expect(await takeAnswer(raw({ ...(await asked()), "Message-ID": "<5@x>", From: "sol@firm.example" }))).toMatchObject({ fate: "refused" });
	});
	test.each([
		[
			"was handed over",
			async () => connection().db.execute(sql`update deal_versions set owner_id = 'rep2' where deal_id = 'd1' and valid_to is null`),
			"no longer has this deal",
		],
		[
			"is with somebody who has left",
			async () => connection().db.execute(sql`update people set active_to = '2026-11-23' where id = 'rep1'`),
			"no longer with the company",
		],
		["is with somebody who only looks now", async () => connection().db.execute(sql`update people set role = 'viewer' where id = 'rep1'`), "may no longer log"],
		["is with nobody any more", async () => connection().db.execute(sql`update outbox set person_id = null`), "no longer with the company"],
	])("is refused for good when the deal %s", async (_, change, why) => {
		const headers = await asked();
		await change();
		await connection().db.transaction((tx) => recordChange(tx, "everything"));
		expect(await takeAnswer(raw(headers))).toMatchObject({ fate: "refused", why: expect.stringContaining(why) });
		expect(await takeAnswer(raw(headers))).toMatchObject({ fate: "seen before" });
		const { rows } = await connection().db.execute(sql`select count(*)::int as n from activities where id like 'activity-%'`);
		expect(rows[0]?.n).toBe(0);
	});
	test.each([
		["a zero in its text", {}, "one\0two", { body: "onetwo" }],
		["a zero in its subject", { Subject: "Re:\0 Ring" }, "x", { subject: "Re: Ring" }],
		["a zero said in quoted printable", { "Content-Transfer-Encoding": "quoted-printable" }, "one=00two", { body: "onetwo" }],
		["a charset that nobody knows", { "Content-Type": "text/plain; charset=x-klingon" }, "hello", { body: "hello" }],
		["half a character", { "Content-Type": "text/plain; charset=utf-16le" }, "\x00\xd8h\0", {}],
		["a subject in a charset that nobody knows", { Subject: "=?x-none?Q?abc=00?=" }, "x", {}],
		["no text", {}, "", { body: null }],
		["a part that never ends", { "Content-Type": 'multipart/mixed; boundary="b"' }, "--b\r\nContent-Type: text/plain\r\n\r\nhello", {}],
		["a header of one letter again and again", { X: "a".repeat(100_000) }, "x", {}],
		["a day that isn’t one", { Date: "the day before yesterday" }, "x", {}],
	])("with %s is logged and is no error of the server", async (_, headers, text, said) => {
		expect(await takeAnswer(raw({ ...(await asked()), ...headers }, text))).toMatchObject({ fate: "logged" });
		expect((await logged())[0]).toMatchObject(said);
	});
	test("is known by its header before anything of its body is read", () => {
		const body = Buffer.alloc(1_000_000, "x");
		expect(
			addressedTo(
				Buffer.concat([Buffer.from("To: A <a@b.example>,\r\n\tc@d.example\r\nCc: e@f.example\r\nX-To: no@no.example\r\n\r\nTo: late@x.example\r\n"), body]),
			),
		).toEqual(["a@b.example", "c@d.example", "e@f.example"]);
		expect([addressedTo(Buffer.alloc(0)), addressedTo(body)]).toEqual([[], []]);
	});
	test("from somebody else, from a machine, or to an address nobody gave is refused", async () => {
		const headers = await asked();
		expect(await takeAnswer(raw({ ...headers, From: "evil@elsewhere.example" }))).toMatchObject({
			fate: "refused",
			why: expect.stringContaining("comes from evil"),
		});
		expect(await takeAnswer(raw({ ...headers, "Message-ID": "<2@x>", "Auto-Submitted": "auto-replied" }))).toMatchObject({
			fate: "refused",
			why: "it was sent automatically",
		});
		expect(
			await takeAnswer(raw({ ...headers, "Message-ID": "<3@x>", To: headers.To.replace(/.@/, "0@").replace(/\.[0-9a-f]{24}@/, ".000000000000000000000000@") })),
		).toMatchObject({ fate: "refused", why: "it isn’t an answer to one of our mails" });
		expect(await logged()).toEqual([]);
		expect((await faultOf(async () => takeAnswer(Buffer.alloc(11 * 1024 * 1024, "a")))).status).toBe(413);
		expect(await takeAnswer(Buffer.from("no mail at all"))).toMatchObject({ fate: "refused" });
		expect((await faultOf(async () => takeAnswer(raw({ To: headers.To, Subject: "nobody wrote this" })))).status).toBe(422);
		expect([answeredMail("answer+mail-x.0@y"), answeredMail(""), answeredMail(replyAddress("mail-1"))]).toEqual([null, null, "mail-1"]);
	});
	test("that was stored as the customer’s word is put right once, and the audit says so", async () => {
		const { db } = connection();
		await asked();
		await db.execute(sql`insert into answers_in (message_id, outbox_id, at, fate) values ('<o@x>', 'gone', '2026-11-24T10:00:00.123Z', 'logged')`);
		for (const [id, at, contacts] of [
			["activity-ours", "2026-11-24T10:00:00.123Z", "{}"],
			["activity-theirs", "2026-11-24T10:00:00.123Z", "{c1}"],
			["activity-other", "2026-11-24T11:00:00Z", "{}"],
		])
			await db.execute(
				sql`insert into activities (id, deal_id, contact_ids, kind, direction, state, at, recorded_at, by_id) values (${id}, 'd1', ${contacts}, 'email', 'in', 'done', ${at}, ${at}, 'rep1')`,
			);
		await db.transaction((tx) => recordChange(tx, ["d1"]));
		await seen();
		// As it ran then: the change log had another name.
		const repair = (await readFile("src/data/migrations/0026_answers_of_ours.sql", "utf8")).replace('"tail"', '"change_log"');
		for (let times = 0; times < 2; times++) await db.execute(sql.raw(repair));
		expect((await logged()).map(({ id, direction }) => [id, direction]).sort()).toEqual([
			["activity-other", "in"],
			["activity-ours", "none"],
			["activity-theirs", "in"],
		]);
		const { rows } = await db.execute(sql`select subject, detail->>'activity' as activity from audit where action = 'answer corrected'`);
		expect(rows).toEqual([{ subject: "d1", activity: "activity-ours" }]);
	});
});
