import { createHmac, timingSafeEqual } from "node:crypto";
import { config } from "@/config/config";

const key = () => config().PORCH_LAMP_SECRET || new URL(config().DATABASE_URL ?? "postgres://x:x@x/x").password;
const tag = (id: string) => createHmac("sha256", key()).update(`answer to ${id}`).digest("hex").slice(0, 24);
const HOST = () => config().PORCH_LAMP_MAIL_HOST || "porch-lamp.example";

/** Where answers to a mail go: it names the mail, and can't be made up. */
export const replyAddress = (id: string): string => `answer+${id}.${tag(id)}@${HOST()}`;

/** The id of the mail that an address is for; null for one that wasn't made here. */
export function answeredMail(address: string): string | null {
	const found = /^answer\+(mail-[\w-]{1,60})\.([0-9a-f]{24})@/i.exec(address.trim());
	const [, id = "", given = ""] = found ?? [];
	if (!found) return null;
	return timingSafeEqual(Buffer.from(tag(id)), Buffer.from(given.toLowerCase())) ? id : null;
}
