// node tests/faults.mjs [TIMES [FAULT…]]: sets a cluster up on a folder of its own and breaks one part of it after the other,
// TIMES times each (20 unless said otherwise), while tasks are given and pages are read. Who gives a task sends it again under
// the same name until it is answered. In the end what was acknowledged is there, and nothing is there twice; a table says how
// many requests failed and how long nothing was written. It takes most of an hour, so it isn't part of npm test.
import { spawn } from "node:child_process";
// biome-ignore lint/style/noRestrictedImports: this runs outside of the program, which it breaks
import { createHash, randomUUID } from "node:crypto";
import { writeFileSync } from "node:fs";
import { join } from "node:path";
import pg from "pg";
import { killPart, running } from "../scripts/cluster/keep.mjs";
import { planOf } from "../scripts/cluster/plan.mjs";
import { primaryOf, standbyReady } from "../scripts/cluster/ready.mjs";
import { inRoot, root } from "../scripts/lib/paths.mjs";
import { freeFrom } from "../scripts/lib/ports.mjs";
import { clusterHome } from "../scripts/lib/postgres.mjs";
import { line } from "./faults/line.mjs";

const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const times = Number(process.argv[2] ?? 20);
const data = inRoot("var", "faults");
const folder = clusterHome(data);
const port = await freeFrom(3700);
const base = `http://127.0.0.1:${port}`;
const lines = [await line(), await line()];
const plan = await planOf(folder, port, null);
lines.forEach((one, i) => {
	one.to(plan.ports[`postgres${i + 1}`]);
});
const env = { ...process.env, PORCH_LAMP_DATA: data, PORCH_LAMP_TODAY: "2026-11-24", PORT: String(port), DATABASE_URL: "", PORCH_LAMP_LONGEST_PAUSE: "500" };
const between = lines.map((one) => one.port).join();
const program = spawn(process.execPath, [inRoot("scripts/cluster.mjs"), "start", "--between", between], {
	cwd: root,
	env,
	stdio: ["ignore", "pipe", "inherit"],
});
let said = "";
program.stdout.on("data", (text) => {
	said += text;
});
program.once("exit", (code) => {
	if (code) {
		console.error(said);
		process.exit(1);
	}
});
while (!said.includes("Ctrl-C stops it.")) await sleep(200);

const other = (n) => (n === 1 ? 2 : 1);
const primary = async () => {
	for (;;) {
		const n = await primaryOf(plan);
		if (n) return n;
		await sleep(100);
	}
};
/** Until both databases are whole and both application servers answer: one fault at a time. */
const whole = async () => {
	const answers = (n) =>
		fetch(`http://127.0.0.1:${plan.ports[`application${n}`]}/readyz`, { signal: AbortSignal.timeout(2000) }).then(
			({ ok }) => ok,
			() => false,
		);
	while (!(await standbyReady(plan)) || !(await answers(1)) || !(await answers(2))) await sleep(200);
	await sleep(1500);
};

/** What is broken, and how it is mended where it doesn’t mend itself. A new fault is one line here. */
const FAULTS = {
	application: { words: "an application server killed", bound: 2, act: async (i) => killPart(folder, `application${(i % 2) + 1}`) },
	proxy: { words: "HAProxy killed and started again", bound: 2, act: async () => killPart(folder, "proxy") },
	pooler: { words: "PgBouncer killed and started again", bound: 2, act: async () => killPart(folder, "pooler") },
	primary: { words: "the primary killed, with its machine", bound: 15, act: async () => killPart(folder, `database${await primary()}`) },
	standby: { words: "the standby killed", bound: 2, act: async () => killPart(folder, `database${other(await primary())}`) },
	line: {
		words: "the network between primary and standby cut for 8 s",
		bound: 2,
		act: async () => {
			for (const one of lines) one.cut();
			setTimeout(() => {
				for (const one of lines) one.mend();
			}, 8000);
			await sleep(8000);
		},
	},
	etcd: { words: "etcd killed and started again", bound: 2, act: async () => killPart(folder, "etcd") },
	upgrade: {
		words: "a rolling upgrade, one application server after the other",
		bound: 2,
		act: async () => {
			const before = said.length;
			process.kill(running(folder).command, "SIGUSR2");
			while (!said.slice(before).includes("were renewed")) await sleep(100);
		},
	},
};
const chosen = process.argv.length > 3 ? process.argv.slice(3) : Object.keys(FAULTS);

