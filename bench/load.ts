import { createHash, randomBytes } from "node:crypto";
import { Agent, request } from "node:http";
import pg from "pg";
import { bundlesFor } from "./imports";
import { median, ms, tableOf } from "./measure";
import { startServer } from "./pages";

const SESSIONS = 100;
const SECONDS = Number(process.env.BENCH_SECONDS ?? 15);
const TODAY = "2026-11-24";

/** One request of the mix: where to, and for a write what is sent. */
interface Ask {
	readonly kind: Kind;
	readonly path: string;
	readonly body?: unknown;
	readonly match?: string;
	readonly method?: "PATCH" | "POST";
}
type Kind = "page" | "rows" | "sheet" | "api" | "write";
interface Result {
	readonly kind: Kind;
	readonly time: number;
	readonly status: number;
}

/** A day of work in twenty requests: seven pages with the rows two of them bring, six side sheets, four calls, one write. */
const ROUND: readonly Kind[] = [
	"page",
	"sheet",
	"api",
	"page",
	"rows",
	"sheet",
	"page",
	"api",
	"sheet",
	"page",
	"page",
	"sheet",
	"rows",
	"page",
	"api",
	"sheet",
	"page",
	"sheet",
	"api",
	"write",
];
const PAGES = ["/deals", "/desk", "/changes", "/tasks", "/deals", "/accounts", "/evidence"];
const CALLS = ["/api/v1/deals?limit=50", "/api/v1/tasks?limit=50", "/api/v1/marks", "/healthz"];

/** So many requests a second, mixed or pages alone, perhaps while imports run; p95 is to be under `aim` ms. */
export interface Load {
	readonly rate: number;
	readonly pages?: boolean;
	readonly imports?: number;
	readonly aim?: number;
}

export interface Visitor {
	readonly cookie: string;
	/** connections of their own, as a browser has them */
	readonly agent: Agent;
	/** some that they reach */
	readonly deals: readonly { id: string; owner: string }[];
}

/**
 * Mixed requests at a steady rate from a hundred sessions, for each of some rates: how long the answers take from the
 * moment they were due, so that a server which falls behind is charged with the waiting.
 */
export async function benchLoad(url: string, loads: readonly Load[], say: (words: string) => void): Promise<string> {
	const bundleOf = await bundlesFor(url, TODAY);
	const visitors = await visitorsOf(url);
	const { base, stop } = await startServer(url, { PORCH_LAMP_TODAY: TODAY, LOG_LEVEL: "silent" });
	const rows: string[][] = [];
	try {
		for (let i = 0; i < 600; i++) await send(base, visitors[i % SESSIONS] as Visitor, askOf(visitors[i % SESSIONS] as Visitor, i, false));
		let most = Number.POSITIVE_INFINITY;
		for (const load of loads) {
			const { rate, pages, imports = 0, aim } = load;
			if (rate > most) continue;
			const what = `${rate}${pages ? " pages" : ""}${imports ? `, ${imports} imports beside` : ""}`;
			say(`${what} a second`);
			const importing = importBeside(base, url, imports, bundleOf, say);
			const results = await drive([base], visitors, load);
			const refused = await importing;
			const times = (kind?: Kind) =>
				results
					.filter((one) => !kind || one.kind === kind)
					.map((one) => one.time)
					.sort((a, b) => a - b);
			const all = times();
			const p95 = at(all, 0.95);
			const failed = refused + results.filter((one) => one.status >= 400 || one.status === 0).length;
			rows.push([
				what,
				ms(median(all)),
				ms(p95),
				ms(at(all, 0.99)),
				...(["page", "rows", "sheet", "api", "write"] as const).map((kind) => (times(kind).length ? ms(at(times(kind), 0.95)) : "–")),
				String(failed),
				aim ? `p95 under ${aim} ms: ${p95 < aim && failed === 0 ? "met" : "not met"}` : "",
			]);
			// What can't be done at this rate can't be done at a higher one.
			if (p95 > 5000) most = rate;
		}
		for (const { agent } of visitors) agent.destroy();
	} finally {
		await stop();
	}
	return tableOf(["a second", "median", "p95", "p99", "pages, p95", "rows", "sheets", "API", "writes", "failed", "aim"], rows);
}

