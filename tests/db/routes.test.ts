import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { ROUTES, routeAnswer } from "@/app/server/routes";
import { connection } from "@/data/db";
import { storeKey } from "@/features/people/server/keys";
import { unzip } from "@/formats/bundle/unpack";
import { Fault } from "@/platform/fault";
import { demandOwnOrigin, faultResponse, page } from "@/platform/http/api";
import { more, small } from "../kit/bundle";
import { freshDatabase, importAs } from "../kit/database";
import { zipFiles } from "../kit/zip";

let database: Awaited<ReturnType<typeof freshDatabase>>;
const tokens: Record<string, string> = {};
beforeAll(async () => {
	database = await freshDatabase("routes");
	await importAs(small());
	for (const person of ["boss", "rep2", "ops"]) tokens[person] = (await storeKey(connection().db, person, "test")).token;
});
afterAll(() => database.drop());

const as = (person: string) => ({ authorization: `Bearer ${tokens[person]}` });
/** The answer of the server’s one table of routes. */
async function routed(request: Request): Promise<Response> {
	const { pathname, search } = new URL(request.url);
	const answer = await routeAnswer(request.method, `${pathname}${search}`, () => request);
	if (!answer) throw new Error(`no route takes ${pathname}`);
	return answer;
}
const got = (path: string, person = "ops") => routed(new Request(`http://127.0.0.1/api/v1/${path}`, { headers: as(person) }));
const posted = routed;
const send = (body: Uint8Array | null, query = "", person = "ops", headers: Record<string, string> = {}) =>
	posted(
		new Request(`http://127.0.0.1/api/v1/imports${query}`, {
			method: "POST",
			headers: { ...as(person), ...headers },
			body: body && new Blob([body as BlobPart]),
		}),
	);
const bad = zipFiles(small(more("deal_versions.csv", "d2,2026-11-12T09:00:00Z,Nowhere,1,EUR,,rep2,,,")));

describe("POST /imports", () => {
	test("answers with the report when the bundle is in, and the report can be read again", async () => {
		const answer = await send(zipFiles(small(more("holidays.csv", "date,name", "2026-12-25,Christmas"))));
		const report = await answer.json();
		expect([answer.status, report.state, report.problemCount]).toEqual([200, "done", 0]);
		expect(report.changed["holidays.csv"]).toBe(1);
		const again = await got(`imports/${report.id}`);
		expect(await again.json()).toEqual(report);
	});
	test("answers 422 with each problem when it is refused, and 200 when the bad rows may be left out", async () => {
		const refused = await send(bad);
		expect(refused.status).toBe(422);
		expect(await refused.json()).toMatchObject({
			state: "refused",
			problems: [{ file: "deal_versions.csv", line: 6, column: "stage", value: "Nowhere", reason: "no stage has this name" }],
		});
		const taken = await send(bad, "?skip_bad=true");
		expect([taken.status, (await taken.json()).state]).toEqual([200, "done"]);
	});
	test("a dry run reports and writes nothing", async () => {
		const answer = await send(zipFiles(small(more("people.csv", "new,New One,,rep,North,Firm,,"))), "?dry_run=true");
		expect(await answer.json()).toMatchObject({ state: "checked", dryRun: true });
		const found = await connection().pool.query("select 1 from people where id = 'new'");
		expect(found.rowCount).toBe(0);
	});
	test("without waiting answers at once with the id to follow", async () => {
		const answer = await send(zipFiles(small()), "?wait=false");
		expect(answer.status).toBe(202);
		const { id } = await answer.json();
		await expect.poll(async () => (await (await got(`imports/${id}`)).json()).state).toBe("done");
	});
	test("refuses what is too large before reading it, nothing at all, and those who may not", async () => {
		const large = await send(new Uint8Array([1]), "", "ops", { "content-length": String(300 * 2 ** 20) });
		expect([large.status, (await large.json()).title]).toEqual([413, "Too large"]);
		const streamed = await send(new Uint8Array(65 * 2 ** 20));
		expect(streamed.status).toBe(413);
		const nothing = await send(null);
		expect([nothing.status, (await nothing.json()).problems[0].reason]).toEqual([422, "the file is empty; send a zip of the bundle’s files"]);
		expect((await send(zipFiles(small()), "", "boss")).status).toBe(403);
		expect((await send(zipFiles(small()), "?dry_run=perhaps")).status).toBe(400);
	});
});

