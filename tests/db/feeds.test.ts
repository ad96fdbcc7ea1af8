import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { eq } from "drizzle-orm";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { routeAnswer } from "@/app/server/routes";
import { connection } from "@/data/db";
import { dataFeeds, deals, feedRuns, fileContents, outbox } from "@/data/schema";
import { forgetUnnamed } from "@/data/store/contents";
import { feedAddress, feedIn, isAddressOf, isSender } from "@/features/feeds/server/address";
import { type Delivery, deliver } from "@/features/feeds/server/deliver";
import { lastDue, missFiles } from "@/features/feeds/server/due";
import { endFeed, feedOf, replaceFeedAddress, saveFeed } from "@/features/feeds/server/feeds";
import { folderName } from "@/features/feeds/server/folderName";
import { readFeeds, readWaiting } from "@/features/feeds/server/readFeeds";
import { endStale } from "@/features/feeds/server/stale";
import { watchFolders } from "@/features/feeds/server/watchFolders";
import { storeKey } from "@/features/people/server/keys";
import { lookForNews } from "@/features/reaching/server/detectHappenings";
import { readNews } from "@/features/reaching/server/wishes";
import { endThreads } from "@/platform/threads";
import { small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { EMPTY, file, MIXERS, OVENS, PROOFER, stored, take, week } from "../kit/weekly";
import { zipFiles } from "../kit/zip";

let database: Awaited<ReturnType<typeof freshDatabase>>;
let folder: string;
beforeAll(async () => {
	database = await freshDatabase("feeds");
});
beforeEach(async () => {
	await refill(small(EMPTY));
	await connection().db.delete(dataFeeds);
	await connection().db.delete(outbox);
	folder = mkdtempSync(join(tmpdir(), "porch-lamp-inbox-"));
});
afterEach(() => {
	delete process.env.PORCH_LAMP_INBOX;
	delete process.env.PORCH_LAMP_INBOUND;
	rmSync(folder, { recursive: true, force: true });
});
afterAll(async () => {
	await endThreads();
	await database.drop();
});

const add = async (change: Partial<Parameters<typeof saveFeed>[1]> = {}, who = "ops") => {
	const { id } = await saveFeed(await as(who), { id: null, name: "Monday report", kind: "weekly", ...change });
	return feedOf(connection().db, id);
};
type Sent = Pick<Delivery, "name" | "bytes">;
const send = async (feed: Awaited<ReturnType<typeof add>>, { name, bytes }: Sent, way: Delivery["way"] = "api") =>
	deliver(feed, { way, name, bytes, sender: "ops" });
const runs = async () => (await readFeeds(await as("ops"))).feeds[0]?.runs ?? [];

describe("a weekly file that comes by itself", () => {
	test("is imported unasked where it is plain, and can be compared with the one before", async () => {
		await take(week.nov2);
		const feed = await add();
		const run = await send(feed, week.nov9);
		expect(run).toMatchObject({ state: "imported", words: "1 new deal, 1 changed, 0 missing.", day: "2026-11-09", before: "2026-11-02" });
		expect((await stored("7")).map(([on]) => on)).toEqual(["2026-11-02", "2026-11-09"]);
		expect(await runs()).toMatchObject([{ name: "deals 2026-11-09.csv", state: "imported", way: "api" }]);
	});
	test("does nothing a second time, whichever way it comes, nor where it was imported by hand", async () => {
		const feed = await add();
		await take(week.nov2);
		expect(await send(feed, week.nov2)).toMatchObject({ state: "known" });
		await send(feed, week.nov9, "mail");
		expect(await send(feed, { ...week.nov9, name: "other name.csv" }, "folder")).toMatchObject({ state: "known", words: expect.stringContaining("by mail") });
		expect(await stored("8")).toHaveLength(1);
	});
	test("waits where something would be confirmed by hand, and waits no more once that was done", async () => {
		const feed = await add();
		await take(week.nov2);
		const huge = file("deals 2026-11-09.csv", OVENS.replace("1200.50", "1200500"), MIXERS);
		const run = await send(feed, huge);
		expect(run).toMatchObject({ state: "waits", day: "2026-11-09" });
		expect(run.words).toMatch(/ten times|1,000|tenfold|times/i);
		expect(await stored("7")).toHaveLength(1);
		expect((await readFeeds(await as("ops"))).feeds[0]?.waiting).toBe(1);
		const { name, bytes } = await readWaiting(await as("ops"), run.id);
		expect([name, Buffer.from(bytes)]).toEqual([huge.name, Buffer.from(huge.bytes)]);
		// What waits is kept however long it waits.
		expect(await forgetUnnamed(connection().db, Date.now() + 30 * 86_400_000)).toBe(0);
		expect(await faultOf(async () => readWaiting(await as("rep1"), run.id))).toMatchObject({ status: 403 });
		// The same file is not asked about twice.
		expect(await send(feed, huge, "mail")).toMatchObject({ state: "known" });
		const asks = (await faultOf(() => take({ ...huge, day: null, plan: null }))).more.asks as { key: string }[];
		await take(huge, ...asks.map(({ key }) => key));
		expect((await readFeeds(await as("ops"))).feeds[0]).toMatchObject({ waiting: 0 });
		expect((await runs()).find(({ id }) => id === run.id)).toMatchObject({ state: "imported", byHand: true });
		await endStale();
		expect((await runs()).find(({ id }) => id === run.id)).toMatchObject({ state: "imported", words: "Imported by hand." });
		expect(await forgetUnnamed(connection().db, Date.now() + 30 * 86_400_000)).toBe(1);
	});
	test("that can’t be read is refused with the reason, and nothing of it is kept", async () => {
		const feed = await add();
		for (const [name, content] of [
			["empty.csv", ""],
			["deals 2026-11-09.csv", "Ref,Opportunity,Company,Phase,Value,Closing date,Owner\n7,Ovens,Mill,Survey,1.2.3,2026-12-18,Rae Penn\n"],
		] as const) {
			const run = await send(feed, { name, bytes: new TextEncoder().encode(content) });
			expect(run.state, name).toBe("refused");
			expect(run.words).toContain(name);
		}
		const two = zipFiles(new Map([week.nov2, week.nov9].map(({ name, bytes }) => [name, bytes])));
		expect(await send(feed, { name: "both.zip", bytes: two })).toMatchObject({ state: "refused", words: expect.stringContaining("holds 2 files") });
		expect(await connection().db.select().from(deals)).toEqual([]);
		expect(await connection().db.select().from(fileContents)).toEqual([]);
	});
	test("comes in a zip of one, under the name that it has there; without a day in its name it tells of the day it came", async () => {
		const feed = await add();
		const { name, bytes } = week.nov2;
		expect(await send(feed, { name: "report.zip", bytes: zipFiles(new Map([[name, bytes]])) })).toMatchObject({ state: "imported", day: "2026-11-02" });
		expect(await send(feed, { name: "report.csv", bytes: week.nov9.bytes })).toMatchObject({ state: "imported", day: "2026-11-24" });
	});
	test("imports with the rights of the person who set the feed up, as long as they have them", async () => {
		const feed = await add();
		await connection().db.update(dataFeeds).set({ byId: "rep1" }).where(eq(dataFeeds.id, feed.id));
		expect(await send(await feedOf(connection().db, feed.id), week.nov2)).toMatchObject({
			state: "refused",
			words: expect.stringContaining("may no longer import"),
		});
		await saveFeed(await as("ops"), { id: feed.id, name: feed.name, kind: "weekly" });
		expect(await send(await feedOf(connection().db, feed.id), week.nov2)).toMatchObject({ state: "imported" });
	});
	test("that was cut off is said to be sent again", async () => {
		const feed = await add();
		const { now } = await as("ops");
		const values = { id: "run-cut", feedId: feed.id, way: "api", name: "x.csv", state: "reading" as const };
		await connection()
			.db.insert(feedRuns)
			.values({ ...values, at: new Date(now.instant - 7_200_000) });
		await connection()
			.db.insert(feedRuns)
			.values({ ...values, id: "run-on", at: new Date(now.instant - 60_000) });
		await endStale();
		expect((await runs()).map(({ id, state }) => [id, state])).toEqual([
			["run-on", "reading"],
			["run-cut", "failed"],
		]);
		await connection()
			.db.update(feedRuns)
			.set({ state: "waits", at: new Date(now.instant - 91 * 86_400_000) });
		await endStale();
		expect((await runs()).map(({ state, words }) => [state, words.slice(0, 15)])).toEqual([
			["refused", "Nobody answered"],
			["refused", "Nobody answered"],
		]);
	});
});

test("a bundle comes by itself too, and says what it changed or why it wasn’t imported", async () => {
	const feed = await add({ kind: "bundle" });
	expect(await send(feed, { name: "all.zip", bytes: zipFiles(small()) })).toMatchObject({
		state: "imported",
		words: expect.stringMatching(/^\d+ rows changed\.$/),
	});
	const broken = zipFiles(
		small({ "deals.csv": ["id,account_id,name,source,created_at,competitor,outcome_reason,tags", "d1,nobody,X,,2026-11-03T09:00:00Z,,,"] }),
	);
	expect(await send(feed, { name: "broken.zip", bytes: broken })).toMatchObject({
		state: "refused",
		words: expect.stringMatching(/deals\.csv, line 2.*Nothing was imported/),
	});
});

describe("a feed", () => {
	test("is set up by those who import alone; two don’t bring the same part, and no folder is of two", async () => {
		for (const who of ["rep1", "boss", "view"]) expect(await faultOf(() => add({}, who)), who).toMatchObject({ status: 403 });
		await add({ covers: "North" });
		expect(await faultOf(() => add({ name: "monday  REPORT!", covers: "South" }))).toMatchObject({ status: 422, title: "Name taken" });
		expect(await faultOf(() => add({ name: "Other", covers: "North" }))).toMatchObject({ status: 422, title: "Part taken" });
		const { id } = await add({ name: "Other", covers: "South" });
		await endFeed(await as("ops"), { id });
		expect((await readFeeds(await as("ops"))).feeds.map(({ name }) => name)).toEqual(["Monday report"]);
		await endFeed(await as("ops"), { id, ended: false });
		expect((await readFeeds(await as("ops"))).feeds).toHaveLength(2);
	});
	test("has a folder of its name’s letters and numbers", () => {
		expect(["Monday’s report", "../../etc", "Übersicht Süd 2", "  "].map(folderName)).toEqual(["monday-s-report", "etc", "ubersicht-sud-2", ""]);
	});
	test("takes files over the API, and lists what came", async () => {
		const feed = await add();
		const { token } = await storeKey(connection().db, "ops", "test");
		const call = async (method: string, path: string, body?: Uint8Array, key = token) => {
			const request = new Request(`http://127.0.0.1/api/v1/${path}`, {
				method,
				headers: { authorization: `Bearer ${key}` },
				...(body ? { body: new Blob([body as BlobPart]) } : {}),
			});
			return (await routeAnswer(method, `/api/v1/${path}`, () => request)) as Response;
		};
		const done = await call("POST", `feeds/${feed.id}/files?name=deals%202026-11-02.csv`, week.nov2.bytes);
		expect([done.status, await done.json()]).toMatchObject([200, { state: "imported", day: "2026-11-02", sender: "ops" }]);
		expect((await (await call("GET", "feeds")).json()).items).toMatchObject([{ id: feed.id, name: "Monday report", waiting: 0 }]);
		expect((await (await call("GET", `feeds/${feed.id}/files`)).json()).items).toMatchObject([{ state: "imported" }]);
		const { token: reps } = await storeKey(connection().db, "rep1", "test");
		expect((await call("POST", `feeds/${feed.id}/files?name=x.csv`, week.nov9.bytes, reps)).status).toBe(403);
		await saveFeed(await as("ops"), { id: feed.id, name: feed.name, kind: "weekly", on: false });
		expect((await call("POST", `feeds/${feed.id}/files?name=x.csv`, week.nov9.bytes)).status).toBe(409);
	});
});

describe("a folder that is watched", () => {
	const put = (name: string, content: Uint8Array | string, age = 60) => {
		const own = join(folder, "monday-report");
		mkdirSync(own, { recursive: true });
		writeFileSync(join(own, name), content);
		utimesSync(join(own, name), Date.now() / 1000 - age, Date.now() / 1000 - age);
	};
	const inside = (part = "") => readdirSync(join(folder, "monday-report", part)).sort();
	test("gives up its files once they have stopped growing; each is moved with its report beside it", async () => {
		process.env.PORCH_LAMP_INBOX = folder;
		await add();
		await watchFolders();
		expect(inside()).toEqual([]);
		put("deals 2026-11-02.csv", week.nov2.bytes);
		put("growing.csv", "Ref", 1);
		put(".hidden.csv", "Ref");
		put("broken.csv", "");
		await watchFolders();
		expect(inside()).toEqual([".hidden.csv", "done", "growing.csv", "refused"]);
		const [taken, report] = inside("done");
		expect([taken, report]).toEqual([expect.stringMatching(/deals 2026-11-02\.csv$/), expect.stringMatching(/deals 2026-11-02\.csv\.report\.txt$/)]);
		expect(readFileSync(join(folder, "monday-report", "done", report ?? ""), "utf8")).toMatch(
			/was imported: 2 new deals, 0 changed, 0 missing\.\nFeed: Monday report/,
		);
		expect(inside("refused").filter((name) => name.endsWith("broken.csv"))).toHaveLength(1);
		// The same again is put away as known, and a feed that is switched off takes nothing.
		put("deals 2026-11-02.csv", week.nov2.bytes);
		await watchFolders();
		expect(inside("done")).toHaveLength(4);
		await connection().db.update(dataFeeds).set({ on: false });
		put("deals 2026-11-09.csv", week.nov9.bytes);
		await watchFolders();
		expect(inside()).toContain("deals 2026-11-09.csv");
	});
	test("doesn’t follow links, and one that can’t be used doesn’t keep the others waiting", async () => {
		process.env.PORCH_LAMP_INBOX = folder;
		await add({ name: "A file", covers: "North" });
		await add();
		writeFileSync(join(folder, "a-file"), "where a folder should be");
		put("deals 2026-11-02.csv", week.nov2.bytes);
		mkdirSync(join(folder, "monday-report", "sub"), { recursive: true });
		await watchFolders();
		expect(inside()).toEqual(["done", "sub"]);
	});
});

describe("a mail to a feed", () => {
	const attached = (name: string, bytes: Uint8Array) =>
		`--mix\r\nContent-Type: application/octet-stream\r\nContent-Disposition: attachment; filename="${name}"\r\nContent-Transfer-Encoding: base64\r\n\r\n${Buffer.from(bytes).toString("base64")}\r\n`;
	const mail = (to: string, from: string, id: string, ...parts: string[]) =>
		`From: ${from}\r\nTo: ${to}\r\nSubject: Report\r\nMessage-ID: <${id}@x>\r\nDate: Mon, 23 Nov 2026 07:00:00 +0100\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=mix\r\n\r\n--mix\r\nContent-Type: text/plain\r\n\r\nSee attached.\r\n${parts.join("")}--mix--\r\n`;
	const bring = async (raw: string) => {
		process.env.PORCH_LAMP_INBOUND = "secret";
		const request = new Request("http://127.0.0.1/inbound/mail", { method: "POST", headers: { authorization: "Bearer secret" }, body: raw });
		return ((await routeAnswer("POST", "/inbound/mail", () => request)) as Response).json();
	};
	const letters = async () => (await connection().db.select().from(outbox)).map(({ address, subject }) => [address, subject]);
	test("is imported from what is attached, and its sender is told what came of it", async () => {
		await take(week.nov2);
		const feed = await add({ senders: ["reports@system.example"] });
		const raw = mail(
			feedAddress(feed),
			"Reports <Reports@System.example>",
			"m1",
			attached(week.nov9.name, week.nov9.bytes),
			attached("logo.png", new Uint8Array([1])),
		);
		expect(await bring(raw)).toEqual({ fate: "taken", why: "" });
		expect(await runs()).toMatchObject([{ state: "imported", way: "mail", sender: "reports@system.example", before: "2026-11-02" }]);
		expect(await letters()).toEqual([["reports@system.example", "deals 2026-11-09.csv was imported: 1 new deal, 1 changed, 0 missing."]]);
		// The same mail again changes nothing, and isn’t answered twice.
		await bring(raw);
		expect([(await runs()).map(({ state }) => state), (await letters()).length]).toEqual([["known", "imported"], 1]);
	});
	test("counts only at the feed’s own address and from its senders; anybody else is told nothing", async () => {
		const feed = await add({ senders: ["@system.example"] });
		const own = feedAddress(feed);
		const part = attached(week.nov2.name, week.nov2.bytes);
		const forged = own.replace(/\.([0-9a-f])/, (_, first) => `.${first === "a" ? "b" : "a"}`);
		expect(await bring(mail(forged, "a@system.example", "m2", part))).toMatchObject({ fate: "refused", why: "there is no such feed" });
		expect(await bring(mail(own, "a@other.example", "m3", part))).toMatchObject({ fate: "refused" });
		expect(await bring(mail(own, "a@system.example.evil.example", "m4", part))).toMatchObject({ fate: "refused" });
		expect([await runs(), await letters()]).toEqual([[], []]);
		await replaceFeedAddress(await as("ops"), { id: feed.id });
		expect(await bring(mail(own, "a@system.example", "m5", part))).toMatchObject({ fate: "refused", why: "there is no such feed" });
		expect(await bring(mail(feedAddress(await feedOf(connection().db, feed.id)), "a@system.example", "m6", part))).toMatchObject({ fate: "taken" });
		const [address] = (await readFeeds(await as("ops"))).feeds.map((one) => one.address);
		expect(address).not.toBe(own);
	});
	test("that a program sent is imported, and not answered", async () => {
		const feed = await add({ senders: ["a@system.example"] });
		const raw = mail(feedAddress(feed), "a@system.example", "m8", attached(week.nov2.name, week.nov2.bytes)).replace(
			"Subject:",
			"Auto-Submitted: auto-generated\r\nSubject:",
		);
		expect(await bring(raw)).toMatchObject({ fate: "taken" });
		expect([(await runs()).map(({ state }) => state), await letters()]).toEqual([["imported"], []]);
	});
	test("without a table is answered with what to attach", async () => {
		const feed = await add({ senders: ["a@system.example"] });
		expect(await bring(mail(feedAddress(feed), "a@system.example", "m7"))).toMatchObject({ fate: "refused", why: "no table is attached to it" });
		expect(await letters()).toEqual([["a@system.example", "Nothing came through Monday report"]]);
	});
	test("of 60 MB is refused with what to do instead, and one of 30 MB is taken", async () => {
		const feed = await add({ senders: ["a@system.example"] });
		const filled = (megabytes: number) => attached("pictures.bin", Buffer.alloc(Math.floor(megabytes * 0.74 * 1024 * 1024), 7));
		const large = mail(feedAddress(feed), "a@system.example", "m9", attached(week.nov2.name, week.nov2.bytes), filled(60));
		expect(await bring(large)).toMatchObject({ status: 413, detail: expect.stringContaining("Put a file into its feed’s folder") });
		expect(await runs()).toEqual([]);
		expect(await bring(mail(feedAddress(feed), "a@system.example", "m10", attached(week.nov2.name, week.nov2.bytes), filled(30)))).toMatchObject({
			fate: "taken",
		});
		expect(await runs()).toMatchObject([{ state: "imported" }]);
	});
	test("is known by an address that names the feed", () => {
		const feed = { id: "feed-1a-b", salt: "x" };
		expect(feedIn(feedAddress(feed))).toBe("feed-1a-b");
		expect([feedIn("answer+mail-1.0123456789abcdef01234567@x.example"), feedIn("feed+1a-b@x")]).toEqual([null, null]);
		expect([isAddressOf(feed, feedAddress(feed)), isAddressOf({ ...feed, salt: "y" }, feedAddress(feed))]).toEqual([true, false]);
		expect([isSender(["@a.example"], "x@b.a.example"), isSender(["x@a.example"], "X@A.example"), isSender([], "x@a.example")]).toEqual([false, true, false]);
	});
});

describe("those who are told", () => {
	const told = async (who: string) => (await readNews(await as(who))).items.map(({ words }) => words);
	test("hear of what was imported, what waits and what was refused, and nobody else does", async () => {
		await lookForNews();
		const feed = await add({ tell: ["boss"] });
		await send(feed, week.nov2);
		await send(feed, { name: "empty.csv", bytes: new Uint8Array() });
		await send(feed, file("deals 2026-11-09.csv", OVENS.replace("1200.50", "1200500"), MIXERS));
		await lookForNews();
		const words = await told("boss");
		expect(words.filter((one) => one.startsWith("Monday report: "))).toHaveLength(3);
		expect(words.join("\n")).toMatch(/deals 2026-11-02\.csv was imported\. 2 new deals/);
		expect(words.join("\n")).toMatch(/deals 2026-11-09\.csv waits for an answer/);
		expect(words.join("\n")).toMatch(/empty\.csv wasn’t imported/);
		expect((await told("rep1")).filter((one) => one.startsWith("Monday report"))).toEqual([]);
	});
	test("hear once that no file has come by its hour, and not where one did", async () => {
		const feed = await add({ due: { days: [1, 2, 3, 4, 5, 6, 7], at: "00:00" }, tell: ["boss"] });
		expect(await missFiles()).toEqual([]);
		await connection()
			.db.update(dataFeeds)
			.set({ madeAt: new Date("2026-11-01T00:00:00Z") });
		expect([await missFiles(), await missFiles()]).toEqual([["Monday report"], []]);
		expect(await runs()).toMatchObject([{ state: "missing", name: "24 Nov, 00:00" }]);
		await connection().db.delete(feedRuns);
		await deliver(feed, { way: "api", ...file("deals 2026-11-23.csv", PROOFER), sender: null });
		await connection()
			.db.update(feedRuns)
			.set({ at: new Date("2026-11-23T12:00:00Z") });
		expect(await missFiles()).toEqual([]);
	});
	test("a file is due on its weekdays by its time", () => {
		const tuesday = day("2026-11-24");
		const at = (days: number[], time: string) => lastDue({ days, at: "08:00" }, tuesday, time);
		expect(at([2], "09:00")).toEqual({ day: tuesday, before: tuesday - 7 });
		expect(at([2], "07:59")).toEqual({ day: tuesday - 7, before: tuesday - 14 });
		expect(at([1, 4], "07:00")).toEqual({ day: tuesday - 1, before: tuesday - 5 });
		expect(at([7], "00:00")).toEqual({ day: tuesday - 2, before: tuesday - 9 });
	});
});
