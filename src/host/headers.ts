import { randomBytes } from "node:crypto";
import type { IncomingMessage, ServerResponse } from "node:http";

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

/** Puts the security headers on an answer, and tells the framework the nonce that its scripts need. */
export function secured(request: IncomingMessage, response: ServerResponse): void {
	const nonce = randomBytes(16).toString("base64");
	const rules = policy(nonce);
	// The framework reads the nonce from here; what a visitor sends under these names counts for nothing.
	request.headers["content-security-policy"] = rules;
	request.headers["x-nonce"] = nonce;
	response.setHeader("content-security-policy", rules);
	for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
}
