import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { DuckDBInstance } from "@duckdb/node-api";
import { sql } from "drizzle-orm";
import pg from "pg";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { routeAnswer } from "@/app/server/routes";
import { connection } from "@/data/db";
import { outsideState } from "@/data/schema";
import { editDeals } from "@/features/deals/server/editDeals";
import { listDeals } from "@/features/deals/server/listDeals";
import { storeKey } from "@/features/people/server/keys";
import { readPeriodOfApi } from "@/features/period/server/periodJson";
import { keepTables } from "@/features/tables/server/keepTables";
import { TABLES } from "@/features/tables/server/list";
import { makeViews, READER } from "@/features/tables/server/makeViews";
import { type Form, readTable } from "@/features/tables/server/readTable";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { plainText, readCsv } from "@/formats/csv";
import { more } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("tables");
	await makeViews(connection().db);
});
/** Names as people write them: what a spreadsheet would run, quotes, lines, letters of everywhere. */
const NAMES = ['=1+1 "quoted"', "two, with; signs", "Zürich 東京 🙂"];
beforeEach(async () => {
	const lines = (of: (id: string, i: number) => string) => NAMES.map((_, i) => of(`n${i}`, i));
	await refill(
		inspected({
			...more("deals.csv", ...lines((id, i) => `${id},,"${NAMES[i]?.replaceAll('"', '""')}",Web,2026-06-02T09:00:00Z,,,`)),
			...more("deal_versions.csv", ...lines((id, i) => `${id},2026-06-02T09:00:00Z,Enquiry,${i ? 100 + i : ""},${i ? "EUR" : ""},2026-12-1${i},rep1,commit,,`)),
		}),
	);
	await connection().db.delete(outsideState);
	await giveTasks(await as("rep1"), { dealIds: ["n1"], title: "Call, “again”; =2+2", dueOn: "2026-11-27" });
	await keepTables();
});
afterAll(() => database.drop());

async function bytesOf(who: string, name: string, form: Form, more: { as_of?: string; owner?: string; team?: string } = {}): Promise<Buffer> {
	const { bytes } = await readTable(await as(who), name, { as: form, ...more });
	const parts: Uint8Array[] = [];
	for await (const part of bytes) parts.push(part);
	return Buffer.concat(parts);
}
type Rows = Record<string, string>[];
/** A table as CSV by its columns; nothing is an empty text. */
async function rowsOf(who: string, name: string, more: { as_of?: string; owner?: string; team?: string } = {}): Promise<Rows> {
	const { header, records } = readCsv(await bytesOf(who, name, "csv", more));
	return records.map(({ cells }) => Object.fromEntries(header.map((key, i) => [key, plainText(cells[i] ?? "")])));
}
const sorted = (rows: Rows) => rows.map((row) => JSON.stringify(row)).sort();
const texts = (rows: readonly Record<string, unknown>[]): Rows =>
	rows.map((row) => Object.fromEntries(Object.entries(row).map(([k, v]) => [k, v === null ? "" : String(v)])));