const at = (sorted: readonly number[], share: number) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? Number.NaN;

/** Sessions of everyone who works with deals, and some deals that each may open. */
export async function visitorsOf(url: string): Promise<Visitor[]> {
	const client = new pg.Client({ connectionString: url });
	await client.connect();
	const people = await client.query<{ id: string; role: string; reached: string[] }>(
		`with recursive under(team, top) as (
			select name, name from teams union all select t.name, u.top from teams t join under u on t.parent = u.team
		 )
		 select p.id, p.role, array(
			select q.id from people q where q.id = p.id or p.role = 'ops' or (p.role = 'manager' and q.team in (select team from under where top = p.team))
		 ) as reached from people p where p.active_to is null and p.role <> 'viewer' order by md5(p.id)`,
	);
	const deals = await client.query<{ id: string; owner: string }>(
		`select id, owner from (
			select distinct on (deal_id) deal_id as id, owner_id as owner, stage from deal_versions
			where valid_from < '${TODAY}T23:00:00Z' order by deal_id, valid_from desc, id desc
		 ) seen join stages on stages.name = seen.stage where stages.kind = 'open' and not exists (select 1 from deal_versions later where later.deal_id = seen.id and later.valid_from >= '${TODAY}T23:00:00Z') order by md5(id) limit 4000`,
	);
	const visitors: Visitor[] = [];
	const owners = new Set(deals.rows.map(({ owner }) => owner));
	// Who reaches none of these deals could only be told so.
	const busy = people.rows.filter(({ reached }) => reached.some((id) => owners.has(id)));
	for (let i = 0; i < SESSIONS; i++) {
		const person = busy[i % busy.length];
		if (!person) throw new Error("the bench's company has nobody with a deal in it");
		const cookie = await openSession(client, person.id);
		const reached = new Set(person.reached);
		visitors.push({ cookie, agent: new Agent({ keepAlive: true, maxSockets: 6 }), deals: deals.rows.filter((deal) => reached.has(deal.owner)) });
	}
	await client.end();
	return visitors;
}

function askOf(visitor: Visitor, i: number, writing = true): Ask {
	const kind = ROUND[i % ROUND.length] as Kind;
	const deal = visitor.deals[(i * 7) % visitor.deals.length] ?? { id: "" };
	if (kind === "page" || !deal.id) return { kind: "page", path: PAGES[Math.floor(i / 3) % PAGES.length] as string };
	if (kind === "rows") return { kind, path: "/deals/rows" };
	if (kind === "api") return { kind, path: CALLS[Math.floor(i / 5) % CALLS.length] as string };
	if (kind === "write" && writing) return { kind, path: `/api/v1/deals/${deal.id}`, method: "PATCH", body: { nextStep: `Ring them back, call ${i}` } };
	return { kind: "sheet", path: `/sheet/${deal.id}?seen=${TODAY}&against=2026-11-16` };
}

/** Sends imports evenly over the time that others are at work, by somebody who may. Answers how many failed. */
async function importBeside(base: string, url: string, imports: number, bundleOf: (nth: number) => Uint8Array, say: (words: string) => void): Promise<number> {
	if (!imports) return 0;
	const cookie = await sessionOf(url, "ops");
	const ends: Promise<number>[] = [];
	for (let i = 0; i < imports; i++) {
		const body = Buffer.from(bundleOf(Date.now() + i));
		ends.push(
			fetch(`${base}/api/v1/imports?name=bench`, { method: "POST", headers: { cookie, origin: base, "content-type": "application/zip" }, body }).then(
				async (answer) => {
					if (answer.ok) return 0;
					say(`an import was refused: ${(await answer.text()).slice(0, 300)}`);
					return 1;
				},
			),
		);
		await new Promise((resolve) => setTimeout(resolve, (SECONDS * 1000) / imports));
	}
	return (await Promise.all(ends)).reduce((sum, one) => sum + one, 0);
}

