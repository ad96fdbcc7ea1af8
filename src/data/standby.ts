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
	try {
		const { rows } = await beside.db.execute(sql`select number from revision`);
		return Number(rows[0]?.number ?? -1) >= revision ? beside.db : primary;
	} catch {
		return primary;
	}
}
