import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import pg from "pg";
import { config } from "@/config/config";
import { processSingleton } from "./processSingleton";
import * as schema from "./schema";

export type Db = NodePgDatabase<typeof schema>;
export type Tx = Parameters<Parameters<Db["transaction"]>[0]>[0];
/** A database or a transaction in it. */
export type Sql = Db | Tx;

export interface Connection {
	readonly db: Db;
	readonly pool: pg.Pool;
	close(): Promise<void>;
}

/** connections of each process, unless PORCH_LAMP_POOL says otherwise */
const POOL = 10;

/** Opens a pool. An idle connection that the server drops is replaced at the next query. */
export function connect(url: string, max = config().PORCH_LAMP_POOL ?? POOL): Connection {
	const pool = new pg.Pool({ connectionString: url, max, connectionTimeoutMillis: 10_000 });
	pool.on("error", () => undefined);
	// One that is dropped while it is in use says so at its next query; unheard it would end the process.
	pool.on("connect", (client) => client.on("error", () => undefined));
	return { db: drizzle(pool, { schema }), pool, close: () => pool.end() };
}

const holder = processSingleton("connection", (): { open: Connection | null } => ({ open: null }));

/** The connection of this process, from DATABASE_URL. Throws when it isn't set. */
export function connection(): Connection {
	if (!holder.open) {
		const url = config().DATABASE_URL;
		if (!url) throw new Error("DATABASE_URL isn’t set: start the program with npm start");
		holder.open = connect(url);
	}
	return holder.open;
}
