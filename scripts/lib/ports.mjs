import { createServer } from "node:net";

/** Whether a port on loopback can be taken. */
export function isFree(port) {
	return new Promise((resolve) => {
		const server = createServer();
		server.once("error", () => resolve(false));
		server.listen(port, "127.0.0.1", () => server.close(() => resolve(true)));
	});
}

/** The first free port from one on. */
export async function freeFrom(port) {
	for (let at = port; at < port + 200 && at < 65_536; at++) if (await isFree(at)) return at;
	throw new Error(`no free port from ${port} on`);
}
