import { sql } from "drizzle-orm";
import { config } from "@/config/config";
import { type Connection, connect, connection, type Db } from "./db";
import { processSingleton } from "./processSingleton";

const holder = processSingleton("standby", (): { open: Connection | null; url: string } => ({ open: null, url: "" }));

/** Connections to a standby; few, since what is read there is long. */
const POOL = 3;

/** The connection to the standby that PORCH_LAMP_STANDBY names; null where none is named. */
export function standby(): Connection | null {
	const url = config().PORCH_LAMP_STANDBY ?? "";
	if (holder.url !== url) {
		void holder.open?.close().catch(() => undefined);
		Object.assign(holder, { open: url ? connect(url, POOL, false) : null, url });
	}
	return holder.open;
}

/**
 * Where something long is read that may be a moment old: a standby that has replayed a revision; the primary where no
 * standby is named, it can’t be reached, or it hasn’t come so far.
 */
export async function readingFrom(revision: number): Promise<Db> {
	const primary = connection().db;
	const beside = standby();
	if (!beside) return primary;
	const behind = await standbyBehind(revision);
	return behind?.behind === 0 ? beside.db : primary;
}

/** How many writes up to a revision the standby has not replayed yet, null where it can’t be reached; null as a whole where none is named. */
export async function standbyBehind(revision: number): Promise<{ readonly behind: number | null } | null> {
	const beside = standby();
	if (!beside) return null;
	try {
		const { rows } = await beside.db.execute(sql`select number from revision`);
		return { behind: Math.max(0, revision - Number(rows[0]?.number ?? -1)) };
	} catch {
		return { behind: null };
	}
}
