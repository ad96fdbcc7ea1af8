import { randomBytes } from "node:crypto";
import type { IncomingMessage, ServerResponse } from "node:http";
import { config } from "@/config/config";
import { SOURCE_HEADER } from "@/platform/http/source";
import { BUILD_HEADER } from "@/ui/frame/build";
import { build } from "./build";

/** What every answer carries. */
const HEADERS = {
	"x-content-type-options": "nosniff",
	"referrer-policy": "same-origin",
	"x-frame-options": "DENY",
	"permissions-policy": "camera=(), microphone=(), geolocation=()",
	"cross-origin-opener-policy": "same-origin",
} as const;

/**
 * Scripts only with this answer's nonce, styles from ourselves, nothing framed, nothing sent elsewhere. Style attributes
 * are allowed, since drawings and lists are placed by them.
 */
const policy = (nonce: string) =>
	[
		"default-src 'self'",
		`script-src 'self' 'nonce-${nonce}' 'strict-dynamic'`,
		`style-src 'self' 'nonce-${nonce}'`,
		"style-src-attr 'unsafe-inline'",
		"worker-src 'self'",
		"img-src 'self' data:",
		"font-src 'self'",
		"connect-src 'self'",
		"object-src 'none'",
		"base-uri 'none'",
		"form-action 'self'",
		"frame-ancestors 'none'",
	].join("; ");

/** What visitors' own headers may say only where a proxy that is named in the settings sends them. */
const FORWARDED = ["forwarded", "x-forwarded-for", "x-forwarded-host", "x-forwarded-proto", "x-forwarded-port", "x-real-ip"] as const;

const plainAddress = (address: string | undefined) => (address ?? "").replace(/^::ffff:/, "");
/** Addresses of proxies in front, as PORCH_LAMP_PROXY names them, parted by commas; none unless it is set. */
const proxies = () =>
	new Set(
		(config().PORCH_LAMP_PROXY ?? "")
			.split(",")
			.map((one) => plainAddress(one.trim()))
			.filter(Boolean),
	);

/**
 * Where a request comes from: the connection's own address, or where that is a named proxy's the last address before
 * it that isn't one. What anybody else writes into the forwarding headers is taken away.
 */
export function sourced(request: IncomingMessage): { source: string; secure: boolean } {
	const trusted = proxies();
	const peer = plainAddress(request.socket.remoteAddress);
	if (!trusted.has(peer)) {
		for (const name of FORWARDED) delete request.headers[name];
		return { source: peer, secure: false };
	}
	const chain = String(request.headers["x-forwarded-for"] ?? "")
		.split(",")
		.map((one) => plainAddress(one.trim()))
		.filter(Boolean);
	return { source: chain.findLast((address) => !trusted.has(address)) ?? peer, secure: request.headers["x-forwarded-proto"] === "https" };
}

/** Files of the build are the same for everybody; all else is for whoever asked alone. */
const PUBLIC = /^\/(_next\/static\/|icon\.svg|favicon)/;

/** Puts the security headers on an answer, and tells the rest of the program who asks and the nonce that scripts need. */
export function secured(request: IncomingMessage, response: ServerResponse): void {
	const { source, secure } = sourced(request);
	const nonce = randomBytes(16).toString("base64");
	const rules = policy(nonce);
	// The framework reads the nonce from here; what a visitor sends under these names counts for nothing.
	request.headers["content-security-policy"] = rules;
	request.headers["x-nonce"] = nonce;
	request.headers[SOURCE_HEADER] = source;
	request.headers[BUILD_HEADER] = build();
	if (request.headers.rsc) response.setHeader(BUILD_HEADER, build());
	response.setHeader("content-security-policy", rules);
	for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
	if (secure) response.setHeader("strict-transport-security", "max-age=31536000");
	if (!PUBLIC.test(request.url ?? "")) response.setHeader("cache-control", "private, no-store");
}
