import { isIP } from "node:net";
import { address } from "@/platform/address";
import { seal, unseal } from "@/platform/sealedText";

/** What a passkey is tied to: the name of this program’s host, and the address its pages come from. */
export interface Party {
	readonly id: string;
	readonly origin: string;
}

/**
 * Whom passkeys are made for; null where there can’t be any, since they are tied to a name (Web Authentication, 5.1.2) and the
 * program’s address is numbers. On this machine alone the name is localhost.
 */
export function party(): Party | null {
	const url = new URL(address());
	const host = url.hostname.replace(/^\[|\]$/g, "");
	if (!isIP(host)) return { id: host, origin: url.origin };
	if (!host.startsWith("127.") && host !== "::1") return null;
	url.hostname = "localhost";
	return { id: "localhost", origin: url.origin };
}

/** ms that somebody has to show their finger or face */
const CHALLENGE_MS = 300_000;

/** What a device is to sign, sealed until it comes back: for whom, and for nothing else than `what`. */
export const sealChallenge = (what: "add" | "sign in", challenge: string, personId: string | null): string =>
	seal(JSON.stringify(["passkey", what, challenge, personId, Date.now()]));

/** The challenge that was sealed; null for one that is late, another’s, or was made for something else. */
export function challengeIn(sealed: string, what: "add" | "sign in", personId: string | null, now = Date.now()): string | null {
	const text = unseal(sealed);
	if (text === null || !text.startsWith('["passkey"')) return null;
	const [, made, challenge, whose, at] = JSON.parse(text) as [string, string, string, string | null, number];
	return made === what && whose === personId && at > now - CHALLENGE_MS ? challenge : null;
}
