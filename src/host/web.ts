import type { IncomingMessage, ServerResponse } from "node:http";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";

/** The headers of a request of Node's server as the web's standard has them. */
export function headersOf(request: IncomingMessage): Headers {
	const headers = new Headers();
	for (const [name, value] of Object.entries(request.headers)) {
		if (typeof value === "string") headers.set(name, value);
		else for (const one of value ?? []) headers.append(name, one);
	}
	return headers;
}

/** A request of Node's server as the web's standard has it. */
export function requestOf(request: IncomingMessage): Request {
	const headers = headersOf(request);
	const url = `http://${request.headers.host ?? "localhost"}${request.url ?? "/"}`;
	const method = request.method ?? "GET";
	if (method === "GET" || method === "HEAD") return new Request(url, { method, headers });
	return new Request(url, { method, headers, body: Readable.toWeb(request) as ReadableStream<Uint8Array>, duplex: "half" } as RequestInit);
}

/** Sends a standard answer by Node's server. */
export async function send(answer: Response, response: ServerResponse, headOnly = false): Promise<void> {
	response.statusCode = answer.status;
	answer.headers.forEach((value, name) => void response.setHeader(name, value));
	if (headOnly) {
		await answer.body?.cancel();
		response.end();
		return;
	}
	// What goes on is sent as it comes, and ends when nobody listens any more.
	if (answer.body && answer.headers.get("content-type") === "text/event-stream") {
		response.flushHeaders();
		await pipeline(Readable.fromWeb(answer.body as never), response).catch(() => undefined);
		return;
	}
	const body = answer.body ? Buffer.from(await answer.arrayBuffer()) : null;
	if (body) response.setHeader("content-length", body.length);
	response.end(body);
}