// Keys of five people, so that nobody writes faster than they may.
const database = new pg.Pool({ connectionString: plan.urls.direct, max: 2 });
database.on("error", () => undefined);
database.on("connect", (client) => client.on("error", () => undefined));
const people = (await database.query("select id from people where role = 'manager' and password_hash is not null order by id limit 5")).rows.map(
	({ id }) => id,
);
const keys = await Promise.all(
	people.map(async (person) => {
		const token = `lamp_${randomUUID()}`;
		await database.query("insert into api_keys (id, person_id, name, token_hash, hint) values ($1, $2, 'faults', $3, 'f')", [
			randomUUID(),
			person,
			createHash("sha256").update(token).digest("hex"),
		]);
		return token;
	}),
);
const ask = (key, path, options = {}) =>
	fetch(`${base}/api/v1/${path}`, {
		signal: AbortSignal.timeout(30_000),
		...options,
		headers: { authorization: `Bearer ${key}`, "content-type": "application/json", ...options.headers },
	});

let going = true;
let now = null;
const acknowledged = [];
let lastAnswer = Date.now();
/** What was said to those who failed, and how often. */
const reasons = new Map();
async function toldWhy(answer) {
	const why = answer ? `${answer.status} ${(await answer.text().catch(() => "")).replace(/\s+/g, " ").slice(0, 160)}` : "no answer";
	reasons.set(why, (reasons.get(why) ?? 0) + 1);
}
async function giver(key) {
	const deal = (await (await ask(key, "deals?status=open&limit=1")).json()).items[0];
	while (going) {
		const name = randomUUID();
		for (;;) {
			const answer = await ask(key, "tasks", {
				method: "POST",
				headers: { "idempotency-key": name },
				body: JSON.stringify({ dealIds: [deal.id], title: name }),
			}).catch(() => null);
			if (now) now.writes++;
			if (answer?.status === 201) break;
			if (answer && answer.status < 500 && answer.status !== 429) throw new Error(`a task was refused: ${answer.status} ${await answer.text()}`);
			if (now && answer?.status !== 429) {
				now.failedWrites++;
				await toldWhy(answer);
			}
			await sleep(100);
		}
		const at = Date.now();
		if (now) now.longest = Math.max(now.longest, at - lastAnswer);
		lastAnswer = at;
		acknowledged.push(name);
		await sleep(150);
	}
}
async function reader(key) {
	while (going) {
		const answer = await ask(key, "deals?status=open&limit=20").catch(() => null);
		if (answer?.ok) await answer.arrayBuffer().catch(() => null);
		if (now) now.reads++;
		if (now && !answer?.ok) {
			now.failedReads++;
			await toldWhy(answer);
		}
		await sleep(100);
	}
}
const workers = keys.flatMap((key) => [giver(key), reader(key)]);
await sleep(2000);

const table = [];
for (const name of chosen) {
	const { words, act, bound } = FAULTS[name];
	const gaps = [];
	const sum = { writes: 0, failedWrites: 0, reads: 0, failedReads: 0 };
	for (let i = 0; i < times; i++) {
		await whole();
		now = { writes: 0, failedWrites: 0, reads: 0, failedReads: 0, longest: 0 };
		await act(i);
		await sleep(2500);
		// A gap ends with the next task that was given.
		const from = acknowledged.length;
		while (acknowledged.length < from + keys.length) await sleep(50);
		gaps.push(now.longest);
		for (const key of Object.keys(sum)) sum[key] += now[key];
		now = null;
		console.log(`${name} ${i + 1}: ${(gaps.at(-1) / 1000).toFixed(1)} s`);
	}
	gaps.sort((a, b) => a - b);
	table.push({ name, words, bound, ...sum, middle: gaps[gaps.length >> 1], longest: gaps.at(-1) });
}
await whole();
going = false;
await Promise.all(workers);

// What the cluster answers in the end: from the database, and by each application server from its memory.
const { rows } = await database.query("select title, count(*)::int as n from tasks group by title");
const there = new Map(rows.map(({ title, n }) => [title, n]));
const lost = acknowledged.filter((name) => !there.has(name)).length;
const doubled = [...there].filter(([title, n]) => n > 1 && /^[0-9a-f-]{36}$/.test(title)).length;
await database.end();
program.kill("SIGTERM");
for (const one of lines) one.close();

const seconds = (ms) => (ms / 1000).toFixed(1);
const text = [
	`${acknowledged.length} writes were acknowledged; ${lost} of them were lost, and ${doubled} are there twice. Each fault ${times} times.`,
	"",
	"| fault | s without a write: middle, longest | at most | writes | failed | reads | failed |",
	"|---|---|---|---|---|---|---|",
	...table.map(
		(one) =>
			`| ${one.words} | ${seconds(one.middle)}, ${seconds(one.longest)} | ${one.bound} | ${one.writes} | ${one.failedWrites} | ${one.reads} | ${one.failedReads} |`,
	),
].join("\n");
console.log(`\n${text}\n`);
for (const [why, n] of reasons) console.log(`${n} × ${why}`);
writeFileSync(join(data, "faults.md"), `${text}\n`);
process.exitCode = lost || doubled || table.some((one) => one.longest > one.bound * 1000) ? 1 : 0;
