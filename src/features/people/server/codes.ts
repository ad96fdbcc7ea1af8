import { Secret, TOTP } from "otpauth";
import { seal, unseal } from "@/platform/sealedText";

const STEP = 30;
/** codes of the step before and after are taken too: clocks differ */
const WINDOW = 1;

const generator = (secret: Secret, email: string) => new TOTP({ issuer: "Porch Lamp", label: email, algorithm: "SHA1", digits: 6, period: STEP, secret });

/** A new secret of one-time codes (RFC 6238), sealed, with what an authenticator is told: the text and the address of it. */
export function newCodeSecret(email: string): { sealed: string; text: string; address: string } {
	const secret = new Secret({ size: 20 });
	return { sealed: seal(secret.base32), text: secret.base32.replace(/(.{4})/g, "$1 ").trim(), address: generator(secret, email).toString() };
}

/** The step of a code that is right now and later than the last that was used; null for any other. */
export function codeStep(sealed: string, code: string, last: number | null, now = Date.now()): number | null {
	const secret = unseal(sealed);
	if (secret === null) return null;
	const delta = generator(Secret.fromBase32(secret), "").validate({ token: code.replace(/\s/g, ""), window: WINDOW, timestamp: now });
	if (delta === null) return null;
	const step = Math.floor(now / 1000 / STEP) + delta;
	return last !== null && step <= last ? null : step;
}