describe("other routes", () => {
	test("the export is a zip that imports again without a change", async () => {
		const answer = await got("export");
		expect(answer.headers.get("content-type")).toBe("application/zip");
		const zip = new Uint8Array(await answer.arrayBuffer());
		expect((await unzip(zip)).has("deal_versions.csv")).toBe(true);
		const report = await (await send(zip)).json();
		expect(Object.values(report.changed as Record<string, number>).every((n) => n === 0)).toBe(true);
		expect((await got("export", "boss")).status).toBe(403);
	});
	test("a sheet is given to whom the deal is shown", async () => {
		const ask = (person: string, id: string) => routed(new Request(`http://127.0.0.1/sheet/${id}?seen=2026-11-24&against=2026-11-09`, { headers: as(person) }));
		expect(await (await ask("boss", "d1")).json()).toMatchObject({ id: "d1", stage: "Survey", mayAssign: true });
		expect((await ask("rep2", "d1")).status).toBe(404);
	});
	test("an address that is no call is said to be none, and a way that isn’t one of a call names those that are", async () => {
		const nowhere = await got("deals/d1/planets");
		expect([nowhere.status, (await nowhere.json()).detail]).toEqual([404, "There is no call at /deals/d1/planets, or you may not see it."]);
		const wrong = await routed(new Request("http://127.0.0.1/api/v1/deals/d1", { method: "POST", headers: as("ops") }));
		expect([wrong.status, wrong.headers.get("allow")]).toEqual([405, "GET, PATCH, PUT"]);
	});
	test("health and the OpenAPI document are open to all", async () => {
		expect(await (await routed(new Request("http://127.0.0.1/healthz"))).json()).toEqual({ state: "well" });
		expect((await (await routed(new Request("http://127.0.0.1/api/v1/openapi.json"))).json()).info.title).toBe("Porch Lamp");
	});
});

describe("the edge", () => {
	const request = (headers: Record<string, string>) =>
		new Request("http://lamp.example/api", { method: "POST", headers: { host: "lamp.example", ...headers } });
	const taken = (headers: Record<string, string>) => {
		try {
			demandOwnOrigin(request(headers));
			return true;
		} catch (error) {
			expect(error).toBeInstanceOf(Fault);
			return false;
		}
	};
	test("takes writes from our own pages only", () => {
		expect(taken({ origin: "http://lamp.example" })).toBe(true);
		expect(taken({ origin: "http://other.example" })).toBe(false);
		expect(taken({ origin: "http://lamp.example.evil.example" })).toBe(false);
		expect(taken({ "sec-fetch-site": "same-origin" })).toBe(true);
		expect(taken({ "sec-fetch-site": "cross-site" })).toBe(false);
		expect(taken({})).toBe(false);
	});
	test("pages of any size hold every item once, in order", () => {
		const items = Array.from({ length: 23 }, (_, i) => ({ id: `é|${i}` }));
		for (const limit of [1, 5, 22, 23, 24]) {
			const seen: string[] = [];
			for (let cursor: string | undefined; ; ) {
				const { items: part, next } = page(items, cursor, limit);
				seen.push(...part.map((item) => item.id));
				if (next === null) break;
				cursor = next;
			}
			expect(seen).toEqual(items.map((item) => item.id));
		}
		expect(() => page(items, "gone", 5)).toThrow(/no longer valid/);
		expect(page([], undefined, 5)).toEqual({ items: [], next: null });
	});
	test("errors of our own are said plainly, without their insides", async () => {
		const answer = faultResponse(new Error("password of the database"));
		expect(answer.status).toBe(500);
		expect(await answer.text()).not.toContain("password");
	});
});

describe("the table of routes", () => {
	const ask = (method: string, path: string) => routeAnswer(method, path, () => new Request(`http://127.0.0.1${path}`, { method }));
	test("leaves pages to the framework", async () => {
		for (const path of ["/", "/deals", "/deals/d1", "/setup", "/table/", "/api/v2/deals", "/calendar"])
			expect([path, await ask("GET", path)]).toEqual([path, null]);
	});
	test("refuses a method that an address doesn’t take, and says which it does", async () => {
		for (const [method, path, allow] of [
			["POST", "/healthz", "GET, HEAD, OPTIONS"],
			["PATCH", "/deals/rows", "GET, HEAD, OPTIONS"],
			["GET", "/table", "POST, OPTIONS"],
			["DELETE", "/setup/weekly", "POST, OPTIONS"],
		] as const) {
			const answer = await ask(method, path);
			expect([path, answer?.status, answer?.headers.get("allow")]).toEqual([path, 405, allow]);
			expect((await answer?.json())?.detail).toBe(`${path} takes ${allow}, not ${method}.`);
		}
		expect((await ask("OPTIONS", "/healthz"))?.status).toBe(204);
		expect((await ask("HEAD", "/healthz"))?.status).toBe(200);
	});
	test("has no address twice", () => {
		const samples = [
			"/healthz",
			"/live",
			"/inbound/mail",
			"/calendar/abcdefghijklmnopqrstuv.ics",
			"/calendar/task/t1.ics",
			"/sheet/d1",
			"/deals/rows",
			"/changes/river",
			"/table/deals",
			"/table",
			"/setup/weekly",
		];
		for (const path of samples) expect([path, ROUTES.filter((route) => route.path.test(path)).length]).toEqual([path, 1]);
	});
});
