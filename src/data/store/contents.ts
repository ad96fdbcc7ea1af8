import { createHash } from "node:crypto";
import { mkdir, readdir, readFile, rename, rm, stat, utimes, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { inArray, lt, sql } from "drizzle-orm";
import { config } from "@/config/config";
import type { Sql } from "../db";
import { fileContents } from "../schema";

/** What no file names any more is kept for so long, ms: one that is just being handed in has no name yet. */
const KEPT_UNNAMED = 7 * 86_400_000;

const folder = (): string | null => config().PORCH_LAMP_FILES ?? null;
const SUM = /^[0-9a-f]{64}$/;

/** The sum by which bytes are known: SHA-256, in hexadecimal. */
export const sumOf = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");

/** Where a content lies in a folder: in one of 256 within it, so that none holds too many. */
export const pathOf = (base: string, sum: string): string => {
	if (!SUM.test(sum)) throw new Error(`${sum.slice(0, 80)} isn’t a sum`);
	return join(base, sum.slice(0, 2), sum);
};

/** Keeps bytes under their sum, once: in the folder that is set, else in the database. Gives the sum. */
export async function keepContent(db: Sql, bytes: Uint8Array): Promise<string> {
	const sum = sumOf(bytes);
	const base = folder();
	if (base) await keepInFolder(base, sum, bytes);
	else
		await db
			.insert(fileContents)
			.values({ sha256: sum, bytes: Buffer.from(bytes), size: bytes.length })
			.onConflictDoUpdate({ target: fileContents.sha256, set: { keptAt: sql`now()` } });
	return sum;
}

async function keepInFolder(base: string, sum: string, bytes: Uint8Array): Promise<void> {
	const path = pathOf(base, sum);
	const there = await stat(path).catch(() => null);
	if (there?.size === bytes.length) {
		await utimes(path, new Date(), new Date());
		return;
	}
	await mkdir(join(base, sum.slice(0, 2)), { recursive: true, mode: 0o700 });
	// It is there whole or not at all, whatever ends the process.
	const part = `${path}.${process.pid}.${performance.now()}.part`;
	try {
		await writeFile(part, bytes, { mode: 0o600, flag: "wx", flush: true });
		await rename(part, path);
	} finally {
		await rm(part, { force: true });
	}
}

/** The bytes under a sum; null where they are nowhere. What was kept before a folder was set is still in the database. */
export async function readContent(db: Sql, sum: string): Promise<Uint8Array | null> {
	const base = folder();
	const found = base ? await readFile(pathOf(base, sum)).catch(() => null) : null;
	if (found) return found;
	const [row] = await db
		.select({ bytes: fileContents.bytes })
		.from(fileContents)
		.where(inArray(fileContents.sha256, [sum]));
	return row?.bytes ?? null;
}

/** Which of some sums have bytes here. */
export async function keptOf(db: Sql, sums: readonly string[]): Promise<Set<string>> {
	const base = folder();
	const found = new Set<string>();
	if (base) for (const sum of sums) if (await stat(pathOf(base, sum)).catch(() => null)) found.add(sum);
	const { rows } = await db.execute(sql`select sha256 from file_contents where sha256 = any(${sql.param([...sums])}::text[])`);
	for (const { sha256 } of rows) found.add(String(sha256));
	return found;
}

/** Forgets bytes that no file has named for a week, nor one that waits to be imported. Gives how many. */
export async function forgetUnnamed(db: Sql, now = Date.now()): Promise<number> {
	const before = new Date(now - KEPT_UNNAMED);
	const unnamed = sql`not exists (select from attachments a where a.sha256 = ${fileContents.sha256}) and not exists (select from feed_runs r where r.sha256 = ${fileContents.sha256} and r.state = 'waits')`;
	const gone = await db.delete(fileContents).where(sql`${lt(fileContents.keptAt, before)} and ${unnamed}`);
	return (gone.rowCount ?? 0) + (await forgetInFolder(db, before));
}

async function forgetInFolder(db: Sql, before: Date): Promise<number> {
	const base = folder();
	let gone = 0;
	for (const part of base ? await readdir(base).catch(() => []) : []) {
		const old: string[] = [];
		for (const name of await readdir(join(base as string, part)).catch(() => [])) {
			const found = await stat(join(base as string, part, name)).catch(() => null);
			if (found?.isFile() && SUM.test(name) && found.mtime < before) old.push(name);
		}
		if (!old.length) continue;
		const { rows } = await db.execute(
			sql`select sha256 from attachments where sha256 = any(${sql.param(old)}::text[]) union select sha256 from feed_runs where state = 'waits' and sha256 = any(${sql.param(old)}::text[])`,
		);
		const named = new Set(rows.map(({ sha256 }) => String(sha256)));
		for (const sum of old.filter((one) => !named.has(one))) {
			await rm(pathOf(base as string, sum), { force: true });
			gone++;
		}
	}
	return gone;
}
