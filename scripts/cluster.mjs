// npm run cluster: two application servers, HAProxy, PgBouncer, and two PostgreSQL with Patroni and etcd, on loopback.
import { existsSync } from "node:fs";
import { join } from "node:path";
import { keeper, killPart, postmasterOf, running } from "./cluster/keep.mjs";
import { partsOf } from "./cluster/parts.mjs";
import { HOST, planOf } from "./cluster/plan.mjs";
import { answers, ask, makeDatabase, primaryOf, standbyReady, until } from "./cluster/ready.mjs";
import { ensureBuild } from "./lib/build.mjs";
import { cli } from "./lib/cli.mjs";
import { alive } from "./lib/command.mjs";
import { ensureCluster, ensureNpm, ensurePostgres } from "./lib/packages.mjs";
import { dataFolder } from "./lib/paths.mjs";
import { freeFrom } from "./lib/ports.mjs";
import { clusterHome } from "./lib/postgres.mjs";
import { Halt, main, say, step } from "./lib/say.mjs";

// Where Debian keeps servers, which isn’t on everybody’s path.
process.env.PATH = `${process.env.PATH}:/usr/sbin:/sbin`;
const folder = clusterHome(dataFolder());
const [what = "start", ...rest] = process.argv.slice(2);

await main(async () => {
	const doing = { start, status, kill, stop }[what];
	if (!doing) throw new Halt("npm run cluster [-- status | kill PART | stop]");
	await doing(...rest);
});

/** Sets all of it up, and keeps it running until Ctrl-C or `stop`. */
async function start(...options) {
	const between = options[0] === "--between" ? options[1].split(",").map(Number) : null;
	const before = running(folder);
	if (before.command && alive(before.command)) throw new Halt("The cluster runs already: npm run cluster -- status");
	await ensurePostgres();
	await ensureCluster();
	await ensureNpm();
	await ensureBuild();
	// What a start that was killed has left behind.
	for (const name of Object.keys(before)) if (name !== "command") killPart(folder, name);
	const plan = await planOf(folder, Number(process.env.PORT) || (await freeFrom(3000)), between);
	const kept = keeper(folder);
	let over = false;
	const end = async (code) => {
		if (over) return;
		over = true;
		say("\nStopping …");
		await kept.end();
		say("Stopped.");
		process.exit(code);
	};
	for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(signal, () => void end(0));
	process.on("SIGUSR2", () => void renewAll(kept, plan));
	const parts = new Map(partsOf(plan).map((part) => [part.name, part]));
	const launch = (...names) => {
		for (const name of names) kept.launch(parts.get(name));
	};
	try {
		launch("etcd");
		await step("Starting etcd", () =>
			until(
				"etcd",
				async () => (await ask(`http://${HOST}:${plan.ports.etcd}/health`))?.ok,
				() => over,
			),
		);
		launch("database1", "database2");
		await step("Setting up the two databases", () =>
			until(
				"The primary",
				() => primaryOf(plan),
				() => over,
			),
		);
		launch("proxy", "pooler");
		await step("Making the database", () =>
			until(
				"The database",
				() =>
					makeDatabase(plan).then(
						() => true,
						() => false,
					),
				() => over,
			),
		);
		await step("Waiting for the standby", () =>
			until(
				"The standby",
				() => standbyReady(plan),
				() => over,
			),
		);
		if ((await step("Preparing the data", () => cli("prepare", [], { DATABASE_URL: plan.urls.direct }))) !== 0)
			throw new Halt("The database could not be prepared; see above.");
		launch("application1", "application2");
		for (const n of [1, 2])
			await step(`Starting application server ${n}`, () =>
				until(
					`Application server ${n}`,
					() => answers(plan, `application${n}`),
					() => over,
				),
			);
	} catch (error) {
		if (over) return;
		say(`\n${error.message}\nWhat each part says is in ${folder}/<part>/log`);
		return end(1);
	}
	if (over) return;
	say(`\n  Porch Lamp is at  http://${HOST}:${plan.ports.pages}\n`);
	await cli("prepare", ["--greet"], { DATABASE_URL: plan.urls.direct, PORCH_LAMP_ADDRESS: `http://${HOST}:${plan.ports.pages}` });
	for (const { name, words } of parts.values()) say(`  ${name.padEnd(14)}${words}`);
	say("\n  From another terminal:  npm run cluster -- kill primary   (or standby, or a part by its name)\n  Ctrl-C stops it.");
}

/** One application server after the other ends in order and starts again: the upgrade of a cluster. */
async function renewAll(kept, plan) {
	for (const n of [1, 2]) {
		await kept.renew(`application${n}`);
		await until(`Application server ${n}`, () => answers(plan, `application${n}`));
		// Until the proxy has seen it.
		await new Promise((resolve) => setTimeout(resolve, 1500));
	}
	say("  Both application servers were renewed.");
}

async function known() {
	if (!existsSync(join(folder, "parts.json"))) throw new Halt("No cluster runs. Start it with: npm run cluster");
	return planOf(folder, 0, null);
}

/** Says what runs, and which database is the primary. */
async function status() {
	const plan = await known();
	const primary = await primaryOf(plan);
	for (const { name, words } of partsOf(plan)) {
		const pid = running(folder)[name];
		const up = pid && alive(pid) ? `process ${pid}` : "not running";
		const own = name.startsWith("database")
			? `, ${postmasterOf(folder, name) ? (name === `database${primary}` ? "primary" : "standby") : "no PostgreSQL"}`
			: name.startsWith("application")
				? `, ${(await answers(plan, name)) ? "ready" : "starting"}`
				: "";
		say(`  ${name.padEnd(14)}${`${up}${own}`.padEnd(28)}${words}`);
	}
	say(
		`  ${(await standbyReady(plan)) ? "The standby has all that was acknowledged." : "No standby has all that was acknowledged: the primary goes on alone."}`,
	);
}

/** Kills a part as the loss of its machine would. */
async function kill(part = "") {
	const plan = await known();
	const primary = await primaryOf(plan);
	const name = part === "primary" ? `database${primary}` : part === "standby" ? `database${primary === 1 ? 2 : 1}` : part;
	if (!partsOf(plan).some((one) => one.name === name))
		throw new Halt(
			`There is no part ${part}. There are primary, standby, ${partsOf(plan)
				.map((one) => one.name)
				.join(", ")}.`,
		);
	killPart(folder, name);
	say(`  ${name} was killed.`);
}

/** Ends a cluster that another command keeps running. */
async function stop() {
	const { command } = running(folder);
	if (!command || !alive(command)) throw new Halt("No cluster runs.");
	process.kill(command, "SIGTERM");
	while (alive(command)) await new Promise((resolve) => setTimeout(resolve, 100));
}
