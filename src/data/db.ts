import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import pg from "pg";
import { config } from "@/config/config";
import { processSingleton } from "./processSingleton";
import { awaySince, DatabaseAway } from "./reach";
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

type Told = (error: Error | undefined, client?: pg.PoolClient, done?: (release?: unknown) => void) => void;

/** Has a pool refuse at once while the database is known to be away, and take back connections that broke. */
function guard(pool: pg.Pool): void {
	const ask = pool.connect.bind(pool) as { (): Promise<pg.PoolClient>; (told: Told): void };
	pool.connect = ((told?: Told) => {
		if (awaySince() !== null) {
			const away = new DatabaseAway();
			return told ? told(away, undefined, () => undefined) : Promise.reject(away);
		}
		return told ? ask(told) : ask().then(returning);
	}) as typeof pool.connect;
}

/** Time for a connection to be given back by its holder, in ms. */
const GIVEN_BACK = 1000;

/** A transaction whose very first statement fails never gives its connection back: one that has ended goes back by itself. */
function returning(client: pg.PoolClient): pg.PoolClient {
	const release = client.release.bind(client);
	let out = true;
	const giveBack = (broken?: Error | boolean) => {
		if (!out) return;
		out = false;
		client.off("end", ended);
		release(broken);
	};
	const ended = () => void setTimeout(giveBack, GIVEN_BACK, true).unref();
	client.once("end", ended);
	client.release = giveBack;
	return client;
}

/** Opens a pool. An idle connection that the server drops is replaced at the next query. One that is `guarded` is of the database that everything is written to. */
export function connect(url: string, max = config().PORCH_LAMP_POOL ?? POOL, guarded = true): Connection {
	const pool = new pg.Pool({ connectionString: url, max, connectionTimeoutMillis: 10_000 });
	pool.on("error", () => undefined);
	if (guarded) guard(pool);
	// One that is dropped while it is in use says so at its next query; unheard it would end the process.
	pool.on("connect", (client) => client.on("error", () => undefined));
	return { db: drizzle(pool, { schema }), pool, close: () => pool.end() };
}

/** Where what listens, locks or is long reaches the database: not through a pool in front that gives each transaction another connection. */
export const directUrl = (): string => config().PORCH_LAMP_DIRECT ?? config().DATABASE_URL ?? "";

/** Where it is looked whether the database can be reached: past a pool in front first, then where this process’s own pool reaches it. */
export const waysToDatabase = (): readonly string[] => [...new Set([directUrl(), config().DATABASE_URL ?? ""])];

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
