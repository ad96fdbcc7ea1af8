import { spawn } from "node:child_process";
import { mkdir, readdir, readFile, rename, rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import pg from "pg";
import type { Sql } from "../db";
import { keepContent, readContent, sumOf } from "./contents";

/** What a backup holds, so that what is restored can be held against it: rows and a sum over all they say, by table. */
export interface BackupSeal {
	readonly made: string;
	readonly revision: number;
	readonly tables: Readonly<Record<string, { readonly rows: number; readonly sum: string }>>;
}

/** The queue makes itself anew, and what was asked once is forgotten after days. */
const LEFT_OUT = ["pgboss"];
const sealFile = (file: string) => `${file}.seal.json`;

/** The seal of a database as a connection sees it. */
export async function sealOf(client: Pick<pg.ClientBase, "query">): Promise<BackupSeal> {
	await client.query("set local timezone = 'UTC'");
	const { rows: names } = await client.query(
		"select table_schema, table_name from information_schema.tables where table_type = 'BASE TABLE' and table_schema not in ('pg_catalog', 'information_schema') and table_schema <> all($1) order by 1, 2",
		[LEFT_OUT],
	);
	const tables: Record<string, { rows: number; sum: string }> = {};
	for (const { table_schema: schema, table_name: name } of names as { table_schema: string; table_name: string }[]) {
		const table = `${pg.escapeIdentifier(schema)}.${pg.escapeIdentifier(name)}`;
		// A sum doesn't ask in which order the rows lie, and takes no memory.
		const { rows } = await client.query(
			`select count(*)::int as rows, coalesce(sum(('x' || substr(md5(t::text), 1, 15))::bit(60)::bigint), 0)::text as sum from ${table} t`,
		);
		tables[`${schema}.${name}`] = rows[0] as { rows: number; sum: string };
	}
	const { rows } = await client.query("select coalesce(max(number), 0)::int as number from public.revision");
	return { made: new Date().toISOString(), revision: rows[0].number, tables };
}

function run(program: string, args: readonly string[], password: string): Promise<void> {
	return new Promise((resolve, reject) => {
		const child = spawn(program, args, { stdio: ["ignore", "ignore", "pipe"], env: { ...process.env, PGPASSWORD: password } });
		let said = "";
		child.stderr.on("data", (chunk) => {
			said = (said + chunk).slice(-4000);
		});
		child.on("error", reject);
		child.on("exit", (code) => (code === 0 ? resolve() : reject(new Error(`${program} ended with ${code}: ${said.trim()}`))));
	});
}

const connectionOf = (url: string) => {
	const { hostname, port, username, pathname, password } = new URL(url);
	return { args: ["-h", hostname, "-p", port || "5432", "-U", decodeURIComponent(username), "-d", pathname.slice(1)], password: decodeURIComponent(password) };
};

/**
 * Writes all of a database into a file, as it is at one moment, while others go on writing; and its seal beside it. `bin`
 * is the folder of PostgreSQL's programs. The file appears when it is whole, and when what has to lie beside it does.
 */
export async function backup(url: string, file: string, bin: string, beside: () => Promise<unknown> = async () => undefined): Promise<BackupSeal> {
	const client = new pg.Client({ connectionString: url });
	// Lost in the midst it says so at its next query; unheard it would end the process.
	client.on("error", () => undefined);
	await client.connect();
	try {
		await client.query("begin isolation level repeatable read, read only");
		const { rows } = await client.query("select pg_export_snapshot() as snapshot");
		const seal = await sealOf(client);
		const { args, password } = connectionOf(url);
		// Everything the company knows: made for its owner's eyes before anything is in it.
		await rm(`${file}.part`, { force: true });
		await writeFile(`${file}.part`, "", { mode: 0o600, flag: "wx" });
		const without = LEFT_OUT.map((schema) => `--exclude-schema=${schema}`);
		await run(
			join(bin, "pg_dump"),
			["--format=custom", "--no-owner", "--no-privileges", `--snapshot=${rows[0].snapshot}`, ...without, `--file=${file}.part`, ...args],
			password,
		);
		await beside();
		await writeFile(`${sealFile(file)}.part`, `${JSON.stringify(seal, null, "\t")}\n`, { mode: 0o600 });
		await rename(`${sealFile(file)}.part`, sealFile(file));
		await rename(`${file}.part`, file);
		return seal;
	} finally {
		for (const left of [file, sealFile(file)]) await rm(`${left}.part`, { force: true });
		await client.end();
	}
}

/** The folder beside a backup that holds what files hold, where a folder of their own is set for that. */
export const contentsBeside = (file: string) => `${file}.files`;

/**
 * Copies what files hold from the folder set for it beside a backup. What lies in the database is in the backup itself.
 *
 * @returns how many there are
 */
export async function backUpContents(db: Sql, file: string): Promise<number> {
	const { rows } = await db.execute(sql`select distinct sha256 from attachments where sha256 is not null and sha256 not in (select sha256 from file_contents)`);
	const sums = rows.map(({ sha256 }) => String(sha256));
	const part = `${contentsBeside(file)}.part`;
	await rm(part, { recursive: true, force: true });
	const missing: string[] = [];
	try {
		if (sums.length) await mkdir(part, { mode: 0o700 });
		for (const sum of sums) {
			const bytes = await readContent(db, sum);
			if (bytes) await writeFile(join(part, sum), bytes, { mode: 0o600 });
			else missing.push(sum);
		}
		if (!missing.length) {
			await rm(contentsBeside(file), { recursive: true, force: true });
			if (sums.length) await rename(part, contentsBeside(file));
		}
	} finally {
		await rm(part, { recursive: true, force: true });
	}
	if (missing.length) throw new Error(`What ${missing.length} files hold is missing: ${missing.slice(0, 3).join(", ")}. PORCH_LAMP_FILES says where it lies.`);
	return sums.length;
}

/** Puts back what lies beside a backup: into the folder that is set, else into the database. Gives how many. */
export async function restoreContents(db: Sql, file: string): Promise<number> {
	const names = await readdir(contentsBeside(file)).catch(() => []);
	for (const name of names) {
		const bytes = await readFile(join(contentsBeside(file), name));
		if (sumOf(bytes) !== name) throw new Error(`${join(contentsBeside(file), name)} isn’t what its name says: it has been changed or is damaged.`);
		await keepContent(db, bytes);
	}
	return names.length;
}

/** Where what was restored isn't what the backup held. */
export function differences(held: BackupSeal, found: BackupSeal): string[] {
	const names = new Set([...Object.keys(held.tables), ...Object.keys(found.tables)]);
	return [...names].flatMap((name) => {
		const [a, b] = [held.tables[name], found.tables[name]];
		return a?.rows === b?.rows && a?.sum === b?.sum
			? []
			: [`${name}: ${a?.rows ?? "no"} rows in the backup, ${b?.rows ?? "none"} now${a?.rows === b?.rows ? ", which say something else" : ""}`];
	});
}

async function readSeal(file: string): Promise<BackupSeal> {
	const text = await readFile(sealFile(file), "utf8").catch(() => {
		throw new Error(`There is no seal at ${sealFile(file)}, which says what the backup held. Put it beside the backup, or restore with --without-seal.`);
	});
	try {
		return JSON.parse(text) as BackupSeal;
	} catch {
		throw new Error(`${sealFile(file)} isn’t a seal. Put the one beside the backup that was written with it, or restore with --without-seal.`);
	}
}

/**
 * Reads a backup into an empty database, and holds what came of it against the seal; `unsealed` goes without, where that is lost.
 *
 * @throws Error with the tables that differ
 */
export async function restore(url: string, file: string, bin: string, unsealed = false): Promise<BackupSeal> {
	const held = unsealed ? null : await readSeal(file);
	const { args, password } = connectionOf(url);
	await run(join(bin, "pg_restore"), ["--no-owner", "--no-privileges", "--exit-on-error", "--single-transaction", ...args, file], password);
	const client = new pg.Client({ connectionString: url });
	// Lost in the midst it says so at its next query; unheard it would end the process.
	client.on("error", () => undefined);
	await client.connect();
	try {
		await client.query("begin read only");
		const found = await sealOf(client);
		if (!held) return found;
		const wrong = differences(held, found);
		if (wrong.length) throw new Error(`What was restored isn’t what ${file} held: ${wrong.join("; ")}`);
		return held;
	} finally {
		await client.end();
	}
}
