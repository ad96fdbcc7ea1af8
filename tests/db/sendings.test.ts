import { eq, sql } from "drizzle-orm";
import { simpleParser } from "mailparser";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { outbox, outboxFiles, sendings } from "@/data/schema";
import { recordChange } from "@/data/store/changeLog";
import { makeBoard } from "@/features/boards/server/boards";
import { TELLERS, tellBoard } from "@/features/boards/server/told";
import { saveView } from "@/features/deals/server/views";
import { readPeriod } from "@/features/period/server/readPeriod";
import { sendWaiting } from "@/features/reaching/server/send";
import { endRound } from "@/features/rounds/server/endRound";
import { makeCall } from "@/features/rounds/server/makeCall";
import { removePlan, savePlan } from "@/features/rounds/server/plans";
import { startRound } from "@/features/rounds/server/startRound";
import { LETTERS } from "@/features/sendings/server/letters";
import { endSending, readSendings, saveSending } from "@/features/sendings/server/sendings";
import { tableMail } from "@/features/sendings/server/tableMail";
import { writeSendings } from "@/features/sendings/server/write";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { mailServer } from "../kit/smtp";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("sendings");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const now = () => new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: "Europe/Berlin" }).format(Date.now());
/** 24 November 2026 is a Tuesday. */
const TUESDAY = { kind: "weekdays", days: [2] } as const;
const send = async (given: Partial<Parameters<typeof saveSending>[1]> = {}, who = "boss") =>
	saveSending(await as(who), { kind: "period", rhythm: TUESDAY, at: now(), to: ["boss", "north"], ...given });
const mails = () => connection().db.select().from(outbox).orderBy(outbox.address);
const dayIs = async (today: string) => {
	await connection().db.execute(sql`update organisation set today = ${today}`);
	await connection().db.transaction((tx) => recordChange(tx, "everything"));
};

/** A board with a tile of each kind. */
const EVERY_TILE = (view: string) =>
	TELLERS.map(({ key }, i) => ({
		id: `t${i}`,
		kind: key,
		x: 0,
		y: i * 4,
		w: 6,
		h: 4,
		title: "",
		settings: { text: "Mind the ovens.", view },
	}));

/** A planned round that was held today, with two calls and a promise. */
async function heldRound() {
	const boss = await as("boss");
	const { id: planId } = await savePlan(boss, { id: null, name: "Weekly", whose: "all", weekday: 2 });
	const { id } = await startRound(boss, { planId, calmToo: true });
	await makeCall(boss, { id, dealId: "d1", call: "holds" });
	await makeCall(boss, { id, dealId: "d2", call: "moves", to: "2027-01-20", why: "Board" });
	await endRound(boss, { id });
	return { planId };
}

