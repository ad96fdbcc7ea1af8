import { IncomingMessage, ServerResponse } from "node:http";
import { Socket } from "node:net";
import { describe, expect, test } from "vitest";
import { secured } from "@/host/headers";
import { requestOf, send } from "@/host/web";

function pair(method: string, url: string, headers: Record<string, string> = {}, body = "") {
	const request = new IncomingMessage(new Socket());
	Object.assign(request, { method, url, headers: { host: "lamp.example", ...headers } });
	if (body) request.push(body);
	request.push(null);
	return { request, response: new ServerResponse(request) };
}

describe("what every answer carries", () => {
	const policyOf = () => {
		const { request, response } = pair("GET", "/", { "x-nonce": "the visitor’s own", "content-security-policy": "script-src *" });
		secured(request, response);
		return { request, policy: String(response.getHeader("content-security-policy")), response };
	};
	test("scripts run by this answer’s nonce alone, which the framework is told, whatever the visitor sends", () => {
		const { request, policy, response } = policyOf();
		const nonce = /'nonce-([^']+)'/.exec(policy)?.[1];
		expect(request.headers["x-nonce"]).toBe(nonce);
		expect(request.headers["content-security-policy"]).toBe(policy);
		expect(policy).toContain("object-src 'none'");
		expect(policy).toContain("frame-ancestors 'none'");
		expect(policy).not.toContain("script-src *");
		expect(response.getHeader("x-content-type-options")).toBe("nosniff");
		expect(response.getHeader("x-frame-options")).toBe("DENY");
	});
	test("no two answers share a nonce", () => {
		expect(new Set(Array.from({ length: 20 }, () => policyOf().policy)).size).toBe(20);
	});
});

describe("a request of Node’s server, as the standard has it", () => {
	test("keeps address, method, headers and body", async () => {
		const { request } = pair("PATCH", "/api/v1/deals/d1?as_of=2026-11-24", { "if-match": '"7"', cookie: "a=1; b=2" }, '{"nextStep":"Call"}');
		const made = requestOf(request);
		expect([made.method, new URL(made.url).pathname, new URL(made.url).searchParams.get("as_of")]).toEqual(["PATCH", "/api/v1/deals/d1", "2026-11-24"]);
		expect([made.headers.get("if-match"), made.headers.get("cookie")]).toEqual(['"7"', "a=1; b=2"]);
		expect(await made.json()).toEqual({ nextStep: "Call" });
	});
	test("has no body where the method has none", () => expect(requestOf(pair("GET", "/healthz").request).body).toBeNull());
	test("is answered with status, headers and the bytes’ length", async () => {
		const { response } = pair("GET", "/");
		const written: unknown[] = [];
		response.end = ((chunk: unknown) => written.push(chunk)) as never;
		await send(Response.json({ ok: "lämp" }, { status: 201, headers: { "cache-control": "no-store" } }), response);
		expect([response.statusCode, response.getHeader("cache-control"), response.getHeader("content-length")]).toEqual([201, "no-store", 14]);
		expect(String(written[0])).toBe('{"ok":"lämp"}');
	});
});
