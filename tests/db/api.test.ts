import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { createKey, storeKey } from "@/features/people/server/keys";
import { API_ROUTES } from "@/features/registry";
import { openApi } from "@/platform/http/openapi";
import { serve } from "@/platform/http/serve";
import { small } from "../kit/bundle";
import { as, freshDatabase, importAs } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
const tokens: Record<string, string> = {};
beforeAll(async () => {
	database = await freshDatabase("api");
	await importAs(
		small({
			"activities.csv": [
				"id,deal_id,account_id,contact_ids,kind,direction,state,at,by_id,subject,body",
				"x1,d1,a1,,email,in,done,2026-11-19T09:00:00Z,,Asks for a price,",
				"x2,d1,a1,,call,both,planned,2026-11-30T09:00:00Z,rep1,Call back,",
				"x3,d1,a1,,call,both,done,2026-11-12T09:00:00Z,rep1,First call,",
			],
			"questions.csv": ["id,area,prompt,help,weight,due_stage_position,key", "q1,Need,What hurts?,,1,1,true", "q2,People,Who signs?,,3,3,true"],
			"answers.csv": ["deal_id,question_id,level,note,at,by_id", "d1,q1,heard,They said so,2026-11-12T09:00:00Z,rep1"],
		}),
	);
	for (const person of ["boss", "north", "rep1", "rep2", "ops", "view"]) tokens[person] = (await storeKey(connection().db, person, "test")).token;
});
afterAll(() => database.drop());

interface Answer {
	status: number;
	type: string | null;
	// biome-ignore lint/suspicious/noExplicitAny: answers are checked field by field
	body: any;
}

const callOf = (id: string) => {
	const found = API_ROUTES.find((one) => one.id === id);
	if (!found) throw new Error(`no call is named ${id}`);
	return found;
};

/** Calls an endpoint as a person, as the route handler does, and checks the answer against its own schema. */
async function call(name: string, person: string, query = "", options: { params?: Record<string, string>; body?: unknown } = {}): Promise<Answer> {
	const endpoint = callOf(name);
	const request = new Request(`http://127.0.0.1/api/v1/x${query}`, {
		method: endpoint.method.toUpperCase(),
		headers: { authorization: `Bearer ${tokens[person] ?? person}` },
		...(options.body === undefined ? {} : { body: typeof options.body === "string" ? options.body : JSON.stringify(options.body) }),
	});
	const answer = await serve(endpoint, request, options.params ?? {});
	const body = answer.status === 204 ? null : await answer.json();
	if (answer.ok && endpoint.answer) expect(endpoint.answer.safeParse(body).error?.issues ?? []).toEqual([]);
	return { status: answer.status, type: answer.headers.get("content-type"), body };
}

