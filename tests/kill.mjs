// node tests/kill.mjs [TIMES]: starts the program on a folder of its own and kills its server and its database TIMES times
// (100 unless said otherwise), one after the other, while tasks are given. Whoever gives one sends it again under the same
// name until it is answered. In the end each is there exactly once. It takes some minutes, so it isn't part of npm test.
import { spawn, spawnSync } from "node:child_process";
// biome-ignore lint/style/noRestrictedImports: this runs outside of the program, which it kills
import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { inRoot, root } from "../scripts/lib/paths.mjs";
import { freeFrom } from "../scripts/lib/ports.mjs";
import { databaseHome, removeData } from "../scripts/lib/postgres.mjs";

const times = Number(process.argv[2] ?? 100);
const folder = inRoot("var", "kill");
removeData(folder);
const port = await freeFrom(3700);
const env = { ...process.env, PORCH_LAMP_DATA: folder, PORCH_LAMP_TODAY: "2026-11-24", PORT: String(port), DATABASE_URL: "", PORCH_LAMP_LONGEST_PAUSE: "500" };
const program = spawn(process.execPath, [inRoot("scripts/start.mjs")], { cwd: root, env, stdio: ["ignore", "ignore", "inherit"] });
const base = `http://127.0.0.1:${port}`;
const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const well = () =>
	fetch(`${base}/healthz`, { signal: AbortSignal.timeout(2000) }).then(
		(answer) => answer.ok,
		() => false,
	);
const comesUp = async () => {
	for (let tries = 0; tries < 1200; tries++) {
		if (await well()) return;
		await sleep(250);
	}
	throw new Error("the program didn't come up again within five minutes");
};

await comesUp();
const made = spawnSync(process.execPath, [inRoot("scripts/run.mjs"), "key", "ruth@emberwick.example", "kill"], { cwd: root, env, encoding: "utf8" });
const key = /lamp_\S+/.exec(made.stdout)?.[0];
if (!key) throw new Error(`no key was made: ${made.stdout}${made.stderr}`);
const ask = (path, options = {}) =>
	fetch(`${base}/api/v1/${path}`, {
		signal: AbortSignal.timeout(10_000),
		...options,
		headers: { authorization: `Bearer ${key}`, "content-type": "application/json", ...options.headers },
	});
/** What a read answers; asked again while the program is on its way back. */
async function told(path) {
	for (;;) {
		const answer = await ask(path).catch(() => null);
		if (answer?.ok) return answer.json();
		if (answer && answer.status < 500) throw new Error(`${path} answers ${answer.status}: ${await answer.text()}`);
		await sleep(250);
	}
}
const [deal] = (await told("deals?status=open&limit=1")).items;

let going = true;
let sent = 0;
const given = [];
/** when something was killed last, until a task is given again; and how long each took to be back */
let killedAt = 0;
let killedWhat = "";
const backAfter = [];
/** Gives one task after another; each is sent again under its name until it is answered. */
async function giver() {
	while (going) {
		const name = randomUUID();
		for (;;) {
			sent++;
			const asked = Date.now();
			const answer = await ask("tasks", {
				method: "POST",
				headers: { "idempotency-key": name },
				body: JSON.stringify({ dealIds: [deal.id], title: name }),
			}).catch(() => null);
			if (answer?.status === 201) {
				if (asked > killedAt && killedAt) {
					backAfter.push({ what: killedWhat, ms: Date.now() - killedAt });
					killedAt = 0;
				}
				break;
			}
			if (answer && answer.status < 500 && answer.status !== 429) throw new Error(`a task was refused: ${answer.status} ${await answer.text()}`);
			await sleep(100);
		}
		given.push(name);
		await sleep(20);
	}
}
const givers = [giver(), giver(), giver()];

for (let i = 0; i < times; i++) {
	while (killedAt) await sleep(50);
	await comesUp();
	await sleep(300 + Math.random() * 700);
	const pid =
		i % 2
			? Number(readFileSync(join(databaseHome(folder), "data", "postmaster.pid"), "utf8").split("\n")[0])
			: JSON.parse(readFileSync(join(folder, "run.json"), "utf8")).server;
	try {
		process.kill(pid, "SIGKILL");
		killedWhat = i % 2 ? "database" : "server";
		killedAt = Date.now();
	} catch {
		// It had just ended by itself.
	}
	if (i % 10 === 9) process.stdout.write(`killed ${i + 1} times, ${given.length} tasks given\n`);
}
await comesUp();
going = false;
await Promise.all(givers);

const titles = new Map();
for (let cursor = ""; cursor !== null; ) {
	const page = await told(`tasks?limit=1000&deal=${encodeURIComponent(deal.id)}${cursor ? `&cursor=${cursor}` : ""}`);
	for (const task of page.items) titles.set(task.title, (titles.get(task.title) ?? 0) + 1);
	cursor = page.next;
}
const lost = given.filter((name) => !titles.has(name));
const doubled = given.filter((name) => titles.get(name) > 1);
process.stdout.write(`${times} kills, ${given.length} tasks given by ${sent} requests: ${lost.length} lost, ${doubled.length} doubled.\n`);
for (const which of ["server", "database"]) {
	const times = backAfter.flatMap(({ what, ms }) => (what === which ? [ms / 1000] : [])).sort((a, b) => a - b);
	process.stdout.write(`Back after the ${which} was killed: median ${times[times.length >> 1]?.toFixed(1)} s, at most ${times.at(-1)?.toFixed(1)} s.\n`);
}
program.kill("SIGINT");
process.exitCode = lost.length || doubled.length ? 1 : 0;
