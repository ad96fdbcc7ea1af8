import { createHash, timingSafeEqual } from "node:crypto";
import type { IncomingMessage, ServerResponse } from "node:http";

const digest = (text: string) => createHash("sha256").update(text).digest();
/** Whether two secrets are the same, in a time that tells nothing of them. */
export const same = (one: string, other: string): boolean => timingSafeEqual(digest(one), digest(other));

const names = (port: string) => [`127.0.0.1:${port}`, `localhost:${port}`];

/** Whether a request names this server: a page of another site, whose name was made to lead here, doesn't. */
export const toUs = (request: IncomingMessage, port: string): boolean => names(port).includes(request.headers.host ?? "");

/** Whether a page of this server's own sent it. */
export const fromOwnPage = (request: IncomingMessage, port: string): boolean =>
	names(port).some((name) => request.headers.origin === `http://${name}`) && (request.headers["sec-fetch-site"] ?? "same-origin") === "same-origin";

/** The first part of the path: the code by which a reader is known. */
export const firstPart = (request: IncomingMessage): string => /^\/([^/?]*)/.exec(request.url ?? "")?.[1] ?? "";

/** Answers with a page that may run nothing, load nothing and be kept nowhere. */
export function show(response: ServerResponse, status: number, html: string): void {
	response.writeHead(status, {
		"content-type": "text/html; charset=utf-8",
		"content-security-policy": "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-src 'self'; frame-ancestors 'self'",
		// The address carries the code.
		"referrer-policy": "same-origin",
		"cache-control": "no-store",
	});
	response.end(html);
}

const MOST_BODY = 1_000_000;
/** @throws Error where it is too large */
export async function bodyOf(request: IncomingMessage, most = MOST_BODY): Promise<Buffer> {
	const parts: Buffer[] = [];
	let size = 0;
	for await (const part of request) {
		size += (part as Buffer).length;
		if (size > most) throw new Error("too large");
		parts.push(part as Buffer);
	}
	return Buffer.concat(parts);
}