describe("a table", () => {
	test("says the same as a file, and as a view of the database", async () => {
		for (const { name, columns } of TABLES) {
			const list = columns.map(({ name: called, kind }) =>
				kind === "instant" ? `to_char("${called}" at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') as "${called}"` : `"${called}"::text`,
			);
			const { rows } = await connection().db.execute(sql.raw(`select ${list.join(", ")} from porch_lamp_read."${name}"`));
			const file = await rowsOf("ops", name);
			expect(file.length, name).toBeGreaterThan(0);
			expect(sorted(texts(rows)), name).toEqual(sorted(file));
		}
	});

	test("says the same in Parquet, as another reader of that form understands it", async () => {
		const folder = mkdtempSync(join(tmpdir(), "porch-lamp-tables-"));
		const duck = await (await DuckDBInstance.create(":memory:")).connect();
		try {
			for (const { name, columns } of TABLES) {
				const path = join(folder, `${name}.parquet`);
				writeFileSync(path, await bytesOf("ops", name, "parquet"));
				const list = columns.map(({ name: called, kind }) =>
					kind === "instant"
						? `strftime("${called}", '%Y-%m-%dT%H:%M:%S.%gZ') as "${called}"`
						: kind === "decimal"
							? `"${called}"`
							: `"${called}"::varchar as "${called}"`,
				);
				const rows = (await (await duck.runAndReadAll(`select ${list.join(", ")} from read_parquet('${path}')`)).getRowObjectsJS()) as Record<
					string,
					unknown
				>[];
				expect(sorted(texts(rows)), name).toEqual(sorted(await rowsOf("ops", name)));
				const types = await (await duck.runAndReadAll(`describe select * from read_parquet('${path}')`)).getRowObjectsJS();
				const named = { text: "VARCHAR", integer: "INTEGER", decimal: "DOUBLE", day: "DATE", instant: "TIMESTAMP", flag: "BOOLEAN" };
				expect(
					types.map(({ column_type }) => column_type),
					name,
				).toEqual(columns.map(({ kind }) => named[kind]));
			}
		} finally {
			duck.closeSync();
			rmSync(folder, { recursive: true });
		}
	});

	test("holds the deals that the caller reaches, whatever they ask for", async () => {
		const all = await rowsOf("ops", "deals");
		for (const who of ["rep1", "rep2", "north", "boss"]) {
			const context = await as(who);
			const reached: string[] = [];
			for (let cursor: string | undefined; ; ) {
				const { items, next } = listDeals(context, {}, { cursor, limit: 200 });
				reached.push(...items.map(({ id }) => id));
				if (!next) break;
				cursor = next;
			}
			const ids = (rows: Rows) => [...new Set(rows.map((row) => row.deal_id ?? ""))].sort();
			expect(ids(await rowsOf(who, "deals")), who).toEqual(reached.sort());
			for (const name of ["deal_states", "flags"]) for (const id of ids(await rowsOf(who, name))) expect(reached, `${who} ${name}`).toContain(id);
		}
		expect(new Set((await rowsOf("rep1", "deals")).map((row) => row.owner_id))).toEqual(new Set(["rep1"]));
		expect(await rowsOf("rep1", "deals", { owner: "rep2" })).toEqual([]);
		expect((await rowsOf("rep2", "tasks")).map(({ deal_id }) => deal_id)).not.toContain("n1");
		expect((await rowsOf("rep1", "figures")).filter(({ whose, whose_id }) => whose === "person" && whose_id !== "rep1")).toEqual([]);
		expect(all.length).toBeGreaterThan((await rowsOf("rep1", "deals")).length);
	});

	test("is seen on any day, and the states of deals say of each day what that says", async () => {
		const states = await rowsOf("ops", "deal_states");
		for (const day of ["2026-11-24", "2026-11-02", "2026-10-01", "2026-09-15"]) {
			const then = await rowsOf("ops", "deals", { as_of: day });
			expect(new Set(then.map((row) => row.seen_on))).toEqual(new Set([day]));
			const said = (row: Record<string, string>) =>
				["deal_id", "stage", "status", "category", "amount", "currency", "close_date", "owner_id", "next_step"].map((key) => row[key]).join("|");
			const held = states.filter(({ from_day = "", until_day = "" }) => from_day <= day && (!until_day || until_day > day));
			expect(held.map(said).sort(), day).toEqual(then.map(said).sort());
		}
	});

	test("of figures adds up to the deals, and is what the period says", async () => {
		const figures = await rowsOf("ops", "figures");
		const value = (whose: string, id: string, figure: string) =>
			Number(figures.find((row) => row.period === "quarter" && row.whose === whose && row.whose_id === id && row.figure === figure)?.value);
		const period = readPeriodOfApi(await as("ops"), {});
		for (const [figure, minor] of [
			["won_amount", period.won.amount],
			["open_amount", period.open.amount],
			["weighted", period.weighted],
			["categories_commit_amount", period.categories.commit.amount],
		] as const)
			expect(value("everyone", "", figure), figure).toBe(minor / 100);
		expect([value("everyone", "", "open_count"), value("everyone", "", "attention_act")]).toEqual([period.open.count, period.attention.act]);
		const people = period.people.reduce((sum, { id }) => sum + value("person", id, "open_amount"), 0);
		expect(people + period.unowned.open.amount / 100).toBeCloseTo(value("everyone", "", "open_amount"), 6);
		const deals = (await rowsOf("ops", "deals")).filter(
			({ status, close_date = "" }) => status === "open" && close_date >= period.from && close_date <= period.to,
		);
		expect(deals.reduce((sum, row) => sum + Number(row.amount_base), 0)).toBeCloseTo(value("everyone", "", "open_amount"), 6);
	});
});

