import { type ChildProcess, fork } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { saveSnapshot } from "@/data/organisation/snapshot";
import { systemWrite } from "@/platform/write";
import { drive, type Visitor, visitorsOf } from "../load";
import { median, ms, tableOf } from "../measure";
import { startServer } from "../pages";
import { machine, report } from "../report";
import { copyDeals, shareAmong } from "./large";

// npm run bench -- cluster: what one more application server costs and brings. The machine is the bound, so what is counted is the
// processor’s time: of following writes on each node, and of answering the same requests by one server or by two.
const { DATABASE_URL: url = "", BENCH_FOLDER: folder = "", BENCH_DEALS, BENCH_PEOPLE } = process.env;
const SECONDS = 10;
const RATE = 20;
const say = (words: string) => process.stderr.write(`  ${words} …\n`);

interface Followed {
	readonly followed: number;
	/** ms of the processor */
	readonly cpu: number;
	readonly lags: readonly number[];
	readonly memory: number;
}

const answerOf = <T>(child: ChildProcess) => new Promise<T>((resolve) => child.once("message", (said) => resolve(said as T)));
const at = (sorted: readonly number[], share: number) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? Number.NaN;

/** Changes the next step of one deal after another, so many a second. */
async function write(deals: readonly string[]): Promise<number> {
	const begun = performance.now();
	let written = 0;
	for (; performance.now() - begun < SECONDS * 1000; written++) {
		const id = deals[(written * 7919) % deals.length] as string;
		await systemWrite(async (tx) => {
			await tx.execute(sql`update deal_versions set next_step = ${`call ${written}`} where id = (select max(id) from deal_versions where deal_id = ${id})`);
			return { result: null, touched: [id], audit: [] };
		});
		const wait = begun + ((written + 1) * 1000) / RATE - performance.now();
		if (wait > 0) await new Promise((resolve) => setTimeout(resolve, wait));
	}
	return written / ((performance.now() - begun) / 1000);
}

if (BENCH_DEALS) {
	say(`copying deals until there are ${BENCH_DEALS}`);
	await copyDeals(Number(BENCH_DEALS));
}
if (BENCH_PEOPLE) {
	say(`sharing all deals among ${BENCH_PEOPLE} people`);
	await shareAmong(Number(BENCH_PEOPLE));
}
const followRows: string[][] = [];
const organisation = await currentOrganisation(connection().db);
// A start reads what a process before it has put by.
await saveSnapshot(connection().db, organisation);
const deals = organisation.deals.flatMap(({ id }) => id || []);
for (const nodes of [1, 2, 4, 8]) {
	say(`${nodes} followers of ${RATE} writes a second`);
	const children = Array.from({ length: nodes }, () => fork(join(folder, "follower.mjs"), { execArgv: ["--max-old-space-size=3000"] }));
	const starts = await Promise.all(children.map((child) => answerOf<{ readonly start: number }>(child)));
	const rate = await write(deals);
	const ended = children.map((child) => answerOf<Followed>(child));
	for (const child of children) child.send("end");
	const all = await Promise.all(ended);
	const lags = all.flatMap((one) => one.lags).sort((a, b) => a - b);
	const cost = median(all.map((one) => one.cpu / Math.max(1, one.followed)).sort((a, b) => a - b));
	followRows.push([
		String(nodes),
		ms(median(starts.map(({ start }) => start).sort((a, b) => a - b))),
		rate.toFixed(1),
		`${cost.toFixed(1)} ms`,
		ms(median(lags)),
		ms(at(lags, 0.95)),
		`${Math.round(median(all.map((one) => one.memory).sort((a, b) => a - b)) / 2 ** 20)} MB`,
		String(Math.floor(500 / cost)),
	]);
}

/** Seconds of the processor that a process and its children have used so far. */
function processorTime(pid: number): number {
	const [, rest = ""] = readFileSync(`/proc/${pid}/stat`, "utf8").split(") ");
	const fields = rest.split(" ");
	const own = (Number(fields[11]) + Number(fields[12])) / 100;
	const children = readFileSync(`/proc/${pid}/task/${pid}/children`, "utf8").trim().split(" ").filter(Boolean);
	return children.reduce((sum, child) => sum + processorTime(Number(child)), own);
}

/** Requests that are answered for each second of the servers’ processor time. */
async function served(count: number, visitors: readonly Visitor[], rate: number): Promise<string[]> {
	say(`${count} application server${count > 1 ? "s" : ""} at ${rate} requests a second`);
	const servers = await Promise.all(
		Array.from({ length: count }, () => startServer(url, { PORCH_LAMP_TODAY: "2026-11-24", LOG_LEVEL: "silent", PORCH_LAMP_PROCESSES: "1" })),
	);
	const bases = servers.map(({ base }) => base);
	// Each has looked at what is asked for before it counts.
	for (const base of bases) await drive([base], visitors, { rate: 5 });
	const spent = () => servers.reduce((sum, { pid }) => sum + processorTime(pid), 0);
	const before = spent();
	const results = await drive(bases, visitors, { rate });
	const seconds = spent() - before;
	for (const { stop } of servers) await stop();
	const times = results.map(({ time }) => time).sort((a, b) => a - b);
	return [
		String(count),
		String(results.length),
		String(results.filter(({ status }) => status === 0 || status >= 400).length),
		ms(median(times)),
		ms(at(times, 0.95)),
		`${seconds.toFixed(1)} s`,
		(results.length / seconds).toFixed(1),
	];
}
const visitors = await visitorsOf(url);
const serveRows = [await served(1, visitors, 12), await served(2, visitors, 12)];
for (const { agent } of visitors) agent.destroy();

report(
	"cluster",
	`${machine()} ${deals.length.toLocaleString("en")} deals of ${organisation.people.length.toLocaleString("en")} people, all of them in the memory of each node. A start is from nothing in memory to all of it.

${tableOf(["nodes", "start", "writes a second", "processor a write and node", "followed after", "p95", "memory of a node", "writes a second that half a core follows"], followRows)}

${tableOf(["application servers", "requests", "failed", "median", "p95", "processor of all", "answered for a second of it"], serveRows)}
`,
	"docs/cluster.md",
);
process.exit(0);
