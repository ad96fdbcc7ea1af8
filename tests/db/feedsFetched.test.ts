import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import type { AddressInfo } from "node:net";
import { eq } from "drizzle-orm";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { makeZone } from "@/core/time/zone";
import { connection } from "@/data/db";
import { dataFeeds, feedRuns } from "@/data/schema";
import { feedOf, saveFeed } from "@/features/feeds/server/feeds";
import { fetchAddress } from "@/features/feeds/server/fetchAddress";
import { fetchFeeds } from "@/features/feeds/server/fetchFeeds";
import { readFeeds } from "@/features/feeds/server/readFeeds";
import { isRule, nextTime } from "@/features/feeds/server/rhythm";
import { endThreads } from "@/platform/threads";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { EMPTY, week } from "../kit/weekly";

let database: Awaited<ReturnType<typeof freshDatabase>>;
let server: Server;
let asked: IncomingMessage[] = [];
let answer: (request: IncomingMessage, response: ServerResponse) => void;
const base = () => `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
beforeAll(async () => {
	database = await freshDatabase("feeds_fetched");
	server = createServer((request, response) => {
		asked.push(request);
		answer(request, response);
	});
	await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
});
beforeEach(async () => {
	process.env.PORCH_LAMP_HOOKS_INSIDE = "on";
	asked = [];
	await refill(small(EMPTY));
	await connection().db.delete(dataFeeds);
});
afterEach(() => {
	delete process.env.PORCH_LAMP_HOOKS_INSIDE;
});
afterAll(async () => {
	server.close();
	await endThreads();
	await database.drop();
});

const DAILY = "FREQ=DAILY;BYHOUR=6;BYMINUTE=0";
const add = async (change: Partial<Parameters<typeof saveFeed>[1]> = {}) => {
	const { id } = await saveFeed(await as("ops"), { id: null, name: "System", kind: "weekly", url: `${base()}/report.csv`, rule: DAILY, ...change });
	return feedOf(connection().db, id);
};
/** Long after all that is due. */
const later = (days: number) => Date.now() + days * 86_400_000;
const states = async () => ((await readFeeds(await as("ops"))).feeds[0]?.runs ?? []).map(({ state, words }) => [state, words]);
const gives = (sent: { name: string; bytes: Uint8Array }, etag: string) => (request: IncomingMessage, response: ServerResponse) => {
	if (request.headers["if-none-match"] === etag) return void response.writeHead(304).end();
	response.writeHead(200, { etag, "content-disposition": `attachment; filename="${sent.name}"` }).end(Buffer.from(sent.bytes));
};

describe("a feed that is fetched", () => {
	test("is asked for by its rule, with its header; what is as it was is left alone, and what is new is imported", async () => {
		const feed = await add({ header: "Authorization: Bearer abc" });
		expect(feed.header).not.toContain("abc");
		answer = gives(week.nov2, '"one"');
		await fetchFeeds(Date.now());
		expect(asked).toEqual([]);
		await fetchFeeds(later(2));
		expect(asked.map(({ headers }) => [headers.authorization, headers["if-none-match"]])).toEqual([["Bearer abc", undefined]]);
		expect(await states()).toEqual([["imported", "2 new deals, 0 changed, 0 missing."]]);
		await fetchFeeds(later(2));
		expect(asked).toHaveLength(1);
		await fetchFeeds(later(4));
		expect([asked.at(-1)?.headers["if-none-match"], (await states()).length]).toEqual(['"one"', 1]);
		answer = gives(week.nov9, '"two"');
		await fetchFeeds(later(6));
		expect((await states()).map(([state]) => state)).toEqual(["imported", "imported"]);
		// What a server sends again without saying that it is the same is known by its bytes.
		answer = (_, response) => void response.writeHead(200).end(Buffer.from(week.nov9.bytes));
		await fetchFeeds(later(8));
		expect((await states()).map(([state]) => state)).toEqual(["known", "imported", "imported"]);
	});
	test("says why nothing came: an error, a redirect, a server that is gone, a file that is no table", async () => {
		const feed = await add();
		const fates: [(request: IncomingMessage, response: ServerResponse) => void, RegExp][] = [
			[(_, response) => void response.writeHead(503).end(), /answers 503/],
			[(_, response) => void response.writeHead(401).end(), /answers 401: check the header/],
			[(_, response) => void response.writeHead(302, { location: "http://127.0.0.1:1/elsewhere" }).end(), /redirect to http:\/\/127\.0\.0\.1:1\/elsewhere/],
			[(_, response) => void response.writeHead(200).end(""), /empty/],
		];
		for (const [i, [fate, why]] of fates.entries()) {
			answer = fate;
			await fetchFeeds(later(2 * (i + 1)));
			expect((await states())[0], String(why)).toEqual(["refused", expect.stringMatching(why)]);
		}
		await connection().db.update(dataFeeds).set({ url: "http://127.0.0.1:1/report.csv" }).where(eq(dataFeeds.id, feed.id));
		await fetchFeeds(later(20));
		expect((await states())[0]).toEqual(["refused", expect.stringMatching(/can’t be reached/)]);
		await connection().db.update(dataFeeds).set({ header: "bm90IHNlYWxlZCBieSB1cyBhdCBhbGwsIG5vdCBldmVu" }).where(eq(dataFeeds.id, feed.id));
		await fetchFeeds(later(30));
		expect((await states())[0]).toEqual(["refused", expect.stringMatching(/enter it again/)]);
	});
	test("is fetched once where several processes come at the same time, and not at all when it is switched off", async () => {
		await add();
		answer = gives(week.nov2, '"one"');
		await Promise.all([fetchFeeds(later(2)), fetchFeeds(later(2)), fetchFeeds(later(2))]);
		expect(asked).toHaveLength(1);
		await connection().db.update(dataFeeds).set({ on: false });
		await fetchFeeds(later(9));
		expect(asked).toHaveLength(1);
		// One whose rule has ended isn’t asked for ever.
		await connection().db.update(dataFeeds).set({ on: true, nextAt: null });
		await fetchFeeds(later(90));
		expect(asked).toHaveLength(1);
	});
	test("keeps its header when it is changed, and forgets what it knew of another address", async () => {
		const { id } = await add({ header: "X-Key: 1" });
		await connection().db.update(dataFeeds).set({ etag: '"old"' });
		const base = { id, name: "System", kind: "weekly" as const, rule: DAILY };
		await saveFeed(await as("ops"), { ...base, url: (await feedOf(connection().db, id)).url });
		expect(await feedOf(connection().db, id)).toMatchObject({ etag: '"old"', header: expect.any(String) });
		await saveFeed(await as("ops"), { ...base, url: "http://127.0.0.1:1/other.csv", header: null });
		expect(await feedOf(connection().db, id)).toMatchObject({ etag: null, header: null });
		expect((await readFeeds(await as("ops"))).feeds[0]).toMatchObject({ hasHeader: false, nextAt: expect.any(String) });
		expect(JSON.stringify(await readFeeds(await as("ops")))).not.toContain("X-Key");
	});
});

describe("an address", () => {
	test("inside our own network, or not over HTTPS, isn’t fetched", async () => {
		delete process.env.PORCH_LAMP_HOOKS_INSIDE;
		for (const url of ["https://127.0.0.1/x.csv", "https://localhost/x.csv", "https://[::1]/x", "https://10.1.2.3/x", "http://system.example/x.csv"])
			expect(await faultOf(() => add({ url })), url).toMatchObject({ status: 422, title: "Can’t be fetched" });
		expect(await fetchAddress(`${base()}/x`, null, { etag: null, lastModified: null })).toMatchObject({ kind: "failed" });
		expect(asked).toEqual([]);
		expect(await faultOf(() => add({ url: "https://system.example/x.csv", rule: null }))).toMatchObject({ status: 422, title: "Choose when" });
	});
	test("names its file by the answer, else by its last part; never a path", async () => {
		const named = async (path: string, disposition?: string) => {
			answer = (_, response) => void response.writeHead(200, disposition ? { "content-disposition": disposition } : {}).end("x");
			const found = await fetchAddress(`${base()}${path}`, null, { etag: null, lastModified: null });
			return found.kind === "file" ? found.name : found;
		};
		expect(await named("/a/week%2047.csv?x=1")).toBe("week 47.csv");
		expect(await named("/x", 'attachment; filename="../../etc/passwd"')).toBe(".._.._etc_passwd");
		expect(await named("/x", "attachment; filename*=UTF-8''%C3%9Cbersicht.csv")).toBe("Übersicht.csv");
		expect(await named("/")).toBe("file");
	});
	test("whose answer breaks off or is too large gives nothing", async () => {
		answer = (_, response) => {
			response.writeHead(200, { "content-length": "100" });
			response.write("half");
			setTimeout(() => response.destroy(), 20);
		};
		expect(await fetchAddress(`${base()}/x`, null, { etag: null, lastModified: null })).toMatchObject({ kind: "failed" });
		answer = (_, response) => {
			response.writeHead(200);
			const more = () => {
				while (!response.destroyed && response.write(Buffer.alloc(2 ** 20))) {
					// as long as somebody reads
				}
			};
			response.on("drain", more);
			more();
		};
		expect(await fetchAddress(`${base()}/x`, null, { etag: null, lastModified: null })).toMatchObject({
			kind: "failed",
			words: expect.stringMatching(/larger than/),
		});
	});
});

describe("a rule", () => {
	const zone = makeZone("Europe/Berlin");
	const at = (iso: string) => Date.parse(iso);
	test("says the next time by clocks of the company’s zone, in summer and winter", () => {
		const next = (rule: string, after: string) => new Date(nextTime(rule, at("2026-01-05T09:17:30Z"), at(after), zone) ?? 0).toISOString();
		expect(next(DAILY, "2026-11-24T04:59:00Z")).toBe("2026-11-24T05:00:00.000Z");
		expect(next(DAILY, "2026-11-24T05:00:00Z")).toBe("2026-11-25T05:00:00.000Z");
		expect(next(DAILY, "2026-07-01T05:00:00Z")).toBe("2026-07-02T04:00:00.000Z");
		expect(next("FREQ=WEEKLY;BYDAY=MO;BYHOUR=6;BYMINUTE=0", "2026-11-24T05:00:00Z")).toBe("2026-11-30T05:00:00.000Z");
		expect(next("FREQ=HOURLY", "2026-11-24T05:00:00Z")).toBe("2026-11-24T05:17:00.000Z");
	});
	test("always lies after the instant, on the days too on which clocks change", () => {
		for (const from of ["2026-03-28T00:00:00Z", "2026-10-24T00:00:00Z"]) {
			let now = at(from);
			for (let i = 0; i < 60; i++) {
				const next = nextTime("FREQ=HOURLY;BYMINUTE=0", at("2026-01-05T09:00:00Z"), now, zone) ?? 0;
				expect(next).toBeGreaterThan(now);
				expect(next - now).toBeLessThanOrEqual(2 * 3_600_000);
				now = next;
			}
		}
	});
	test("is hourly at most, and comes at least once; an ended one is fetched no more", () => {
		expect([DAILY, "FREQ=HOURLY", "FREQ=WEEKLY;BYDAY=MO"].map(isRule)).toEqual([true, true, true]);
		expect(["FREQ=MINUTELY", "FREQ=SECONDLY", "daily", "", "FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30;COUNT=1"].map(isRule)).toEqual([
			false,
			false,
			false,
			false,
			false,
		]);
		expect(nextTime("FREQ=DAILY;COUNT=2", at("2026-01-05T09:00:00Z"), at("2026-11-24T00:00:00Z"), zone)).toBeNull();
	});
});

test("what came is told with its way", async () => {
	await add();
	answer = gives(week.nov2, '"one"');
	await fetchFeeds(later(2));
	expect(await connection().db.select({ way: feedRuns.way, name: feedRuns.name }).from(feedRuns)).toEqual([{ way: "address", name: "deals 2026-11-02.csv" }]);
});