/** A session of somebody of a role. */
async function sessionOf(url: string, role: string): Promise<string> {
	const client = new pg.Client({ connectionString: url });
	await client.connect();
	const { rows } = await client.query("select id from people where role = $1 and active_to is null limit 1", [role]);
	const cookie = await openSession(client, rows[0].id);
	await client.end();
	return cookie;
}

async function openSession(client: pg.Client, person: string): Promise<string> {
	const token = randomBytes(16).toString("hex");
	const hash = createHash("sha256").update(token).digest("hex");
	await client.query("insert into sessions (token_hash, person_id, expires_at) values ($1, $2, now() + interval '1 day')", [hash, person]);
	return `porch_lamp_session=${token}`;
}

/** Sends requests at a rate for some seconds, each visitor’s to the same of some servers; none waits for another. */
export async function drive(bases: readonly string[], visitors: readonly Visitor[], { rate, pages = false }: Load): Promise<Result[]> {
	const start = performance.now();
	const pending: Promise<Result>[] = [];
	for (let i = 0; i < rate * SECONDS; i++) {
		const due = start + (i * 1000) / rate;
		const wait = due - performance.now();
		if (wait > 0) await new Promise((resolve) => setTimeout(resolve, wait));
		const visitor = visitors[(i * 37 + Math.floor(i / ROUND.length)) % visitors.length] as Visitor;
		const base = bases[visitors.indexOf(visitor) % bases.length] as string;
		pending.push(sendFrom(base, visitor, pages ? { kind: "page", path: PAGES[i % PAGES.length] as string } : askOf(visitor, i), due));
	}
	return Promise.all(pending);
}

/** A write first asks for the version it changes, as a form does when it opens; the writing alone is timed. */
async function sendFrom(base: string, visitor: Visitor, ask: Ask, due: number): Promise<Result> {
	if (ask.kind !== "write") {
		const { status } = await send(base, visitor, ask);
		if (process.env.BENCH_TRACE && status >= 400) process.stderr.write(`${ask.path} ${status}\n`);
		return { kind: ask.kind, status, time: performance.now() - due };
	}
	for (let tries = 0; ; tries++) {
		const seen = await send(base, visitor, { kind: "api", path: ask.path });
		if (seen.status !== 200) return { kind: "write", status: seen.status, time: performance.now() - due };
		const begun = performance.now();
		const { status, text } = await send(base, visitor, { ...ask, match: String((JSON.parse(seen.text) as { versionId: number }).versionId) });
		if (process.env.BENCH_TRACE && status >= 400) process.stderr.write(`${text}\n`);
		if (status !== 412 || tries === 3) return { kind: "write", status, time: performance.now() - begun };
	}
}

function send(base: string, visitor: Visitor, ask: Ask): Promise<{ status: number; text: string }> {
	const body = ask.body === undefined ? undefined : JSON.stringify(ask.body);
	return new Promise((resolve) => {
		const headers = {
			cookie: visitor.cookie,
			...(body ? { "content-type": "application/json", "content-length": String(Buffer.byteLength(body)), origin: base } : {}),
			...(ask.match ? { "if-match": ask.match } : {}),
		};
		const call = request(`${base}${ask.path}`, { agent: visitor.agent, method: ask.method ?? "GET", headers }, (answer) => {
			const chunks: Buffer[] = [];
			answer.on("data", (chunk: Buffer) => chunks.push(chunk));
			answer.on("end", () => resolve({ status: answer.statusCode ?? 0, text: Buffer.concat(chunks).toString("utf8") }));
			answer.on("error", () => resolve({ status: 0, text: "" }));
		});
		call.on("error", () => resolve({ status: 0, text: "" }));
		call.end(body);
	});
}
