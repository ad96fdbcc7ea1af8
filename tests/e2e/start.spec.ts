import { execFileSync } from "node:child_process";
import { existsSync, readFileSync, rmSync, statSync } from "node:fs";
import { request } from "node:http";
import { createServer } from "node:net";
import { join, resolve } from "node:path";
import { expect, test } from "@playwright/test";
import { databaseHome } from "../../scripts/lib/postgres.mjs";
import { programIn } from "../kit/program";

// The commands themselves: started, killed, started again, on a folder of their own.
test.describe.configure({ mode: "serial" });

const program = programIn(resolve("var/test/start"), 3600);
const { folder, base, run, start, well, comesUp } = program;
let key = "";

const ask = async <T>(path: string) => (await (await fetch(`${base()}/api/v1/${path}`, { headers: { authorization: `Bearer ${key}` } })).json()).items as T[];
const keys = () => ask<{ name: string }>("keys");
/** Elsewhere than in the folder where root alone can reach that. */
const pidFile = () => join(databaseHome(folder), "data", "postmaster.pid");
const databasePid = () => Number(readFileSync(pidFile(), "utf8").split("\n")[0]);
const runFile = () => JSON.parse(readFileSync(join(folder, "run.json"), "utf8")) as { server: number };

test.beforeAll(program.begin);
test.afterAll(async () => {
	program.running?.kill("SIGINT");
});

test("an empty start says how to make the first person, who can then use the program", async () => {
	test.setTimeout(600_000);
	const { output } = await start();
	expect(output()).toContain(`Porch Lamp is at  ${base()}`);
	expect(output()).toContain("npm run person -- you@company.example");
	// Started as root the server isn't root any more, or has none of its powers.
	const status = readFileSync(`/proc/${runFile().server}/status`, "utf8");
	expect(/^Uid:\s+0\s/m.test(status) && !/^CapEff:\s+0+$/m.test(status)).toBe(false);
	const person = run("run", ["person", "oda@firm.example", "--name", "Oda Pell"], { PORCH_LAMP_PASSWORD: "evening walk" });
	expect(await person.ended).toBe(0);
	expect(person.output()).toContain("Created oda@firm.example: evening walk");
	const made = run("run", ["key", "oda@firm.example", "kept through it all"]);
	expect(await made.ended).toBe(0);
	key = /lamp_\S+/.exec(made.output())?.[0] ?? "";
	expect((await keys()).map((k) => k.name)).toEqual(["kept through it all"]);
});

test("a second start on the same data is refused, and says where the first one is", async () => {
	const second = run("start");
	expect(await second.ended).toBe(1);
	expect(second.output()).toContain(`Porch Lamp runs already, at ${base()}`);
	// It listens by itself, so no other can take over from it: that is said before anything is done.
	const upgrade = run("service/upgrade");
	expect(await upgrade.ended).toBe(1);
	expect(upgrade.output()).toContain("stop it, and start the new checkout in its place");
	expect(existsSync(join(folder, "backups"))).toBe(false);
	expect(await well()).toBe(true);
});

test("a killed server comes back by itself", async () => {
	const before = runFile().server;
	process.kill(before, "SIGKILL");
	await expect.poll(() => runFile().server, { timeout: 90_000 }).not.toBe(before);
	await comesUp();
	expect(await keys()).toHaveLength(1);
});

test("a killed database comes back by itself, with nothing lost", async () => {
	test.setTimeout(600_000);
	const before = databasePid();
	process.kill(before, "SIGKILL");
	// Its file comes and goes while it comes up again.
	const now = () => {
		try {
			return databasePid();
		} catch {
			return before;
		}
	};
	await expect.poll(now, { timeout: 90_000 }).not.toBe(before);
	await comesUp();
	await expect
		.poll(
			() =>
				keys().then(
					(list) => list.length,
					() => 0,
				),
			{ timeout: 90_000 },
		)
		.toBe(1);
});

test("after the start itself was killed, the next one takes over what it left, and Ctrl-C stops all of it", async () => {
	test.setTimeout(600_000);
	program.running?.kill("SIGKILL");
	await expect.poll(() => program.running?.signalCode).toBe("SIGKILL");
	const { child, output, ended } = await start();
	expect(await keys()).toHaveLength(1);
	expect(output()).not.toContain("Setting up the database");
	child.kill("SIGINT");
	expect(await ended).toBe(0);
	expect(output()).toContain("Stopped.");
	expect(existsSync(pidFile())).toBe(false);
	expect(await well()).toBe(false);
	program.running = null;
});

