import { z } from "zod";
import type { Context } from "../context";
import { databaseFault } from "../databaseFault";
import { Fault } from "../fault";
import { assertStorable } from "../input";
import { log } from "../log";
import { keyContext, SESSION_COOKIE, sessionContext } from "../sessions";

/** An answer of RFC 9457. */
export function problemResponse(status: number, title: string, detail: string, more: Readonly<Record<string, unknown>> = {}): Response {
	return Response.json({ type: "about:blank", title, status, detail, ...more }, { status, headers: { "content-type": "application/problem+json" } });
}

/** A fault as problem+json (RFC 9457); anything else is a 500 that says nothing of the inside. */
export function faultResponse(thrown: unknown): Response {
	const error = databaseFault(thrown);
	if (error instanceof Fault) return problemResponse(error.status, error.title, error.detail, error.more);
	if (error instanceof z.ZodError) {
		const errors = error.issues.map((issue) => ({ pointer: issue.path.join("."), detail: issue.message }));
		return problemResponse(400, "Bad request", errors.map((e) => (e.pointer ? `${e.pointer}: ${e.detail}` : e.detail)).join(" "), { errors });
	}
	log.error({ error: String(error), stack: error instanceof Error ? error.stack : undefined }, "request failed");
	return problemResponse(500, "Server error", "Something went wrong on the server. Nothing was changed. Try again.");
}

/** A write with a cookie must come from our own pages: another site's form or script is refused. */
export function demandOwnOrigin(request: Pick<Request, "headers">): void {
	const origin = request.headers.get("origin");
	const host = request.headers.get("x-forwarded-host") ?? request.headers.get("host");
	const site = request.headers.get("sec-fetch-site");
	const foreign = origin !== null ? hostOf(origin) !== host : site !== null && site !== "same-origin" && site !== "none";
	if (foreign || (origin === null && site === null)) throw new Fault(403, "Not allowed", "This request didn’t come from Porch Lamp’s own pages.");
}

/** The host that an Origin names; null for one that names none, such as `null`. */
function hostOf(origin: string): string | null {
	try {
		return new URL(origin).host;
	} catch {
		return null;
	}
}

/** Who calls: by key, or by the session's cookie. Throws 401. */
export async function callerOf(request: Request): Promise<Context> {
	const bearer = /^Bearer\s+(\S+)$/i.exec(request.headers.get("authorization") ?? "")?.[1];
	if (bearer) {
		const context = await keyContext(bearer);
		if (context) return context;
		throw new Fault(401, "Not signed in", "This key is unknown or was revoked.");
	}
	const token = cookieOf(request, SESSION_COOKIE);
	const context = token ? await sessionContext(token) : null;
	if (!context) throw new Fault(401, "Not signed in", "Send a key in the header Authorization: Bearer …, or sign in.");
	if (request.method !== "GET" && request.method !== "HEAD") demandOwnOrigin(request);
	return context;
}

/** A cookie that a request carries. */
export function cookieOf(request: Request, name: string): string | undefined {
	for (const part of (request.headers.get("cookie") ?? "").split(";")) {
		const [key, value] = part.trim().split("=", 2);
		if (key === name) return value;
	}
	return undefined;
}

/** A page of a list: the items after the cursor, and the cursor of the next page. The cursor is the last item's id. No more is asked of the list than a page takes. */
export function page<T extends { id: string }>(items: Iterable<T>, cursor: string | undefined, limit: number): { items: T[]; next: string | null } {
	const after = cursor === undefined ? null : Buffer.from(cursor, "base64url").toString("utf8");
	let begun = after === null;
	const shown: T[] = [];
	for (const item of items) {
		const last = shown.at(-1);
		if (last && shown.length >= limit) return { items: shown, next: Buffer.from(last.id).toString("base64url") };
		if (begun) shown.push(item);
		else begun = item.id === after;
	}
	if (!begun) throw new Fault(400, "Bad request", "This cursor is no longer valid: the list has changed. Start again without it.");
	return { items: shown, next: null };
}

/** Reads a JSON body; a 400 says what is wrong with it. */
export async function jsonBody(request: Request): Promise<unknown> {
	let body: unknown;
	try {
		body = await request.json();
	} catch {
		throw new Fault(400, "Bad request", "The body isn’t JSON.");
	}
	assertStorable(body);
	return body;
}