describe("deals", () => {
	test("come with all their figures, the most worrying first", async () => {
		const { body } = await call("listDeals", "boss");
		expect(body.items.map((d: { id: string }) => d.id)).toEqual(["d3", "d2", "d1"]);
		const deal = body.items[2];
		expect(deal).toMatchObject({
			stage: "Survey",
			amount: 120_000,
			currency: "EUR",
			amountBase: 120_000,
			closeDate: "2026-12-18",
			ownerId: "rep1",
			category: "best_case",
			trail: { first: "2026-12-01", current: "2026-12-18", pushes: 1, pushedDays: 17, crossings: 0 },
			stageAge: 10,
			dealAge: 16,
			cycles: 2,
			lastTouch: "2026-11-19",
			waiting: { side: "they", since: "2026-11-19" },
			qualification: { strength: 17, coverage: 25, expected: 17, gaps: [] },
			tags: ["summer", "energy"],
		});
		expect(deal.flags.map((f: { code: string }) => f.code)).toEqual(["reply-owed", "blank-fields"]);
	});
	test("are seen as they were, and bounded by close date, status, flag, team and owner", async () => {
		const ids = async (query: string) => (await call("listDeals", "boss", query)).body.items.map((d: { id: string }) => d.id).sort();
		expect(await ids("?as_of=2026-11-02")).toEqual(["d1", "d3"]);
		expect(await ids("?from=2026-12-11&to=2026-12-31")).toEqual(["d1"]);
		expect(await ids("?status=won")).toEqual([]);
		expect(await ids("?flag=reply-owed")).toEqual(["d1"]);
		expect(await ids("?team=North")).toEqual(["d1", "d3"]);
		expect(await ids("?team=Firm")).toEqual(["d1", "d2", "d3"]);
		expect(await ids("?owner=gone")).toEqual(["d3"]);
	});
	test("of another team aren’t listed and aren’t found", async () => {
		expect((await call("listDeals", "rep2")).body.items.map((d: { id: string }) => d.id)).toEqual(["d2"]);
		expect((await call("readDeal", "rep2", "", { params: { id: "d1" } })).status).toBe(404);
	});
	test("one by one bring what was recorded up to the day", async () => {
		const now = (await call("readDeal", "rep1", "", { params: { id: "d1" } })).body;
		expect(now.versions.map((v: { amount: number }) => v.amount)).toEqual([100_050, 120_000]);
		expect(now.activities.map((a: { id: string }) => a.id)).toEqual(["x2", "x1", "x3"]);
		expect(now.answers).toMatchObject([{ questionId: "q1", level: "heard", note: "They said so" }]);
		const then = (await call("readDeal", "rep1", "?as_of=2026-11-09", { params: { id: "d1" } })).body;
		expect(then.versions).toHaveLength(1);
		expect(then.answers).toEqual([]);
		expect(then.activities.map((a: { id: string }) => a.id)).toEqual(["x2"]);
		expect(then).toMatchObject({ stage: "Enquiry", amount: 100_050, lastTouch: null, waiting: { side: null, since: null } });
	});
	test("page by page are the whole list, each once", async () => {
		const first = (await call("listDeals", "boss", "?limit=2")).body;
		expect(first.next).not.toBeNull();
		const second = (await call("listDeals", "boss", `?limit=2&cursor=${first.next}`)).body;
		expect([...first.items, ...second.items].map((d: { id: string }) => d.id)).toEqual(["d3", "d2", "d1"]);
		expect(second.next).toBeNull();
	});
});

describe("the bridge", () => {
	test("gives every kind of step with its deals, and adds up", async () => {
		const { body } = await call("bridge", "boss", "?a=2026-11-02&b=2026-11-24&from=2026-10-01&to=2026-12-31");
		const steps = Object.fromEntries(body.steps.map((s: { kind: string; amount: number }) => [s.kind, s.amount]));
		expect(body).toMatchObject({ opening: 170_050, closing: 240_000, openingCount: 2, closingCount: 3, currency: "EUR" });
		expect(steps).toMatchObject({ new: 50_000, grew: 19_950, shrank: 0, won: 0 });
		expect(body.steps.find((s: { kind: string }) => s.kind === "new").deals).toEqual([{ id: "d2", amount: 50_000, before: null, after: 50_000 }]);
	});
	test("of a team leaves the others out", async () => {
		expect((await call("bridge", "boss", "?a=2026-11-02&team=South")).body).toMatchObject({ opening: 0, closing: 50_000 });
		expect((await call("bridge", "rep2", "?a=2026-11-02")).body).toMatchObject({ closing: 50_000 });
	});
	test("needs two days in order", async () => {
		expect((await call("bridge", "boss", "")).body.errors[0].pointer).toBe("a");
		expect((await call("bridge", "boss", "?a=2026-11-24")).status).toBe(400);
	});
});

describe("tasks", () => {
	test("are given, listed, changed and refused as on the screens", async () => {
		const given = await call("assignTasks", "north", "", { body: { dealIds: ["d1"], title: "Answer them", flags: ["reply-owed"], dueOn: "2026-11-26" } });
		expect(given.status).toBe(201);
		const [task] = given.body.tasks;
		expect(task).toMatchObject({ dealId: "d1", assigneeId: "rep1", createdById: "north", dueOn: "2026-11-26", state: "open", flags: ["reply-owed"] });
		expect((await call("listTasks", "rep1", "?state=open&deal=d1")).body.items.map((t: { id: string }) => t.id)).toEqual([task.id]);
		expect((await call("listTasks", "rep2")).body.items).toEqual([]);
		expect((await call("changeTask", "rep2", "", { params: { id: task.id }, body: { state: "done" } })).status).toBe(404);
		expect((await call("changeTask", "rep1", "", { params: { id: task.id }, body: { state: "done", note: "Answered" } })).body).toMatchObject({
			state: "done",
			note: "Answered",
		});
		expect((await call("listTasks", "north", "?state=done")).body.items).toHaveLength(1);
	});
	test("that make no sense say what is wrong", async () => {
		const refused = async (body: unknown) => (await call("assignTasks", "north", "", { body })).body;
		expect((await refused({ dealIds: [], title: "x" })).detail).toContain("Choose at least one deal.");
		expect((await refused({ dealIds: ["d1"], title: "" })).errors[0].pointer).toBe("title");
		expect((await refused({ dealIds: ["d1"], title: "x", dueOn: "2026-02-30" })).detail).toContain("isn’t a valid day");
		expect((await refused({ dealIds: ["d2"], title: "x" })).status).toBe(404);
		expect((await refused("{broken")).detail).toBe("The body isn’t JSON.");
		expect((await refused({ dealIds: ["d1"], title: "x".repeat(301) })).status).toBe(400);
	});
});

