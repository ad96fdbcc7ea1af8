import { createHmac, timingSafeEqual } from "node:crypto";
import { config } from "@/config/config";
import type { dataFeeds } from "@/data/schema";

type Named = Pick<typeof dataFeeds.$inferSelect, "id" | "salt">;

const key = () => config().PORCH_LAMP_SECRET || new URL(config().DATABASE_URL ?? "postgres://x:x@x/x").password;
const tag = ({ id, salt }: Named) => createHmac("sha256", key()).update(`feed ${id} ${salt}`).digest("hex").slice(0, 24);
const HOST = () => config().PORCH_LAMP_MAIL_HOST || "porch-lamp.example";

/** Where mails for a feed go: it names the feed, and can’t be guessed. With another salt the old one no longer works. */
export const feedAddress = (feed: Named): string => `feed+${feed.id.replace(/^feed-/, "")}.${tag(feed)}@${HOST()}`;

/** The id of the feed that an address may be of; null for an address of another kind. Whether it is right is said by `isAddressOf`. */
export function feedIn(address: string): string | null {
	const [, id] = /^feed\+([\w-]{1,60})\.[0-9a-f]{24}@/i.exec(address.trim()) ?? [];
	return id ? `feed-${id}` : null;
}

/** Whether an address is that of a feed. */
export function isAddressOf(feed: Named, address: string): boolean {
	const [, given = ""] = /\.([0-9a-f]{24})@/i.exec(address.trim()) ?? [];
	const right = tag(feed);
	return given.length === right.length && timingSafeEqual(Buffer.from(right), Buffer.from(given.toLowerCase()));
}

/** Whether a sender is one of those a feed names: an address, or any of a host after an @. */
export function isSender(senders: readonly string[], from: string): boolean {
	const address = from.trim().toLowerCase();
	return senders.some((one) => (one.startsWith("@") ? address.endsWith(one) : address === one));
}
