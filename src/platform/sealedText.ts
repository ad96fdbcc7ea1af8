import { createCipheriv, createDecipheriv, createHmac, hkdfSync, randomBytes } from "node:crypto";
import { config } from "@/config/config";

/**
 * The key that secrets which can't be hashed are sealed with: of PORCH_LAMP_SECRET, or else of the database's own
 * password, which isn't in the database.
 */
function key(): Buffer {
	const secret = config().PORCH_LAMP_SECRET || new URL(config().DATABASE_URL ?? "postgres://x:x@x/x").password;
	return Buffer.from(hkdfSync("sha256", secret, "porch lamp", "sealed texts", 32));
}

/** A text that only this program can read again. */
export function seal(text: string): string {
	const iv = randomBytes(12);
	const cipher = createCipheriv("aes-256-gcm", key(), iv);
	const body = Buffer.concat([cipher.update(text, "utf8"), cipher.final()]);
	return Buffer.concat([iv, cipher.getAuthTag(), body]).toString("base64");
}

/** What `seal` was given; null where it was sealed with another key, or changed since. */
export function unseal(sealed: string): string | null {
	const bytes = Buffer.from(sealed, "base64");
	try {
		const decipher = createDecipheriv("aes-256-gcm", key(), bytes.subarray(0, 12));
		decipher.setAuthTag(bytes.subarray(12, 28));
		return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString("utf8");
	} catch {
		return null;
	}
}

/** Always the same for a text, and tells nobody else which: 32 bytes. */
export const pseudonym = (text: string): Buffer => createHmac("sha256", key()).update(text).digest();
