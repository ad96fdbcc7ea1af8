import type { IncomingMessage, ServerResponse } from "node:http";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { isStreamed } from "@/platform/http/streamed";
import { log } from "@/platform/log";

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
	answer.headers.forEach((value, name) => void (name === "set-cookie" || response.setHeader(name, value)));
	// The one header that may come several times.
	const cookies = answer.headers.getSetCookie();
	if (cookies.length) response.setHeader("set-cookie", cookies);
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
	if (answer.body && isStreamed(answer)) {
		// What breaks off in the midst breaks the connection, so that nobody takes a part for the whole.
		await pipeline(Readable.fromWeb(answer.body as never), response).catch((error: unknown) => log.error({ error: String(error) }, "an answer broke off"));
		return;
	}
	const body = answer.body ? Buffer.from(await answer.arrayBuffer()) : null;
	if (body) response.setHeader("content-length", body.length);
	response.end(body);
}
