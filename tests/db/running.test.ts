import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { routeAnswer } from "@/app/server/routes";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { outbox } from "@/data/schema";
import { howItRuns } from "@/features/setup/server/howItRuns";
import { countRequest, gathered, measureHere, metricsHere, serveMetrics } from "@/host/metrics";
import { routeOf } from "@/host/worker";
import { log } from "@/platform/log";
import { requestScope, withinRequest } from "@/platform/requestScope";
import { readRunning } from "@/platform/running";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("running");
});
beforeEach(() => refill(small()));
afterAll(() => database.drop());

const mail = (id: string, state: string) => ({ id, key: id, address: "x@firm.example", subject: "s", text: "t", html: "h", createdAt: new Date(), state });

describe("how it runs", () => {
	test("is what waits and what failed, how far behind this process is, and how large all is", async () => {
		await connection()
			.db.insert(outbox)
			.values([mail("a", "waiting"), mail("b", "waiting"), mail("c", "refused"), mail("d", "sent")]);
		await currentOrganisation(connection().db);
		await connection().db.execute("update revision set number = number + 3");
		const now = await readRunning(connection().db);
		expect(now).toMatchObject({ behind: 3, mails: { waiting: 2, refused: 1 }, webhookCalls: {}, jobs: {} });
		expect(now.database.bytes).toBeGreaterThan(1_000_000);
		expect(now.standby).toBeNull();
		await currentOrganisation(connection().db);
		expect((await readRunning(connection().db)).behind).toBe(0);
		const view = await howItRuns(await as("ops"));
		expect(view).toMatchObject({ deals: 3, people: 7, imports: { done: 1 }, lastImport: { state: "done" } });
		expect(view.largest).toHaveLength(6);
	});
	test("tells which of the database’s connections are taken, and by this process", async () => {
		const { pool } = connection();
		const held = await Promise.all(Array.from({ length: 3 }, () => pool.connect()));
		try {
			const { taken, most, own, atWork } = (await readRunning(connection().db)).database.connections;
			expect(atWork).toBeGreaterThanOrEqual(3);
			expect(own).toBeGreaterThanOrEqual(atWork);
			expect(taken).toBeGreaterThanOrEqual(own);
			const { rows } = await connection().db.execute("show max_connections");
			expect(most).toBeLessThan(Number(rows[0]?.max_connections));
		} finally {
			for (const client of held) client.release();
		}
	});
	test("ready is who has read all that was written", async () => {
		const ask = async () => (await routeAnswer("GET", "/readyz", () => new Request("http://x/readyz"))) as Response;
		await connection().db.execute("update revision set number = number + 1");
		const answer = await ask();
		const { rows } = await connection().db.execute("select number from revision");
		expect([answer.status, await answer.json()]).toEqual([200, { state: "ready", revision: Number(rows[0]?.number) }]);
	});
});

describe("metrics", () => {
	/** A process that counts, as the first process sees it. */
	const worker = (answer: (id: number) => object | null) => {
		const heard = new Set<(message: object) => void>();
		return {
			isConnected: () => true,
			on: (_: string, hear: (message: object) => void) => heard.add(hear),
			off: (_: string, hear: (message: object) => void) => heard.delete(hear),
			send: ({ askMetrics }: { askMetrics: number }) => {
				const message = answer(askMetrics);
				if (message) for (const hear of [...heard]) hear(message);
			},
		} as never;
	};
	test("are added up over processes, and told in the OpenMetrics form at one address", async () => {
		measureHere();
		countRequest("/api/v1/deals/{id}", "GET", 200, 0.02);
		const metrics = await metricsHere();
		const both = [1, 2].map(() => worker((id) => ({ metricsOf: id, metrics })));
		const server = serveMetrics("127.0.0.1:0", () => gathered(both));
		await new Promise((resolve) => server.once("listening", resolve));
		const at = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
		const answer = await fetch(`${at}/metrics`);
		const text = await answer.text();
		expect(answer.headers.get("content-type")).toMatch(/^application\/openmetrics-text/);
		expect(text).toMatch(/porch_lamp_http_request_duration_seconds_count\{route="\/api\/v1\/deals\/\{id\}",method="GET",status="200"\} 2\n/);
		expect(text).toMatch(/porch_lamp_revision_behind \d+\n/);
		expect(text).toMatch(/porch_lamp_database_connections\{of="most"\} \d+\n/);
		expect(text).toMatch(/porch_lamp_memory_bytes\{kind="heap"\} \d+/);
		expect(text.endsWith("# EOF\n")).toBe(true);
		expect((await fetch(`${at}/`)).status).toBe(404);
		server.close();
	});
	test("of a process that has ended are left out; a port that is taken stops nothing", async () => {
		const gone = { isConnected: () => false } as never;
		expect((await gathered([gone])).trim()).toBe("# EOF");
		const taken = createServer();
		await new Promise<void>((resolve) => taken.listen(0, "127.0.0.1", resolve));
		const server = serveMetrics(`${(taken.address() as AddressInfo).port}`, async () => "");
		await new Promise((resolve) => server.once("error", resolve));
		taken.close();
	});
	test("name kinds of addresses, never what stands in them", () => {
		expect(["/", "/deals", "/deals/story-rack?x=1", "/accounts/acc-001", "/_next/static/a.js", "/wp-login.php", "/api/v1/deals/d1"].map(routeOf)).toEqual([
			"/",
			"/deals",
			"/deals/…",
			"/accounts/…",
			"/_next",
			"other",
			"/api/…",
		]);
	});
	test("what is logged while a request is answered carries its id", () => {
		expect(requestScope()).toBeUndefined();
		const mixed = withinRequest({ id: "r1", route: "/" }, () => requestScope()?.id);
		expect([mixed, typeof log.info]).toEqual(["r1", "function"]);
	});
});