test("a database that doesn’t answer yet is waited for, however long; a command waits for the start, and stops nothing", async () => {
	test.setTimeout(600_000);
	const first = await start();
	const pid = databasePid();
	process.kill(pid, "SIGSTOP");
	first.child.kill("SIGKILL");
	await first.ended;
	const again = run("start");
	program.running = again.child;
	await expect.poll(again.output, { timeout: 90_000 }).toContain("the database isn’t ready yet");
	const made = run("run", ["key", "oda@firm.example", "waited for"]);
	await expect.poll(made.output, { timeout: 90_000 }).toContain("Porch Lamp is starting; this waits for it.");
	process.kill(pid, "SIGCONT");
	await comesUp();
	expect(await made.ended).toBe(0);
	expect(databasePid()).toBe(pid);
	expect((await keys()).map((k) => k.name).sort()).toEqual(["kept through it all", "waited for"]);
	again.child.kill("SIGINT");
	expect(await again.ended).toBe(0);
	expect(existsSync(pidFile())).toBe(false);
	program.running = null;
});

test("of two commands at once neither stops the database under the other, and the last one stops it", async () => {
	test.setTimeout(600_000);
	const both = ["one", "two"].map((name) => run("run", ["key", "oda@firm.example", name]));
	expect(await Promise.all(both.map(({ ended }) => ended))).toEqual([0, 0]);
	expect(existsSync(pidFile())).toBe(false);
});

test("what holds everything is its owner’s alone; a backup without its seal is restored when that is asked for by name", async () => {
	test.setTimeout(600_000);
	const file = join(folder, "all.backup");
	expect(await run("backup", ["backup", file]).ended).toBe(0);
	const mode = (path: string) => (statSync(path).mode & 0o777).toString(8);
	for (const path of [file, `${file}.seal.json`, join(folder, "server.log"), join(databaseHome(folder), "server.log")]) expect(mode(path), path).toBe("600");
	rmSync(`${file}.seal.json`);
	const refused = run("backup", ["restore", file]);
	expect(await refused.ended).toBe(1);
	expect(refused.output()).toContain(`npm run restore -- ${file} --without-seal`);
	const mistaken = run("backup", ["restore", file, "--unsealed"]);
	expect(await mistaken.ended).toBe(1);
	expect(mistaken.output()).toContain("--unsealed isn’t known here");
	const restored = run("backup", ["restore", file, "--without-seal"]);
	expect(await restored.ended).toBe(0);
	expect(restored.output()).toContain("without its seal nothing says whether that is all");
	expect(existsSync(pidFile())).toBe(false);
});

test("a taken port that was asked for is said; another one is taken when none was", async () => {
	const blocker = createServer().listen(program.port(), "127.0.0.1");
	const refused = run("start");
	expect(await refused.ended).toBe(1);
	expect(refused.output()).toContain(`Port ${program.port()} is taken by another program.`);
	const wrong = run("start", [], { PORT: "evening" });
	expect(await wrong.ended).toBe(1);
	expect(wrong.output()).toContain("it must be a number from 1 to 65535");
	await new Promise((done) => blocker.close(done));
});

test("commands start the database for their time, report bad input, and give a bundle back", async () => {
	test.setTimeout(600_000);
	const demo = join(folder, "demo");
	expect(await run("run", ["demo", demo, "--deals", "20", "--today", "2026-11-24"]).ended).toBe(0);
	const dry = run("run", ["import", demo, "--dry-run"]);
	expect(await dry.ended).toBe(0);
	expect(dry.output()).toContain("Import checked.");
	const real = run("run", ["import", demo]);
	expect(await real.ended).toBe(0);
	expect(real.output()).toMatch(/deals\.csv +29 rows read, 29 added or changed/);
	const nowhere = run("run", ["import", join(folder, "nothing-here")]);
	expect(await nowhere.ended).toBe(2);
	expect(nowhere.output()).toContain("Nothing found at");
	const out = join(folder, "out");
	expect(await run("run", ["export", out]).ended).toBe(0);
	const lines = (file: string) => readFileSync(join(out, file), "utf8").split("\n").length;
	expect(lines("deals.csv")).toBe(31);
	expect((statSync(join(out, "deals.csv")).mode & 0o777).toString(8)).toBe("600");
	expect(existsSync(pidFile())).toBe(false);
});

test("nights that passed while nothing ran are kept by the program itself, each once", async () => {
	test.setTimeout(600_000);
	const nights = async () =>
		(await ask<{ day: string; byId: string | null; fits: boolean | null }>("marks")).filter((mark) => !mark.byId && mark.fits !== null);
	const days = async () => (await nights()).map((mark) => mark.day).sort();
	const missed = ["2026-11-24", "2026-11-25", "2026-11-26"];
	// The queue looks for work every twenty seconds.
	const later = { PORCH_LAMP_TODAY: "2026-11-27" };
	const first = await start(later);
	await expect.poll(days, { timeout: 90_000 }).toEqual(missed);
	expect((await nights()).every((mark) => mark.fits)).toBe(true);
	first.child.kill("SIGINT");
	expect(await first.ended).toBe(0);
	await start({ ...later, PORCH_LAMP_PROCESSES: "3" });
	expect(await days()).toEqual(missed);
});

