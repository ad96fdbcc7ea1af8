import { spawn, spawnSync } from "node:child_process";
import { chmodSync, closeSync, openSync } from "node:fs";
import { join } from "node:path";
import { isRoot, userIds, works } from "./command.mjs";
import { root } from "./paths.mjs";

/** The server of a checkout, built before. */
const hostOf = (checkout) => join(checkout, ".next", "host.mjs");

/**
 * Starts the server of a checkout; what it logs is for the owner of the data alone. A `socket` that was handed over, by its
 * number here, is handed on: the server answers there once it is ready, and at its own port from its start.
 */
export function launch({ checkout, folder, socket, env }) {
	const log = openSync(join(folder, "server.log"), "a", 0o600);
	chmodSync(join(folder, "server.log"), 0o600);
	const [program, before, as] = withoutRoot(checkout);
	const server = spawn(program, [...before, hostOf(checkout)], {
		...as,
		cwd: checkout,
		stdio: ["ignore", log, log, ...(socket === null ? [] : [socket])],
		detached: true,
		env: { ...process.env, NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1", ...(socket === null ? {} : { PORCH_LAMP_LISTEN_FD: "3" }), ...env },
	});
	closeSync(log);
	return server;
}

/** The socket that systemd listens at for this process, by its number (sd_listen_fds(3)); null where there is none. */
export const handedSocket = () => (process.env.LISTEN_PID === String(process.pid) && process.env.LISTEN_FDS === "1" ? 3 : null);

/**
 * How the server is started: as root it gives root up. It runs as nobody where nobody may read the program, and
 * otherwise as root in name only, without any of root's powers.
 */
export function withoutRoot(checkout = root) {
	const asIs = [process.execPath, [], {}];
	if (!isRoot()) return asIs;
	const nobody = userIds("nobody");
	const readable = (file) => nobody && spawnSync("test", ["-r", file], nobody).status === 0;
	if ([hostOf(checkout), process.execPath, join(checkout, "node_modules", "next", "package.json")].every(readable)) return [process.execPath, [], nobody];
	if (works("setpriv", ["--version"])) return ["setpriv", ["--bounding-set=-all", "--inh-caps=-all", "--no-new-privs", process.execPath], {}];
	return asIs;
}

/** Waits until the server answers that it is well, however long that takes. */
export async function healthy(address, stopped) {
	while (!stopped()) {
		try {
			if ((await fetch(address, { signal: AbortSignal.timeout(10_000) })).ok) return;
		} catch {
			// not up yet
		}
		await new Promise((resolve) => setTimeout(resolve, 200));
	}
}
