import { createServer, IncomingMessage, ServerResponse } from "node:http";
import { type AddressInfo, Socket } from "node:net";
import { Readable } from "node:stream";
import { describe, expect, test } from "vitest";
import { secured } from "@/host/headers";
import { requestOf, send } from "@/host/web";
import { streamedAnswer } from "@/platform/http/streamed";

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

test("an answer may set several cookies", async () => {
	const { response } = pair("GET", "/");
	const headers = new Headers({ location: "/" });
	for (const one of ["a=1; Path=/", "b=2; Path=/x"]) headers.append("set-cookie", one);
	await send(new Response(null, { status: 302, headers }), response);
	expect(response.getHeader("set-cookie")).toEqual(["a=1; Path=/", "b=2; Path=/x"]);
});

describe("an answer that is sent while it is made", () => {
	const served = async (source: () => AsyncGenerator<Uint8Array>) => {
		const server = createServer(
			(_, response) => void send(streamedAnswer(Readable.toWeb(Readable.from(source())) as ReadableStream<Uint8Array>, {}), response),
		);
		await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
		const answer = await fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
		return { reader: answer.body?.getReader() as ReadableStreamDefaultReader<Uint8Array>, end: () => server.close() };
	};
	test("is there as far as it is made, before all of it is", async () => {
		let more = () => {};
		const asked = new Promise<void>((resolve) => {
			more = resolve;
		});
		const { reader, end } = await served(async function* () {
			yield Buffer.from("first");
			await asked;
			yield Buffer.from("rest");
		});
		expect(Buffer.from((await reader.read()).value ?? []).toString()).toBe("first");
		more();
		expect(Buffer.from((await reader.read()).value ?? []).toString()).toBe("rest");
		expect((await reader.read()).done).toBe(true);
		end();
	});
	test("that breaks off isn’t taken for the whole", async () => {
		const { reader, end } = await served(async function* () {
			yield Buffer.from("first");
			throw new Error("gone");
		});
		const all = async () => {
			for (;;) if ((await reader.read()).done) return "whole";
		};
		await expect(all()).rejects.toThrow();
		end();
	});
});
