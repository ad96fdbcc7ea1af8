import { execFileSync, spawn } from "node:child_process";
import { cpSync, existsSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { request } from "node:http";
import { join, resolve } from "node:path";
import { expect, test } from "@playwright/test";
import { startStandIn } from "../../src/fakes/provider/provider";
import { programIn } from "../kit/program";

// The program behind a socket that is listened at for it, as systemd does; and other checkouts that take over from it.
test.describe.configure({ mode: "serial" });
test.setTimeout(900_000);

const program = programIn(resolve("var/test/service"), 3700);
const { folder, run } = program;
const backups = join(folder, "backups");
let key = "";
let said = "";
test.beforeAll(async () => {
	await program.begin();
	const pass = {
		PORCH_LAMP_DATA: folder,
		PORCH_LAMP_DEMO: "off",
		PORCH_LAMP_TODAY: "2026-11-24",
		PORT: String(program.port()),
		PORCH_LAMP_PROCESSES: "2",
		PORCH_LAMP_HOOKS_INSIDE: "on",
	};
	const env = Object.entries(pass).flatMap(([name, value]) => ["-E", `${name}=${value}`]);
	const listening = spawn("systemd-socket-activate", ["-l", `127.0.0.1:${program.port()}`, ...env, process.execPath, "scripts/start.mjs"], {
		stdio: ["ignore", "pipe", "pipe"],
		env: { ...process.env, DATABASE_URL: "" },
	});
	program.running = listening;
	for (const stream of [listening.stdout, listening.stderr])
		stream.on("data", (chunk) => {
			said += chunk;
		});
	await expect.poll(() => said, { timeout: 60_000 }).toContain("Listening on");
	await program.comesUp();
	await expect.poll(() => said, { timeout: 600_000 }).toContain("Ctrl-C stops it.");
	expect(await run("run", ["person", "oda@firm.example", "--name", "Oda Pell"], { PORCH_LAMP_PASSWORD: "evening walk" }).ended).toBe(0);
	const made = run("run", ["key", "oda@firm.example", "of the load"]);
	expect(await made.ended).toBe(0);
	key = /lamp_\S+/.exec(made.output())?.[0] ?? "";
});
test.afterAll(() => {
	program.running?.kill("SIGINT");
});

const server = () => (JSON.parse(readFileSync(join(folder, "run.json"), "utf8")) as { server: number }).server;
/** From which checkout the server runs. */
const servedFrom = () => execFileSync("readlink", [`/proc/${server()}/cwd`], { encoding: "utf8" }).trim();

/** Another checkout of the same program, built. */
function checkout(name: string): string {
	const place = resolve("var/test", name);
	rmSync(place, { recursive: true, force: true });
	for (const part of ["scripts", "src", "public", "package.json", "package-lock.json", "next.config.ts", "tsconfig.json"])
		if (existsSync(part)) cpSync(part, join(place, part), { recursive: true });
	// The same files by their names: what a test changes it writes as a file of its own.
	execFileSync("cp", ["-al", ".next", join(place, ".next")]);
	symlinkSync(resolve("node_modules"), join(place, "node_modules"));
	return place;
}
/** What was changed in a checkout counts as built. */
const asBuilt = (place: string) =>
	execFileSync(process.execPath, [
		"--input-type=module",
		"-e",
		`import { rmSync, writeFileSync } from "node:fs"; import { sourcesNow, STAMP } from ${JSON.stringify(join(place, "scripts/lib/build.mjs"))}; rmSync(STAMP); writeFileSync(STAMP, sourcesNow());`,
	]);
function upgradeFrom(place: string) {
	const child = spawn(process.execPath, ["scripts/service.mjs", "upgrade", "--proving", "4"], {
		cwd: place,
		env: { ...process.env, PORCH_LAMP_DATA: folder, PORCH_LAMP_DEMO: "off", DATABASE_URL: "" },
		stdio: ["ignore", "pipe", "pipe"],
	});
	let output = "";
	for (const stream of [child.stdout, child.stderr])
		stream.on("data", (chunk) => {
			output += chunk;
		});
	return new Promise<{ code: number | null; output: string }>((done) => child.on("exit", (code) => done({ code, output })));
}

/** Asks again and again, each time by a connection of its own, until it is ended: how often it was answered, and what it wasn’t by. */
function load() {
	let ended = false;
	let answered = 0;
	const failed: string[] = [];
	const once = () =>
		new Promise<void>((done) => {
			const call = request(`${program.base()}/api/v1/keys`, { agent: false, headers: { authorization: `Bearer ${key}` } }, (answer) => {
				if (answer.statusCode === 200) answered++;
				else failed.push(String(answer.statusCode));
				answer.on("error", (error) => failed.push(String(error))).on("close", done);
				answer.resume();
			});
			call.on("error", (error) => {
				failed.push(String(error));
				done();
			});
			call.end();
		});
	const one = async () => {
		while (!ended) {
			await once();
			await new Promise((resolve) => setTimeout(resolve, 20));
		}
	};
	const all = Promise.all(Array.from({ length: 4 }, one));
	return async () => {
		ended = true;
		await all;
		return { answered, failed };
	};
}

test("a new checkout takes over and the old one takes over again, and no request fails", async () => {
	const next = checkout("next");
	const before = server();
	const end = load();
	const done = await upgradeFrom(next);
	expect(done.output).toContain(`The program of ${next} has taken over.`);
	expect(done.code).toBe(0);
	expect(servedFrom()).toBe(next);
	expect(server()).not.toBe(before);
	const back = await upgradeFrom(process.cwd());
	expect(back.output).toContain(`The program of ${process.cwd()} has taken over.`);
	expect(servedFrom()).toBe(process.cwd());
	const { answered, failed } = await end();
	expect(failed).toEqual([]);
	expect(answered).toBeGreaterThan(50);
	expect(readdirSync(backups).filter((name) => name.endsWith(".backup"))).toHaveLength(2);
});

test("one that fails at its migration, or isn’t well once it runs, isn’t taken; what served serves on", async () => {
	const before = server();
	const end = load();
	const broken = checkout("broken");
	const migrations = join(broken, "src/data/migrations");
	const journal = JSON.parse(readFileSync(join(migrations, "meta/_journal.json"), "utf8"));
	const last = journal.entries.at(-1);
	journal.entries.push({ ...last, idx: last.idx + 1, when: last.when + 1, tag: "9999_broken" });
	writeFileSync(join(migrations, "meta/_journal.json"), JSON.stringify(journal));
	writeFileSync(
		join(migrations, "9999_broken.sql"),
		"alter table deals add column broken integer;--> statement-breakpoint\nalter table nowhere add column x text;",
	);
	asBuilt(broken);
	const failing = await upgradeFrom(broken);
	expect(failing.code).toBe(1);
	expect(failing.output).toContain("nowhere");
	expect(failing.output).toContain("can’t be restored; see above. Nothing was changed.");
	expect(server()).toBe(before);

	const host = join(broken, ".next/host.mjs");
	rmSync(join(migrations, "9999_broken.sql"));
	writeFileSync(join(migrations, "meta/_journal.json"), readFileSync("src/data/migrations/meta/_journal.json"));
	rmSync(host);
	writeFileSync(host, "process.exit(3);");
	asBuilt(broken);
	const ending = await upgradeFrom(broken);
	expect(ending.code).toBe(1);
	expect(ending.output).toContain("it ended (3) before it was ready");
	expect(ending.output).toContain("What served before serves on.");
	expect(server()).toBe(before);
	expect((await end()).failed).toEqual([]);
});

test("a directory of two hundred people arrives by SCIM, and one of them signs in by the company’s sign-in", async ({ page }) => {
	const made = await Promise.all(
		Array.from({ length: 200 }, async (_, i) => {
			const user = { schemas: ["urn:ietf:params:scim:schemas:core:2.0:User"], userName: `p${i}@firm.example`, displayName: `Pell ${i}`, externalId: `${i}` };
			const emails = [{ value: `p${i}@firm.example`, primary: true }];
			const headers = { authorization: `Bearer ${key}`, "content-type": "application/scim+json" };
			return (await fetch(`${program.base()}/scim/v2/Users`, { method: "POST", headers, body: JSON.stringify({ ...user, emails }) })).status;
		}),
	);
	expect(made.filter((status) => status === 201)).toHaveLength(200);
	const standIn = await startStandIn(program.base(), new Map([["seven", { name: "Pell 7", email: "p7@firm.example", groups: [] }]]));
	try {
		await page.goto(`${program.base()}/sign-in?to=/setup?place=provider`);
		await page.getByLabel("E-mail address").fill("oda@firm.example");
		await page.getByLabel("Password").fill("evening walk");
		await page.getByRole("button", { name: "Sign in", exact: true }).click();
		await page.getByLabel("Name, as people call it").fill("the firm’s account");
		await page.getByLabel("Issuer’s address").fill(standIn.issuer);
		await page.getByLabel("Client id").fill(standIn.clientId);
		await page.getByLabel(/^Client secret/).fill(standIn.clientSecret);
		await page.getByLabel("People may sign in by it").check();
		await page.getByRole("button", { name: "Save" }).click();
		await expect(page.getByText("The company sign-in is saved.").last()).toBeVisible();
		await page.getByRole("button", { name: "Sign out", exact: true }).click();
		await page.getByRole("link", { name: "Sign in with the firm’s account" }).click();
		await page.getByLabel("Login").fill("seven");
		await page.getByRole("button", { name: "Sign in", exact: true }).click();
		await expect(page.getByText("Pell 7")).toBeVisible();
	} finally {
		await standIn.stop();
	}
});

test("a backup is rehearsed beside what is there, and the oldest of a folder go", async () => {
	for (let i = 0; i < 2; i++) expect(await run("backup", ["backup", backups, "--keep", "2"]).ended).toBe(0);
	const kept = readdirSync(backups).filter((name) => name.endsWith(".backup"));
	expect(kept).toHaveLength(2);
	const rehearsal = run("backup", ["restore", backups, "--rehearse"]);
	expect(await rehearsal.ended).toBe(0);
	expect(rehearsal.output()).toContain(`${kept.sort().at(-1)} was restored and brought up to this version`);
	expect(await program.well()).toBe(true);
	const newest = join(backups, kept.at(-1) ?? "");
	writeFileSync(newest, readFileSync(newest).subarray(0, 2000));
	const torn = run("backup", ["restore", backups, "--rehearse"]);
	expect(await torn.ended).toBe(1);
	expect(torn.output()).toContain("can’t be restored; see above. Nothing was changed.");
	const strange = run("backup", ["backup", join(folder, "one.backup"), "--keep", "2"]);
	expect(await strange.ended).toBe(1);
	expect(strange.output()).toContain("--keep is for a folder of backups");
});
