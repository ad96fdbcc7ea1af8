import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { sourced } from "@/host/headers";
import { safePath } from "@/platform/http/safePath";

describe("where to go after signing in", () => {
	test("is a path of our own, with its query", () => {
		for (const path of ["/", "/deals", "/deals?due=any&whose=team%3ANorth", "/deals/a%20b#notes", "/setup?place=keys"]) expect(safePath(path)).toBe(path);
	});
	test("is the beginning where it might lead elsewhere", () => {
		for (const path of [
			"",
			"deals",
			"//host",
			"/\\host",
			"/%09/host/",
			"/\t/host",
			"/.//host/",
			"/..//host",
			"/%2F/host",
			"/%252F%252Fhost",
			"/%5Chost",
			"https://host",
			"/a//b",
			"/%",
			"/%00",
			"javascript:x",
		]) {
			expect([path, safePath(path)]).toEqual([path, "/"]);
		}
	});
	test("never names another host, whatever it is made of", () => {
		const part = fc.constantFrom("/", "\\", ".", "%", "2f", "%2f", "%5c", "%09", "\t", "\n", "host", "@", ":", "?", "#", "a");
		fc.assert(
			fc.property(fc.array(part, { maxLength: 12 }), (parts) => {
				const to = safePath(parts.join(""));
				expect(new URL(to, "http://ours.example").origin).toBe("http://ours.example");
				expect(to.startsWith("//")).toBe(false);
			}),
			{ numRuns: 5000 },
		);
	});
});

describe("where a request comes from", () => {
	const request = (remoteAddress: string, headers: Record<string, string>) => ({ socket: { remoteAddress }, headers }) as never;
	test("is the connection’s own address, whatever a visitor writes into the forwarding headers", () => {
		const headers: Record<string, string> = { "x-forwarded-for": "9.9.9.9", "x-forwarded-proto": "https", "x-forwarded-host": "evil.example" };
		expect(sourced(request("::ffff:10.0.0.7", headers))).toEqual({ source: "10.0.0.7", secure: false });
		expect(headers).toEqual({});
	});
	test("is told by a proxy that is named, and by no address before it", () => {
		process.env.PORCH_LAMP_PROXY = "127.0.0.1, 10.0.0.1";
		try {
			expect(sourced(request("127.0.0.1", { "x-forwarded-for": "6.6.6.6, 203.0.113.9, 10.0.0.1", "x-forwarded-proto": "https" }))).toEqual({
				source: "203.0.113.9",
				secure: true,
			});
			expect(sourced(request("203.0.113.9", { "x-forwarded-for": "6.6.6.6" })).source).toBe("203.0.113.9");
		} finally {
			delete process.env.PORCH_LAMP_PROXY;
		}
	});
});
