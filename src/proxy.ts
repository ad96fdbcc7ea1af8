import { type NextRequest, NextResponse } from "next/server";

/**
 * Security headers for every page: scripts only with this answer's nonce, styles from ourselves, nothing
 * framed, nothing sent elsewhere. Style attributes are allowed, since drawings and lists are placed by them.
 */
export function proxy(request: NextRequest) {
	const nonce = btoa(String.fromCharCode(...crypto.getRandomValues(new Uint8Array(16))));
	const policy = [
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
	const headers = new Headers(request.headers);
	headers.set("x-nonce", nonce);
	headers.set("content-security-policy", policy);
	const response = NextResponse.next({ request: { headers } });
	response.headers.set("content-security-policy", policy);
	response.headers.set("x-content-type-options", "nosniff");
	response.headers.set("referrer-policy", "same-origin");
	response.headers.set("x-frame-options", "DENY");
	response.headers.set("permissions-policy", "camera=(), microphone=(), geolocation=()");
	response.headers.set("cross-origin-opener-policy", "same-origin");
	return response;
}

export const config = { matcher: ["/((?!_next/static|favicon.ico).*)"] };