describe("keys and imports", () => {
	test("a key is made, listed without its secret and revoked", async () => {
		// No key makes a key.
		expect((await call("createKey", "view", "", { body: { name: "board" } })).status).toBe(403);
		const made = await createKey(await as("view"), { name: "board" });
		tokens.board = made.token;
		expect((await call("listDeals", "board")).status).toBe(200);
		const listed = (await call("listKeys", "view")).body.items.find((k: { name: string }) => k.name === "board");
		expect(Object.values(listed)).not.toContain(made.token);
		expect((await call("revokeKey", "view", "", { params: { id: listed.id } })).status).toBe(204);
		expect((await call("listDeals", "board")).status).toBe(401);
	});
	test("imports are for ops to read", async () => {
		const { body } = await call("listImports", "ops");
		expect(body.items[0]).toMatchObject({ state: "done", counts: { "deals.csv": 3 } });
		expect((await call("readImport", "ops", "", { params: { id: body.items[0].id } })).body.id).toBe(body.items[0].id);
		expect((await call("listImports", "boss")).status).toBe(403);
		expect((await call("readImport", "ops", "", { params: { id: "none" } })).status).toBe(404);
	});
});

test("errors are problems of RFC 9457", async () => {
	for (const answer of [
		await call("listDeals", "nobody"),
		await call("listDeals", "boss", "?limit=0"),
		await call("readDeal", "boss", "", { params: { id: "none" } }),
	]) {
		expect(answer.type).toBe("application/problem+json");
		expect(answer.body).toMatchObject({ type: "about:blank", title: expect.any(String), status: answer.status, detail: expect.any(String) });
	}
});

describe("the OpenAPI document", () => {
	// biome-ignore lint/suspicious/noExplicitAny: any JSON
	const api = openApi(API_ROUTES) as any;
	test("points only to schemas it holds", () => {
		const refs = [...JSON.stringify(api).matchAll(/"\$ref":"([^"]+)"/g)].map((m) => m[1] as string);
		expect(refs.length).toBeGreaterThan(10);
		for (const ref of refs) expect(Object.keys(api.components.schemas)).toContain(ref.replace("#/components/schemas/", ""));
	});
	test("names each call once, with what it takes and gives", () => {
		// biome-ignore lint/suspicious/noExplicitAny: any JSON
		const operations = Object.values(api.paths).flatMap((path: any) => Object.values(path)) as any[];
		const ids = operations.map((o) => o.operationId);
		expect(new Set(ids).size).toBe(ids.length);
		expect(ids).toEqual(expect.arrayContaining(API_ROUTES.map((one) => one.id)));
		for (const operation of operations) expect([operation.summary.length > 5, "default" in operation.responses]).toEqual([true, true]);
		expect(api.paths["/deals"].get.parameters.map((p: { name: string }) => p.name)).toEqual([
			"as_of",
			"from",
			"to",
			"team",
			"owner",
			"flag",
			"status",
			"cursor",
			"limit",
		]);
	});
	test("is made of the schemas that are parsed with", () => {
		expect(api.components.schemas.Task.properties.state.enum).toEqual(["open", "done", "dropped"]);
		expect(api.components.schemas.TaskChange.properties.note.anyOf[0].maxLength).toBe(10_000);
		expect(callOf("changeTask").body?.safeParse({ note: "x".repeat(10_001) }).success).toBe(false);
	});
});
