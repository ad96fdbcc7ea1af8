import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pg from "pg";
import { afterAll, beforeAll, expect, test } from "vitest";
import { backup, restore, sealOf } from "@/data/store/backup";
import { editDeals } from "@/features/deals/server/editDeals";
import { readDeal } from "@/features/sheet/server/readDeal";
import { writeNote } from "@/features/sheet/server/writeNote";
import { postgresBin } from "../../scripts/lib/packages.mjs";
import { as, freshDatabase, importAs } from "../kit/database";
import { inspected } from "../kit/inspection";

const bin = postgresBin() as string;
const folder = mkdtempSync(join(tmpdir(), "porch-lamp-backup-"));
let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("backup");
	await importAs(inspected());
});
afterAll(async () => {
	rmSync(folder, { recursive: true, force: true });
	await database.drop();
});

/** An empty database beside the test's own, taken away in the end. */
async function beside<T>(work: (url: string) => Promise<T>): Promise<T> {
	const admin = new pg.Client({ connectionString: process.env.TEST_KEEPER_URL ?? process.env.TEST_DATABASE_URL ?? "" });
	await admin.connect();
	const url = new URL(database.url);
	const name = `${url.pathname.slice(1)}_beside`;
	try {
		await admin.query(`drop database if exists ${name} with (force)`);
		await admin.query(`create database ${name} owner ${url.username}`);
		url.pathname = `/${name}`;
		return await work(url.href);
	} finally {
		await admin.query(`drop database if exists ${name} with (force)`);
		await admin.end();
	}
}

test("a backup made while people write is one moment’s whole, and comes back as it was", async () => {
	let writing = true;
	let written = 0;
	const busy = (async () => {
		while (writing) {
			const { versionId } = await readDeal(await as("boss"), "d1", undefined);
			await editDeals(await as("boss"), { targets: [{ id: "d1", versionId }], change: { amount: 1000 + written } });
			await writeNote(await as("north"), { dealId: "d1", body: `Note ${written++}` });
		}
	})();
	while (written < 5) await new Promise((resolve) => setTimeout(resolve, 20));
	const file = join(folder, "all.dump");
	const during = written;
	const seal = await backup(database.url, file, bin);
	writing = false;
	await busy;
	expect(written).toBeGreaterThan(during);
	expect(readdirSync(folder).sort()).toEqual(["all.dump", "all.dump.seal.json"]);
	await beside(async (url) => {
		expect(await restore(url, file, bin)).toEqual(seal);
		const client = new pg.Client({ connectionString: url });
		await client.connect();
		await client.query("begin");
		const back = await sealOf(client);
		expect(back.tables).toEqual(seal.tables);
		// Each edit raised the revision with its note or without: no half write is in it.
		const { rows } = await client.query(
			"select (select count(*) from deal_versions where deal_id = 'd1' and valid_to is null)::int as current, (select count(*) from audit where action = 'deal changed')::int as edits, (select count(*) from deal_versions where deal_id = 'd1')::int as versions",
		);
		expect(rows[0]).toMatchObject({ current: 1, versions: rows[0].edits + 2 });
		await client.end();
	});
});

test("what isn’t what the backup held is told table by table, and a broken file changes nothing", async () => {
	const file = join(folder, "again.dump");
	await backup(database.url, file, bin);
	const seal = JSON.parse(readFileSync(`${file}.seal.json`, "utf8"));
	seal.tables["public.deals"].rows++;
	seal.tables["public.people"].sum = "5";
	writeFileSync(`${file}.seal.json`, JSON.stringify(seal));
	await beside(async (url) => {
		await expect(restore(url, file, bin)).rejects.toThrow(/public.deals: 4 rows in the backup, 3 now; public.people: 7 rows .* say something else/);
	});
	writeFileSync(file, readFileSync(file).subarray(0, 2000));
	await beside(async (url) => {
		await expect(restore(url, file, bin)).rejects.toThrow(/pg_restore/);
		const client = new pg.Client({ connectionString: url });
		await client.connect();
		expect((await client.query("select to_regclass('public.deals') as there")).rows).toEqual([{ there: null }]);
		await client.end();
	});
});

test("a disk that fills in the midst leaves the backup from before as it was, and nothing half-written", async () => {
	const place = mkdtempSync(join(tmpdir(), "full-"));
	const file = join(place, "all.dump");
	await backup(database.url, file, bin);
	const before = readFileSync(file);
	// As pg_dump ends when there is no room for the rest.
	const full = join(place, "bin");
	mkdirSync(full);
	const lines = ["#!/bin/sh", 'for word in "$@"; do case "$word" in --file=*) head -c 5000 /dev/zero > "$(echo "$word" | cut -d= -f2)";; esac; done'];
	const dump = [...lines, 'echo "could not write: No space left on device" >&2', "exit 1", ""].join("\n");
	writeFileSync(join(full, "pg_dump"), dump, { mode: 0o755 });
	await expect(backup(database.url, file, full)).rejects.toThrow("No space left on device");
	expect(readdirSync(place).sort()).toEqual(["all.dump", "all.dump.seal.json", "bin"]);
	expect(readFileSync(file).equals(before)).toBe(true);
	// What has to lie beside it is as much of it.
	await expect(backup(database.url, file, bin, () => Promise.reject(new Error("ENOSPC: no space left on device")))).rejects.toThrow("ENOSPC");
	expect(readdirSync(place).sort()).toEqual(["all.dump", "all.dump.seal.json", "bin"]);
	expect(readFileSync(file).equals(before)).toBe(true);
});
