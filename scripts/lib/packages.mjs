import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { isRoot, run, works } from "./command.mjs";
import { inRoot } from "./paths.mjs";
import { Halt, step } from "./say.mjs";

const POSTGRES_HOME = "/usr/lib/postgresql";

/** The folder of the newest PostgreSQL server programs, or null. */
export function postgresBin() {
	if (!existsSync(POSTGRES_HOME)) return null;
	const versions = readdirSync(POSTGRES_HOME)
		.filter((version) => existsSync(`${POSTGRES_HOME}/${version}/bin/initdb`))
		.sort((a, b) => Number(b) - Number(a));
	return versions.length ? `${POSTGRES_HOME}/${versions[0]}/bin` : null;
}

export const CHROMIUM = "/usr/bin/chromium";

/** Installs Debian packages, as root or through sudo; where neither is possible, says which command to run. */
async function installDebian(packages) {
	const command = `apt-get install -y --no-install-recommends ${packages.join(" ")}`;
	if (!works("which", ["apt-get"])) throw new Halt(`This machine has no apt-get. Install ${packages.join(" and ")}, then start again.`);
	const sudo = isRoot() ? [] : works("sudo", ["-n", "true"]) ? ["sudo", "-n"] : process.stdin.isTTY && works("which", ["sudo"]) ? ["sudo"] : null;
	if (!sudo)
		throw new Halt(
			`Porch Lamp needs ${packages.join(" and ")}, and this user may not install packages. Have it installed with:\n\n  sudo ${command}\n\nthen start again.`,
		);
	const [first, ...rest] = [...sudo, "apt-get"];
	const env = { DEBIAN_FRONTEND: "noninteractive" };
	const show = sudo[0] === "sudo" && sudo.length === 1;
	await run(first, [...rest, "update", "-q"], { env, show });
	await run(first, [...rest, "install", "-y", "-q", "--no-install-recommends", ...packages], { env, show });
}

export async function ensurePostgres() {
	if (!postgresBin()) await step("Installing PostgreSQL from Debian’s packages", () => installDebian(["postgresql"]));
}

export async function ensureChromium() {
	if (!existsSync(CHROMIUM)) await step("Installing Chromium from Debian’s packages", () => installDebian(["chromium"]));
}

/** What a cluster is made of beside PostgreSQL. */
export async function ensureCluster() {
	const missing = Object.entries(CLUSTER).filter(([program]) => !works("which", [program]));
	if (missing.length)
		await step("Installing the parts of a cluster from Debian’s packages", () => installDebian([...new Set(missing.flatMap(([, packages]) => packages))]));
}
const CLUSTER = { etcd: ["etcd-server"], patroni: ["patroni", "python3-etcd", "python3-psycopg2"], pgbouncer: ["pgbouncer"], haproxy: ["haproxy"] };

/** What checks and stands in for systemd where that doesn’t run. */
export async function ensureSystemd() {
	if (!works("systemd-analyze", ["--version"])) await step("Installing systemd from Debian’s packages", () => installDebian(["systemd"]));
}

/** npm packages exactly as locked; nothing is done when they are in place. */
export async function ensureNpm() {
	const lock = createHash("sha256")
		.update(readFileSync(inRoot("package-lock.json")))
		.update(process.version)
		.digest("hex");
	const stamp = inRoot("node_modules", ".porch-lamp-lock");
	if (existsSync(stamp) && readFileSync(stamp, "utf8") === lock) return;
	await step("Installing npm packages", () => run("npm", ["ci", "--include=dev", "--no-audit", "--no-fund"]));
	writeFileSync(stamp, lock);
}
