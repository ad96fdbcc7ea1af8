import { desc, eq } from "drizzle-orm";
import type { Sql } from "../db";
import { audit } from "../schema";

/** The newest entry of the audit about an action; undefined where there is none. */
export async function newestEntry(db: Sql, action: string): Promise<typeof audit.$inferSelect | undefined> {
	const [entry] = await db.select().from(audit).where(eq(audit.action, action)).orderBy(desc(audit.id)).limit(1);
	return entry;
}