describe("the views of the database", () => {
	const state = async () => (await connection().db.select().from(outsideState))[0];
	const parts = async () => (await connection().db.execute(sql`select table_name as name, part, xmin::text as written from outside_parts order by 1, 2`)).rows;

	test("are written where something changed, and are left alone else", async () => {
		const before = await parts();
		expect(await keepTables()).toEqual([]);
		const { items } = listDeals(await as("rep1"), {}, { limit: 200 });
		const deal = items.find(({ id }) => id === "n1");
		await editDeals(await as("rep1"), {
			targets: [{ id: "n1", versionId: deal?.versionId ?? 0 }],
			change: { nextStep: "Send the plan", nextStepDate: "2026-11-27" },
		});
		expect(await keepTables()).toEqual(["deals", "deal_states"]);
		const after = await parts();
		const changed = after.filter(({ written }, i) => written !== before[i]?.written).map(({ name }) => name);
		expect(changed.sort()).toEqual(["deal_states", "deals"]);
		const { rows } = await connection().db.execute(sql`select next_step, next_step_date::text from porch_lamp_read.deals where deal_id = 'n1'`);
		expect(rows).toEqual([{ next_step: "Send the plan", next_step_date: "2026-11-27" }]);
		expect((await state())?.revision).toBe((await as("ops")).organisation.revision);
	});

	test("lose what is gone, and are made again without a change", async () => {
		await refill(inspected({}));
		await keepTables();
		const { rows } = await connection().db.execute(sql`select deal_id from porch_lamp_read.deals where deal_id like 'n%'`);
		expect(rows).toEqual([]);
		expect((await connection().db.execute(sql`select * from porch_lamp_read.tasks`)).rows).toEqual([]);
		await makeViews(connection().db);
		expect((await connection().db.execute(sql`select seen_on::text from porch_lamp_read.about`)).rows).toEqual([{ seen_on: "2026-11-24" }]);
	});

	test("can be read by their role, which can read nothing else and write nothing", async () => {
		const keeper = new URL(process.env.TEST_KEEPER_URL ?? "");
		keeper.pathname = new URL(database.url).pathname;
		const client = new pg.Client({ connectionString: keeper.href });
		await client.connect();
		try {
			await client.query(`set role ${READER}`);
			for (const { name } of TABLES) expect((await client.query(`select * from porch_lamp_read."${name}"`)).rowCount, name).toBeGreaterThan(0);
			for (const forbidden of [
				"select * from public.people",
				"select * from public.outside_parts",
				"select * from public.sessions",
				"delete from porch_lamp_read.deals",
				"create table porch_lamp_read.mine (a int)",
				"create table public.mine (a int)",
				"drop view porch_lamp_read.deals",
				"select pg_read_file('/etc/passwd')",
			])
				await expect(client.query(forbidden), forbidden).rejects.toThrow(/permission denied|must be owner|cannot delete/);
			const settings = await client.query(
				"select rolcanlogin, rolsuper, rolcreatedb, rolcreaterole, array_to_string(rolconfig, ' ') as config from pg_roles where rolname = $1",
				[READER],
			);
			expect(settings.rows).toEqual([
				{ rolcanlogin: true, rolsuper: false, rolcreatedb: false, rolcreaterole: false, config: expect.stringContaining("default_transaction_read_only=on") },
			]);
		} finally {
			await client.end();
		}
	});
});

describe("over the API", () => {
	const ask = async (path: string) => {
		const { token } = await storeKey(connection().db, "rep1", "reports", { write: false, areas: ["tables"], expiresAt: null });
		const request = new Request(`http://localhost/api/v1${path}`, { headers: { authorization: `Bearer ${token}` } });
		return (await routeAnswer("GET", `/api/v1${path}`, () => request)) as Response;
	};
	test("a key that may only read tables gets them, named by their day", async () => {
		const answer = await ask("/tables/deals?as_of=2026-11-02");
		expect([answer.status, answer.headers.get("content-type"), answer.headers.get("content-disposition")]).toEqual([
			200,
			"text/csv; charset=utf-8",
			'attachment; filename="deals 2026-11-02.csv"',
		]);
		expect(await answer.text()).toContain("deal_id,deal,account_id");
		expect((await ask("/tables/deals?as=parquet")).headers.get("content-type")).toBe("application/vnd.apache.parquet");
		const { items } = (await (await ask("/tables")).json()) as { items: { name: string; columns: { name: string }[] }[] };
		expect(items.map(({ name }) => name)).toEqual(TABLES.map(({ name }) => name));
		expect((await ask("/deals")).status).toBe(403);
	});
	test("what isn’t there, or can’t be, is said", async () => {
		expect((await ask("/tables/people")).status).toBe(404);
		expect((await ask("/tables/deals?as_of=2027-01-01")).status).toBe(400);
		expect((await ask("/tables/deals?as=xlsx")).status).toBe(400);
		expect((await ask("/tables/deals?owner=nobody")).status).toBe(404);
		expect(await faultOf(async () => readTable(await as("rep1"), "../deals", { as: "csv" }))).toMatchObject({ status: 404 });
	});
});
