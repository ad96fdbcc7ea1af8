import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import { connection } from "@/data/db";
import { closeVersions } from "@/data/store/closeVersions";
import { freshDatabase } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
/** so many that reading the versions of all deals would never be the quicker way to those of one */
const DEALS = 6000;
beforeAll(async () => {
	database = await freshDatabase("closing");
	const { pool } = connection();
	await pool.query("insert into stages (name, position, kind, probability, usual_days) values ('Enquiry', 1, 'open', 0.1, 10)");
	await pool.query(`insert into deals (id, created_at) select 'd' || i, '2026-06-01T09:00:00Z' from generate_series(1, ${DEALS}) i`);
	await pool.query(
		`insert into deal_versions (deal_id, valid_from, valid_to, stage)
		 select 'd' || i, timestamptz '2026-06-01T09:00:00Z' + n * interval '1 day', timestamptz '2027-01-01T09:00:00Z', 'Enquiry'
		 from generate_series(1, ${DEALS}) i, generate_series(1, 4) n`,
	);
	await pool.query("analyze deal_versions");
});
afterAll(() => database.drop());

const ends = async (ids: readonly string[]) =>
	(await connection().pool.query("select deal_id, valid_from, valid_to from deal_versions where deal_id = any($1) order by deal_id, valid_from", [ids]))
		.rows as { deal_id: string; valid_from: Date; valid_to: Date | null }[];

test("each version ends where the next of its deal begins, and the last one is open", async () => {
	const ids = ["d7", "d8", "d4000"];
	await connection().db.transaction((tx) => closeVersions(tx, ids));
	const rows = await ends(ids);
	expect(rows).toHaveLength(12);
	rows.forEach(({ deal_id, valid_to }, i) => {
		const next = rows[i + 1];
		expect(valid_to).toEqual(next?.deal_id === deal_id ? next.valid_from : null);
	});
	// Others are left as they are.
	expect((await ends(["d9"])).every(({ valid_to }) => valid_to?.getUTCFullYear() === 2027)).toBe(true);
});

test("twice is once", async () => {
	await connection().db.transaction((tx) => closeVersions(tx, ["d11"]));
	const once = await ends(["d11"]);
	await connection().db.transaction((tx) => closeVersions(tx, ["d11"]));
	expect(await ends(["d11"])).toEqual(once);
});

test("the versions of all other deals aren’t read", async () => {
	const read = await connection().db.transaction(async (tx) => {
		await closeVersions(tx, ["d12"]);
		const { rows } = await tx.execute(sql`select seq_scan from pg_stat_xact_user_tables where relname = 'deal_versions'`);
		return Number(rows[0]?.seq_scan ?? 0);
	});
	expect(read).toBe(0);
});