describe("what is sent by itself", () => {
	test("comes on its day and hour, once, to each within their own reach, with its table in text and in HTML", async () => {
		await send({ to: ["boss", "rep2"] });
		await writeSendings();
		expect(await writeSendings()).toEqual([]);
		const sent = await mails();
		expect(sent.map(({ personId }) => personId).sort()).toEqual(["boss", "rep2"]);
		for (const { personId, subject, text, html } of sent) {
			const context = await as(personId ?? "");
			const view = await readPeriod(context, resolveViewpoint(context, {}));
			expect(subject).toBe(view?.headline);
			for (const { name } of view?.groups ?? []) expect(text).toContain(name);
			expect(html).toContain("<table");
			expect(text).toMatch(/As of 24 Nov 2026: .* deals, Oct–Dec 2026\. Open it\n {2}http.*\/period\?seen=2026-11-24/);
		}
		expect(sent[0]?.subject).not.toBe(sent[1]?.subject);
		const [row] = (await readSendings(await as("boss"))).sendings;
		expect(row?.to).toEqual([expect.objectContaining({ on: "2026-11-24", skipped: false }), expect.objectContaining({ on: "2026-11-24", skipped: false })]);
	});
	test("doesn’t come on another day or at another hour, nor to whom it isn’t to be seen by", async () => {
		await send({ rhythm: { kind: "weekdays", days: [3] } });
		await send({ rhythm: { kind: "month" } });
		await send({ at: now() < "12:00" ? "23:00" : "01:00" });
		await send({ whose: "team:South", to: ["north"] });
		await writeSendings();
		expect(await mails()).toEqual([]);
		await dayIs("2026-12-01");
		await send({ rhythm: { kind: "month" }, to: ["boss"] });
		await writeSendings();
		expect((await mails()).map(({ personId }) => personId)).toEqual(["boss", "boss", "north"].sort());
	});
	test("is left out where nothing moved, if so wished, and said so", async () => {
		await send({ to: ["boss"], skipSame: true, kind: "tasks" });
		await writeSendings();
		expect(await mails()).toHaveLength(1);
		await dayIs("2026-12-01");
		await writeSendings();
		expect(await mails()).toHaveLength(1);
		expect((await readSendings(await as("boss"))).sendings[0]?.to).toEqual([expect.objectContaining({ on: "2026-12-01", skipped: true })]);
	});
	test("brings its table as a workbook, where that is wished, that a mail program opens", async () => {
		const raw: Buffer[] = [];
		const server = await mailServer({ keep: async (one) => void raw.push(one) });
		await send({ to: ["boss"], attach: true });
		await writeSendings();
		expect(await sendWaiting(server.url)).toMatchObject({ sent: 1 });
		const { attachments, html } = await simpleParser(raw[0] ?? Buffer.alloc(0));
		const file = attachments.find(({ contentType }) => contentType.includes("spreadsheet"));
		const drawn = attachments.filter(({ contentType }) => contentType === "image/png");
		expect(drawn.map(({ contentDisposition }) => contentDisposition)).toEqual(["inline", "inline"]);
		// A program that reads a mail with its pictures in it puts them in the place of their names.
		expect(String(html)).not.toContain("cid:");
		expect([file?.filename, file?.contentType]).toEqual(["period 2026-11-24.xlsx", expect.stringContaining("spreadsheetml")]);
		expect(file?.content.subarray(0, 2).toString()).toBe("PK");
		expect(file?.content.length).toBe((await connection().db.select().from(outboxFiles)).find(({ contentId }) => !contentId)?.bytes.length);
		await server.stop();
	});
	test("may be anything there is a letter of; a view is sent to those who see it", async () => {
		const { id } = await saveView(await as("boss"), { name: "Big ones", query: "due=any", shared: false });
		const board = await makeBoard(await as("boss"), { name: "Mondays", tiles: EVERY_TILE(id) });
		const { planId } = await heldRound();
		const which: Record<string, string> = { view: id, board: board.id, minutes: planId };
		for (const { key, of } of LETTERS) await send({ kind: key, of: of ? (which[key] ?? "") : "", to: ["boss", "north"] });
		await writeSendings();
		const subjects = (await mails()).map(({ personId, subject }) => `${personId} ${subject}`);
		expect(subjects.filter((one) => one.includes("Big ones"))).toEqual([expect.stringMatching(/^boss Big ones: \d+ deals?$/)]);
		expect(subjects.some((one) => /^boss .* was won/.test(one))).toBe(true);
		expect(subjects.filter((one) => one.includes("Mondays"))).toEqual(["boss Mondays, 24 Nov 2026"]);
		expect(subjects.filter((one) => one.includes("Round with")).sort()).toEqual([
			"boss Round with everyone, 24 Nov 2026: 2 deals called",
			"north Round with everyone, 24 Nov 2026: 1 deal called",
		]);
		for (const kind of ["view", "board", "minutes"]) expect((await faultOf(async () => send({ kind, of: "none" }))).status).toBe(404);
	});
	test("a board is read from top to bottom, with a word for each tile and what its pictures show in words too", async () => {
		const { id } = await saveView(await as("boss"), { name: "Big ones", query: "due=any", shared: false });
		const board = await makeBoard(await as("boss"), { name: "Mondays", tiles: EVERY_TILE(id) });
		await send({ kind: "board", of: board.id, to: ["boss"], attach: true });
		await writeSendings();
		const [mail] = await mails();
		const { parts = [] } = (await tellBoard(await as("boss"), resolveViewpoint(await as("boss"), {}), board.id)) ?? {};
		expect(parts).toHaveLength(TELLERS.length);
		for (const { title, says, picture } of parts) for (const words of [title, ...says, picture?.alt ?? ""]) expect(mail?.text).toContain(words);
		const files = await connection().db.select().from(outboxFiles);
		expect(files.filter(({ contentId }) => contentId)).toHaveLength(parts.filter(({ picture }) => picture).length);
		for (const { contentId } of files) if (contentId) expect(mail?.html).toContain(`src="cid:${contentId}"`);
		expect(files.filter(({ contentId }) => !contentId).map(({ name }) => name)).toEqual(["board 2026-11-24.xlsx"]);
	});
	test("before a planned round comes on the day of the plan, on another once the plan is moved, and never without it", async () => {
		const { id } = await savePlan(await as("boss"), { id: null, name: "Weekly", whose: "all", weekday: 2 });
		await send({ rhythm: { kind: "round", plan: id }, to: ["boss"] });
		expect((await readSendings(await as("boss"))).sendings[0]?.round).toBe("Weekly");
		await savePlan(await as("boss"), { id, version: 1, name: "Weekly", whose: "all", weekday: 3 });
		await writeSendings();
		expect(await mails()).toEqual([]);
		await savePlan(await as("boss"), { id, version: 2, name: "Weekly", whose: "all", weekday: 2 });
		await writeSendings();
		expect(await mails()).toHaveLength(1);
		await removePlan(await as("boss"), { id });
		await dayIs("2026-12-01");
		await writeSendings();
		expect(await mails()).toHaveLength(1);
		expect((await readSendings(await as("boss"))).sendings[0]?.round).toBeNull();
		expect((await faultOf(async () => send({ rhythm: { kind: "round", plan: id } }))).status).toBe(404);
	});
});

