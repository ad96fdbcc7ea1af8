import { createServer, type IncomingMessage, type Server } from "node:http";
import { bodyOf, firstPart, same, show, toUs } from "./guard";
import { type Call, hooksPage } from "./pages";

/** Webhooks that came, the newest first; they are forgotten when this ends. */
const calls: Call[] = [];
const MOST_CALLS = 200;
const pickHeaders = (headers: IncomingMessage["headers"]) =>
	Object.entries(headers).flatMap(([name, value]) => (name.startsWith("porch-lamp-") ? [`${name}: ${String(value)}`] : []));

/**
 * Takes webhooks, to try them, on a port of its own: a person who may name the address of a webhook reaches nothing here but this.
 * What came is shown at `/<code>/`.
 */
export function receive(port: number, code: string): Server {
	const server = createServer((request, response) => {
		const work = async () => {
			if (!toUs(request, String(port))) return response.writeHead(404).end();
			if (request.url === "/hook" && request.method === "POST") {
				calls.unshift({ at: new Date().toISOString(), headers: pickHeaders(request.headers), body: (await bodyOf(request)).toString("utf8") });
				calls.length = Math.min(calls.length, MOST_CALLS);
				return response.writeHead(204).end();
			}
			if (request.method === "GET" && same(firstPart(request), code)) return show(response, 200, hooksPage(calls));
			response.writeHead(404).end();
		};
		work().catch(() => response.writeHead(413).end());
	});
	server.on("error", () => undefined);
	return server.listen(port, "127.0.0.1");
}
