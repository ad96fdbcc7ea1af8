import { createHash } from "node:crypto";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import pg from "pg";
import { connection } from "@/data/db";
import { audit, imports, people } from "@/data/schema";
import { recordChange } from "@/data/store/changeLog";
import { type ImportJson, type ImportOptions, runImport } from "@/features/import/server/importBundle";
import { hashPassword } from "@/features/people/server/signIn";
import { detailWords } from "@/features/setup/server/auditWords";
import type { RawFiles } from "@/formats/bundle/model";
import { type Context, contextFor } from "@/platform/context";
import { day } from "./company";
import { freshProcess } from "./freshProcess";

const server = process.env.TEST_DATABASE_URL ?? "";
/** the owner of all databases: the application's own user may make none */
const keeper = process.env.TEST_KEEPER_URL ?? server;
export const PASSWORD = "a lamp on the porch";

/** A database of the test's own, empty but for its tables; taken away by the answer's `drop`. */
export async function freshDatabase(name: string): Promise<{ url: string; drop: () => Promise<void> }> {
	if (!server) throw new Error("TEST_DATABASE_URL isn’t set: run the tests with npm test");
	await freshProcess();
	const database = `test_${name}_${process.pid}`;
	const admin = new pg.Client({ connectionString: keeper });
	await admin.connect();
	await admin.query(`drop database if exists ${database} with (force)`);
	const template = process.env.TEST_TEMPLATE;
	await admin.query(`create database ${database} ${template ? `template ${template}` : ""} owner ${new URL(server).username}`);
	const url = new URL(server);
	url.pathname = `/${database}`;
	process.env.DATABASE_URL = url.href;
	if (!template) await migrate(connection().db, { migrationsFolder: "src/data/migrations" });
	return {
		url: url.href,
		async drop() {
			await demandTelling();
			await connection().close();
			await owner?.client.end();
			owner = null;
			await admin.query(`drop database ${database} with (force)`);
			await admin.end();
		},
	};
}

/** Whatever a test wrote: every entry of the audit says in words what was done, from what to what, with what. */
async function demandTelling(): Promise<void> {
	const entries = await connection().db.select({ action: audit.action, detail: audit.detail }).from(audit);
	const silent = entries.filter(
		({ detail }) =>
			!detailWords(detail, () => null)
				.replace(/\w+ one that was deleted/g, "")
				.trim(),
	);
	if (silent.length) throw new Error(`the audit says nothing of: ${[...new Set(silent.map(({ action }) => action))].join(", ")}`);
}

let count = 0;

/** Imports a bundle as the program does, and gives its report. */
export async function importAs(source: RawFiles | Uint8Array, options: Partial<ImportOptions> = {}): Promise<ImportJson> {
	const id = `import-${process.pid}-${++count}`;
	await connection().db.insert(imports).values({ id, name: "test.zip", state: "reading" });
	return runImport(id, source, { dryRun: false, skipBad: false, name: "test.zip", ...options });
}

/** Everyone of the bundle may sign in with PASSWORD. */
export async function givePasswords(): Promise<void> {
	await connection()
		.db.update(people)
		.set({ passwordHash: await hashPassword(PASSWORD) });
}

export async function as(personId: string, on?: string): Promise<Context> {
	const context = await contextFor(personId);
	if (!context) throw new Error(`nobody is called ${personId}`);
	if (on === undefined) return context;
	const { zone } = context.organisation.company.rules;
	return { ...context, now: { ...context.now, day: day(on), instant: zone.instantAt(day(on), 10 * 3_600_000) } };
}

/** A way in for the owner, who may leave references unchecked: kept open while a file's tests run. */
let owner: { readonly client: pg.Client; readonly tables: readonly string[]; readonly url: string } | null = null;
async function ownerOf(database: string) {
	if (owner?.url === database) return owner;
	await owner?.client.end();
	const url = new URL(keeper);
	url.pathname = new URL(database).pathname;
	const client = new pg.Client({ connectionString: url.href });
	await client.connect();
	const { rows } = await client.query("select tablename from pg_tables where schemaname = 'public' and tablename <> 'revision'");
	owner = { client, tables: rows.map((row) => row.tablename as string), url: database };
	filled = null;
	return owner;
}

/** What the tables were filled with last by `refill`, and which of them have rows: a copy of these is kept beside them. */
let filled: { readonly of: string; readonly tables: readonly string[] } | null = null;

/** Deletes all rows and puts back those that are kept, without the order that references would ask for: that takes a hundredth of truncating and importing. */
async function putBack(tables: readonly string[]): Promise<void> {
	const { client, tables: all } = await ownerOf(process.env.DATABASE_URL ?? server);
	const statements = [...all.map((name) => `delete from "${name}"`), ...tables.map((name) => `insert into "${name}" select * from kept."${name}"`)];
	await client.query(`begin; set local session_replication_role = replica; ${statements.join("; ")}; commit`);
}

/** Keeps a copy of every table that has rows. */
async function keepCopy(of: string): Promise<void> {
	const { client, tables: all } = await ownerOf(process.env.DATABASE_URL ?? server);
	await client.query("drop schema if exists kept cascade; create schema kept");
	const tables: string[] = [];
	for (const name of all) {
		const { rowCount } = await client.query(`create unlogged table kept."${name}" as table "${name}"`);
		if (rowCount) tables.push(name);
	}
	filled = { of, tables };
}

const digest = (source: RawFiles): string => {
	const hash = createHash("sha256");
	for (const [name, bytes] of source) hash.update(name).update(bytes);
	return hash.digest("hex");
};

/** Empties every table but the revision, which only ever grows, and fills them by a bundle: a fresh start without a new database. */
export async function refill(source: RawFiles): Promise<void> {
	const of = digest(source);
	await ownerOf(process.env.DATABASE_URL ?? server);
	const known = filled?.of === of ? filled : null;
	await putBack(known?.tables ?? []);
	await connection().db.transaction((tx) => recordChange(tx, "everything"));
	if (known) return;
	const report = await importAs(source);
	if (report.state !== "done") throw new Error(`the bundle was refused: ${JSON.stringify(report.problems)}`);
	await keepCopy(of);
}