describe("who may", () => {
	test("set it up are those who lead, look or run; to people who work there and have an address", async () => {
		expect((await faultOf(async () => send({}, "rep1"))).status).toBe(403);
		expect((await faultOf(async () => send({ to: ["nobody"] }))).status).toBe(404);
		expect((await faultOf(async () => send({ to: ["gone"] }))).status).toBe(404);
		expect((await faultOf(async () => send({ whose: "team:None" }))).status).toBe(400);
		await connection().db.execute(sql`update people set email = null where id = 'rep2'`);
		await connection().db.transaction((tx) => recordChange(tx, "everything"));
		expect((await faultOf(async () => send({ to: ["rep2"] }))).status).toBe(422);
	});
	test("end it: those who set it up and ops for everybody, a recipient for themselves, others not at all", async () => {
		const { id } = await send({ to: ["north", "rep1"] });
		const list = async (who: string) => (await readSendings(await as(who))).sendings.length;
		expect([await list("boss"), await list("ops"), await list("rep1"), await list("rep2")]).toEqual([1, 1, 1, 0]);
		expect((await faultOf(async () => endSending(await as("rep2"), { id }))).status).toBe(404);
		await endSending(await as("rep1"), { id });
		expect((await connection().db.select().from(sendings).where(eq(sendings.id, id)))[0]).toMatchObject({ to: ["north"], endedAt: null });
		await endSending(await as("ops"), { id });
		expect([await list("boss"), await list("ops")]).toEqual([0, 0]);
		await writeSendings();
		expect(await mails()).toEqual([]);
	});
});

test("a table in a mail stands in columns, escapes what it holds, and says how many rows it leaves out", () => {
	const content = {
		currency: "EUR",
		columns: [
			{ label: "Deal", kind: "text" as const },
			{ label: "Amount EUR", kind: "amount" as const },
			{ label: "Close date", kind: "day" as const },
		],
		rows: [["<Oven> & Co", 123_456_00, "2026-11-18"], ...Array.from({ length: 41 }, (_, i) => [`Deal ${i}`, null, null])],
	};
	const { text, html } = tableMail(content);
	const [head, first] = text.split("\n");
	expect(head).toMatch(/^Deal\s+Amount EUR\s+Close date$/);
	expect(first).toMatch(/^<Oven> & Co\s+123.456\s+18 Nov$/);
	expect(head?.indexOf("Close date")).toBe(first?.indexOf("18 Nov"));
	expect(html).toContain("&lt;Oven&gt; &amp; Co");
	expect(text.trim().endsWith("and 2 more")).toBe(true);
});
