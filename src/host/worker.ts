import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import compression from "compression";
import next from "next";
import { directAnswer } from "@/app/server/direct";
import { problemResponse } from "@/platform/http/api";
import { log } from "@/platform/log";
import { secured } from "./headers";
import { requestOf, send } from "./web";

/** Answers on a port: what is plain data at once, pages by the framework. */
export async function serve(port: number): Promise<void> {
	const hostname = "127.0.0.1";
	const pages = next({ dev: false, dir: process.cwd(), hostname, port });
	await pages.prepare();
	const page = pages.getRequestHandler();
	const answer = async (request: IncomingMessage, response: ServerResponse) => {
		secured(request, response);
		if (!sound(request.url ?? "/"))
			return send(problemResponse(400, "Bad request", "This address can't be read: something in it isn't encoded as it should be."), response);
		const direct = await directAnswer(request.method ?? "GET", request.url ?? "/", () => requestOf(request));
		return direct ? send(direct, response) : page(request, response);
	};
	const server = createServer((request, response) => {
		packed(request, response, () => {
			answer(request, response).catch((error: unknown) => {
				log.error({ error: String(error), path: pathOf(request.url), stack: error instanceof Error ? error.stack : undefined }, "request failed");
				if (!response.headersSent) response.statusCode = 500;
				response.end();
			});
		});
	});
	server.listen(port, hostname);
	process.once("SIGTERM", () => {
		server.close(() => process.exit(0));
		server.closeIdleConnections();
		setTimeout(() => process.exit(0), 4000).unref();
	});
}

/** An address without its query, which may hold what is nobody's business. */
const pathOf = (url: string | undefined) => (url ?? "/").split("?", 1)[0];

/** Whether the path of an address can be decoded, and holds nothing that no name has. */
function sound(url: string): boolean {
	try {
		let path = pathOf(url) ?? "/";
		// What was encoded twice must be readable twice.
		for (let times = 0; times < 3 && path.includes("%"); times++) path = decodeURIComponent(path);
		return !path.includes("\0");
	} catch {
		return false;
	}
}

/** Packing pays where a wire is narrow: not for whoever is on this machine, a proxy in front included, which packs by itself. */
const compress = compression({ level: 4, threshold: 2048 });
function packed(request: IncomingMessage, response: ServerResponse, then: () => void): void {
	if (/^(::1|(::ffff:)?127\.)/.test(request.socket.remoteAddress ?? "")) then();
	else compress(request as never, response as never, then);
}
