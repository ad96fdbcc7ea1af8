import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import compression from "compression";
import next from "next";
import { directAnswer } from "@/app/server/direct";
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
		const direct = await directAnswer(request.method ?? "GET", request.url ?? "/", () => requestOf(request));
		return direct ? send(direct, response) : page(request, response);
	};
	const server = createServer((request, response) => {
		packed(request, response, () => {
			answer(request, response).catch((error: unknown) => {
				log.error({ error: String(error), path: request.url, stack: error instanceof Error ? error.stack : undefined }, "request failed");
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

/** Packing pays where a wire is narrow: not for whoever is on this machine, a proxy in front included, which packs by itself. */
const compress = compression({ level: 4, threshold: 2048 });
function packed(request: IncomingMessage, response: ServerResponse, then: () => void): void {
	if (/^(::1|(::ffff:)?127\.)/.test(request.socket.remoteAddress ?? "")) then();
	else compress(request as never, response as never, then);
}
