// npm run service -- install | upgrade | uninstall: the program as a service of systemd.
import { spawnSync } from "node:child_process";
import { chmodSync, chownSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { parseArgs } from "node:util";
import { ensureBuild } from "./lib/build.mjs";
import { isRoot, run, userIds } from "./lib/command.mjs";
import { ensureNpm, ensurePostgres } from "./lib/packages.mjs";
import { inRoot, root } from "./lib/paths.mjs";
import { Halt, main, say } from "./lib/say.mjs";
import { SETTINGS, settingsIn, UNITS, unitsFor } from "./service/units.mjs";

const HELP = `npm run service -- install [--user porch-lamp] [--data /var/lib/porch-lamp] [--backups /var/backups/porch-lamp] [--keep 14] [--port 3000]
npm run service -- upgrade [--proving 20]   in the new checkout: takes over from the one that is installed, or goes back by itself;
                                the new one has to stay well for so many seconds
npm run service -- uninstall    leaves data, backups and settings where they are
With --write FOLDER, install and uninstall write below that folder, and nothing is started.`;

const OPTIONS = {
	user: { type: "string", default: "porch-lamp" },
	data: { type: "string", default: "/var/lib/porch-lamp" },
	backups: { type: "string", default: "/var/backups/porch-lamp" },
	keep: { type: "string", default: "14" },
	port: { type: "string", default: "3000" },
	proving: { type: "string", default: "20" },
	write: { type: "string" },
};

await main(async () => {
	let given;
	try {
		given = parseArgs({ args: process.argv.slice(2), options: OPTIONS, allowPositionals: true });
	} catch (error) {
		throw new Halt(`${error.message}\n${HELP}`);
	}
	const work = { install, upgrade, uninstall }[given.positionals[0]];
	if (!work || given.positionals.length > 1) throw new Halt(HELP);
	await work(given.values);
});

function unitFolder(base = "/") {
	return join(base, "etc/systemd/system");
}

async function install(values) {
	const { write, user } = values;
	const [keep, port] = [numberOf("keep", values.keep, 10_000), numberOf("port", values.port, 65_535)];
	if (!/^[a-z_][a-z0-9_-]{0,31}$/.test(user)) throw new Halt(`${user} can’t be the name of a user: small letters, digits and dashes.`);
	const settings = { checkout: root, node: process.execPath, user, data: resolve(values.data), backups: resolve(values.backups), keep, port };
	if (write === undefined) {
		demandSystemd();
		await ensurePostgres();
		await ensureNpm();
		await ensureBuild();
		if (!userIds(user))
			await run("useradd", ["--system", "--user-group", "--no-create-home", "--home-dir", settings.data, "--shell", "/usr/sbin/nologin", user]);
		own(user, settings);
	}
	put(settings, write);
	const env = join(write ?? "/", SETTINGS);
	if (!existsSync(env)) {
		mkdirSync(dirname(env), { recursive: true });
		writeFileSync(env, "# Settings of Porch Lamp, one a line, such as PORCH_LAMP_ADDRESS=https://lamp.company.example\n", { mode: 0o640 });
		if (write === undefined) chownSync(env, 0, userIds(user).gid);
	}
	if (write !== undefined) return say(`Written below ${write}; nothing was started.`);
	await run("systemctl", ["daemon-reload"]);
	await run("systemctl", ["enable", "--now", "porch-lamp.socket", "porch-lamp.service", "porch-lamp-backup.timer"]);
	say(`Porch Lamp runs as a service, at http://127.0.0.1:${port}. Its settings are in ${SETTINGS}, what it says in  journalctl -u porch-lamp`);
}

/** What its user writes to is its user’s: data, backups, and what commands are put together in. */
function own(user, { data, backups }) {
	const { uid, gid } = userIds(user);
	for (const folder of [data, backups, inRoot("node_modules", ".cache", "porch-lamp"), inRoot(".next", "cache")]) {
		mkdirSync(folder, { recursive: true, mode: 0o700 });
		chownSync(folder, uid, gid);
	}
	for (const folder of [data, backups]) chmodSync(folder, 0o700);
}

function put(settings, base) {
	mkdirSync(unitFolder(base), { recursive: true });
	for (const [name, text] of Object.entries(unitsFor(settings))) writeFileSync(join(unitFolder(base), name), text, { mode: 0o644 });
}

async function upgrade(values) {
	const proving = ["--proving", String(numberOf("proving", values.proving, 3600))];
	const script = inRoot("scripts/service/upgrade.mjs");
	const [socket, service, backup] = UNITS.map((name) => join(unitFolder(), name));
	// Without a unit it is what PORCH_LAMP_DATA names that is taken over.
	if (!existsSync(service)) return run(process.execPath, [script, ...proving], { show: true }).then(() => undefined);
	demandSystemd();
	const [ofService, ofBackup, ofSocket] = [service, backup, socket].map((file) => readFileSync(file, "utf8"));
	const before = settingsIn(ofService, ofBackup, ofSocket);
	if (before.checkout === root) throw new Halt("This checkout is the one that serves. Put the new one into a folder of its own, and run this there.");
	await ensureNpm();
	await ensureBuild();
	own(before.user, before);
	const as = ["-u", before.user, "--", "env", `PORCH_LAMP_DATA=${before.data}`, process.execPath];
	await run("runuser", [...as, script, "--backups", before.backups, ...proving], { show: true });
	// From the next restart on it is started from here.
	put({ ...before, checkout: root, node: process.execPath }, "/");
	await run("systemctl", ["daemon-reload"]);
	say(`The service is started from ${root} from now on. To go back, run this in ${before.checkout}.`);
}

async function uninstall({ write }) {
	if (write === undefined) {
		demandSystemd();
		spawnSync("systemctl", ["disable", "--now", "porch-lamp-backup.timer", "porch-lamp.service", "porch-lamp.socket"], { stdio: "inherit" });
	}
	for (const name of UNITS) rmSync(join(unitFolder(write), name), { force: true });
	if (write === undefined) await run("systemctl", ["daemon-reload"]);
	say(`The service is gone. Its data, its backups and ${SETTINGS} are where they were.`);
}

function demandSystemd() {
	if (!isRoot()) throw new Halt("A service is set up by root: run this with sudo.");
	if (!existsSync("/run/systemd/system"))
		throw new Halt("systemd doesn’t run on this machine. Start the program by  npm start  under what watches over programs here.");
}

function numberOf(name, text, most) {
	const number = Number(text);
	if (!Number.isInteger(number) || number < 1 || number > most) throw new Halt(`--${name} is ${text}; it must be a whole number from 1 to ${most}.`);
	return number;
}
