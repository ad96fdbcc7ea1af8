import type { Worker } from "node:cluster";
import { createServer, type Server } from "node:http";
import { AggregatorRegistry, collectDefaultMetrics, Gauge, Histogram, register } from "prom-client";
import { connection } from "@/data/db";
import { log } from "@/platform/log";
import { type Counts, readRunning } from "@/platform/running";

const BUCKETS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10];

let requests: Histogram<"route" | "method" | "status"> | null = null;

/** Counts what this process answers, and asks how it runs whenever that is asked for. */
export function measureHere(): void {
	answerFirst();
	collectDefaultMetrics({ prefix: "porch_lamp_" });
	requests = new Histogram({
		name: "porch_lamp_http_request_duration_seconds",
		help: "Requests by what kind of address was asked for, with how long they took",
		labelNames: ["route", "method", "status"],
		buckets: BUCKETS,
	});
	const gauge = (name: string, help: string, labels: string[] = []) => new Gauge({ name: `porch_lamp_${name}`, help, labelNames: labels, aggregator: "max" });
	const parts = (name: string, help: string) => {
		const made = gauge(name, help, ["state"]);
		return (counts: Counts) => {
			made.reset();
			for (const [state, n] of Object.entries(counts)) made.set({ state }, n);
		};
	};
	const behind = gauge("revision_behind", "Writes that the process which is behind most has not read yet");
	const bytes = gauge("database_bytes", "How large the database is");
	const connections = gauge("database_connections", "Connections to the database: of all programs, those that can be, and of the process that has most", [
		"of",
	]);
	const standby = gauge("standby_behind", "Writes that the standby for long reads has not replayed yet; -1 where it can’t be reached");
	const sessions = gauge("sessions", "Sessions that are open");
	const memory = gauge("memory_bytes", "Memory of the largest process, by kind", ["kind"]);
	const [jobs, mails, calls, imports, files] = [
		parts("jobs", "Work of the queue that waits, is done now, or failed within a day"),
		parts("mails", "Mails that wait or were refused"),
		parts("webhook_calls", "Calls of webhooks that wait or were given up"),
		parts("imports", "Imports of the last seven days"),
		parts("feed_files", "Files of feeds within the last seven days, by what became of them"),
	];
	const revision = gauge("revision", "Writes so far");
	look = async () => {
		const now = await readRunning(connection().db);
		revision.set(now.revision);
		behind.set(now.behind ?? 0);
		bytes.set(now.database.bytes);
		for (const [of, n] of Object.entries(now.database.connections)) connections.set({ of }, n);
		if (now.standby) standby.set(now.standby.behind ?? -1);
		sessions.set(now.sessions);
		for (const [kind, n] of Object.entries(now.memory)) memory.set({ kind }, n);
		jobs(now.jobs);
		mails(now.mails);
		calls(now.webhookCalls);
		imports(now.imports);
		files(now.feedFiles);
	};
}

/** Asks again for what is told whenever metrics are. */
let look = async (): Promise<void> => undefined;

/** All that was counted here. What the database can’t be asked for is as it was. */
export async function metricsHere(): Promise<object[]> {
	await look().catch((error: unknown) => log.error({ error: String(error) }, "metrics can’t ask the database"));
	return register.getMetricsAsJSON();
}

/** Counts one request that was answered. */
export function countRequest(route: string, method: string, status: number, seconds: number): void {
	requests?.observe({ route, method, status: String(status) }, seconds);
}

/** What the first process asks of the others, and what they answer. */
interface Question {
	readonly askMetrics: number;
}
interface Answer {
	readonly metricsOf: number;
	readonly metrics: object[];
}

/** Answers the first process with what was counted here. */
function answerFirst(): void {
	process.on("message", (message: Partial<Question>) => {
		const id = message?.askMetrics;
		if (id === undefined) return;
		metricsHere().then(
			(metrics) => process.send?.({ metricsOf: id, metrics } satisfies Answer),
			(error: unknown) => log.error({ error: String(error) }, "metrics can’t be counted"),
		);
	});
}

let asked = 0;

/** What all processes counted, added up, in the OpenMetrics form; of one that doesn’t answer nothing. */
export async function gathered(workers: readonly Worker[]): Promise<string> {
	const id = ++asked;
	const answers = await Promise.all(
		workers
			.filter((worker) => worker.isConnected())
			.map(
				(worker) =>
					new Promise<object[] | null>((resolve) => {
						const end = (found: object[] | null) => {
							clearTimeout(late);
							worker.off("message", hear);
							resolve(found);
						};
						const hear = (message: Partial<Answer>) => void (message?.metricsOf === id && end(message.metrics ?? null));
						const late = setTimeout(end, PATIENCE, null);
						worker.on("message", hear);
						worker.send({ askMetrics: id } satisfies Question);
					}),
			),
	);
	const all = AggregatorRegistry.aggregate(answers.flatMap((one) => (one ? [one] : [])));
	all.setContentType(AggregatorRegistry.OPENMETRICS_CONTENT_TYPE as never);
	return all.metrics();
}
const PATIENCE = 5000;

/** ms until a port that is taken is tried again */
const AGAIN = 5000;

/** Gives what all processes count, at `/metrics` of an address of its own; `where` is a port, or a host and a port. */
export function serveMetrics(where: string, gather: () => Promise<string>): Server {
	const [, host, port = "0"] = /^(?:\[?([^\]]*?)\]?:)?(\d+)$/.exec(where) ?? [];
	const server = createServer(async (request, response) => {
		if (request.url?.split("?", 1)[0] !== "/metrics" || request.method !== "GET") return void response.writeHead(404).end();
		try {
			const text = await gather();
			response.writeHead(200, { "content-type": AggregatorRegistry.OPENMETRICS_CONTENT_TYPE }).end(text);
		} catch (error) {
			response.writeHead(503, { "content-type": "text/plain" }).end(String(error));
		}
	});
	const listen = () => server.listen(Number(port), host || "127.0.0.1");
	server.on("error", (error) => {
		log.error({ error: String(error), where }, "metrics can’t be served");
		// While one version takes over from another both are there.
		if ((error as { code?: string }).code === "EADDRINUSE") setTimeout(listen, AGAIN).unref();
	});
	listen();
	return server;
}