test("three processes on one database: none shows what was before a write, and one that is killed comes back", async () => {
	test.setTimeout(600_000);
	const made = run("run", ["key", "helena@emberwick.example", "of three"]);
	expect(await made.ended).toBe(0);
	const headers = { authorization: `Bearer ${/lamp_\S+/.exec(made.output())?.[0]}`, "content-type": "application/json" };
	/** Each on a connection of its own, so that the processes take turns. */
	const send = (path: string, method = "GET", body?: object, match?: number) =>
		new Promise<{ status: number; json: { versionId: number; nextStep: string } }>((done, failed) => {
			const call = request(
				`${base()}/api/v1/${path}`,
				{ method, agent: false, headers: { ...headers, ...(match ? { "if-match": String(match) } : {}) } },
				(answer) => {
					let text = "";
					answer.on("data", (chunk) => (text += chunk));
					answer.on("end", () => done({ status: answer.statusCode ?? 0, json: JSON.parse(text) }));
				},
			);
			call.on("error", failed);
			call.setTimeout(60_000, () => call.destroy(new Error("no answer")));
			call.end(body && JSON.stringify(body));
		});
	const workers = () =>
		execFileSync("pgrep", ["-P", String(runFile().server)], { encoding: "utf8" })
			.trim()
			.split("\n")
			.sort();
	expect(workers()).toHaveLength(3);
	const [deal] = await ask<{ id: string }>("deals?status=open&limit=1");
	const path = `deals/${deal?.id}`;
	for (let round = 0; round < 8; round++) {
		const seen = await send(path);
		const nextStep = `Ring them back, round ${round}`;
		expect((await send(path, "PATCH", { nextStep }, seen.json.versionId)).status).toBe(200);
		const answers = await Promise.all(Array.from({ length: 9 }, () => send(path)));
		expect(answers.map(({ json }) => json.nextStep)).toEqual(answers.map(() => nextStep));
	}
	const [first] = workers();
	process.kill(Number(first), "SIGKILL");
	// What had just been handed to it is lost with it; asked again, everything is answered.
	const answered = () =>
		Promise.all(
			Array.from({ length: 6 }, () =>
				send(path).then(
					({ status }) => status,
					() => 0,
				),
			),
		);
	await expect.poll(answered, { timeout: 90_000 }).toEqual(Array.from({ length: 6 }, () => 200));
	await expect.poll(() => workers().length, { timeout: 90_000 }).toBe(3);
	expect(workers()).not.toContain(first);
	await comesUp();
});

test("with the clock set forward, a task that was done says that its flag cleared", async () => {
	test.setTimeout(600_000);
	const made = run("run", ["key", "helena@emberwick.example", "of tasks"]);
	expect(await made.ended).toBe(0);
	const headers = { authorization: `Bearer ${/lamp_\S+/.exec(made.output())?.[0]}`, "content-type": "application/json" };
	const send = async (path: string, method: string, body: object, more: Record<string, string> = {}) => {
		const answer = await fetch(`${base()}/api/v1/${path}`, { method, headers: { ...headers, ...more }, body: JSON.stringify(body) });
		expect(answer.ok, `${method} ${path}`).toBe(true);
		return answer.json();
	};
	const [deal] = await ask<{ id: string; versionId: number }>("deals?status=open&flag=overdue&limit=1");
	if (!deal) throw new Error("no deal is overdue");
	const given = await send("tasks", "POST", { dealIds: [deal.id], title: "Agree a new date", flags: ["overdue"], dueOn: "2026-11-30" });
	const { id } = given.tasks[0] as { id: string };
	const outcomes = async () => (await ask<{ id: string; outcomes: object[] }>(`tasks?deal=${deal.id}`)).find((task) => task.id === id)?.outcomes;
	expect(await outcomes()).toEqual([{ flag: "overdue", state: "lit", on: null }]);
	await send(`deals/${deal.id}`, "PATCH", { closeDate: "2026-12-15", reason: "Board meets later" }, { "if-match": String(deal.versionId) });
	await send(`tasks/${id}`, "PATCH", { state: "done" });
	program.running?.kill("SIGINT");
	await expect.poll(well).toBe(false);
	await expect.poll(() => existsSync(pidFile()), { timeout: 90_000 }).toBe(false);
	await start({ PORCH_LAMP_TODAY: "2026-11-30" });
	expect(await outcomes()).toEqual([{ flag: "overdue", state: "out", on: "2026-11-27" }]);
});
