import { createHash } from "node:crypto";
import type { closes } from "@/data/schema";

/** What is sealed of a close: all that it says, and when, by whom and why. */
export type Sealed = Pick<typeof closes.$inferSelect, "whose" | "start" | "end" | "correction" | "at" | "byId" | "why" | "account" | "newest">;

/** JSON whose fields stand in the order of their names: what a database keeps in another order reads the same. */
function canonical(value: unknown): string {
	if (Array.isArray(value)) return `[${value.map(canonical).join(",")}]`;
	if (typeof value !== "object" || value === null) return JSON.stringify(value ?? null);
	const fields = Object.entries(value)
		.filter(([, one]) => one !== undefined)
		.sort(([a], [b]) => (a < b ? -1 : 1));
	return `{${fields.map(([name, one]) => `${JSON.stringify(name)}:${canonical(one)}`).join(",")}}`;
}

/** The seal of a close: SHA-256 in hexadecimal. */
export function sealOf({ whose, start, end, correction, at, byId, why, account, newest }: Sealed): string {
	return createHash("sha256")
		.update(canonical([whose, start, end, correction, at.toISOString(), byId, why, account, newest]))
		.digest("hex");
}
