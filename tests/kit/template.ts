import { drizzle } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import pg from "pg";

/** Makes one database with all tables, of which each test file's own is a copy: migrating it anew takes many times as long. */
export default async function setup(): Promise<(() => Promise<void>) | undefined> {
	const server = process.env.TEST_DATABASE_URL;
	if (!server || process.env.TEST_TEMPLATE) return undefined;
	const name = `template_${process.pid}`;
	const admin = new pg.Client({ connectionString: process.env.TEST_KEEPER_URL ?? server });
	await admin.connect();
	await admin.query(`drop database if exists ${name} with (force)`);
	await admin.query(`create database ${name} owner ${new URL(server).username}`);
	const url = new URL(server);
	url.pathname = `/${name}`;
	const pool = new pg.Pool({ connectionString: url.href, max: 1 });
	await migrate(drizzle(pool), { migrationsFolder: "src/data/migrations" });
	await pool.end();
	process.env.TEST_TEMPLATE = name;
	return async () => {
		await admin.query(`drop database if exists ${name} with (force)`);
		await admin.end();
	};
}
