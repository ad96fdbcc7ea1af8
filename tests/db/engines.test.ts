import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import pg from "pg";
import { afterAll, beforeAll, expect, test } from "vitest";
import { bridge, closingBySteps } from "@/core/bridge/bridge";
import { bridgeSql, fillColumnar, fillPostgres, type SqlStep, stepsOf } from "../../bench/sql";
import { day, makeCompany, type TestDeal } from "../kit/company";
import { freshDatabase } from "../kit/database";
import { histories, RATES } from "../kit/histories";

let database: Awaited<ReturnType<typeof freshDatabase>>;
let client: pg.Client;
const folder = mkdtempSync(join(tmpdir(), "porch-lamp-engines-"));
beforeAll(async () => {
	database = await freshDatabase("engines");
	client = new pg.Client({ connectionString: database.url });
	await client.connect();
});
afterAll(async () => {
	await client.end();
	await database.drop();
});

const [A, B] = [day("2026-11-09"), day("2026-11-24")];
const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };

async function answers(deals: TestDeal[]): Promise<SqlStep[][]> {
	const company = makeCompany(deals, { rates: RATES });
	const result = bridge(company, A, B, Q4, null);
	expect(closingBySteps(result)).toBe(result.closing.amount);
	const own = [
		{ kind: "opening", ...result.opening },
		{ kind: "closing", ...result.closing },
		...result.steps.map((step) => ({ ...step, kind: step.kind as string })),
	]
		.filter((step) => step.deals.length)
		.map(({ kind, amount, deals: list }) => ({ kind, count: list.length, amount }))
		.sort((x, y) => (x.kind < y.kind ? -1 : 1));
	await fillPostgres(client, company, B);
	const columnar = await fillColumnar(join(folder, "versions.csv"), company, B);
	const sql = bridgeSql(A, B, Q4);
	return [own, stepsOf((await client.query(sql)).rows), stepsOf(await columnar(sql))];
}

test("the bridge from the columns is what two SQL engines make of the same versions", async () => {
	await fc.assert(
		fc.asyncProperty(
			// An empty file is no table to read.
			histories.filter((deals) => deals.length > 0),
			async (deals) => {
				const [own, rows, columns] = await answers(deals);
				expect(rows).toEqual(own);
				expect(columns).toEqual(own);
			},
		),
		{ numRuns: 12 },
	);
});

test("every way in and out is the same in all three", async () => {
	const open = { at: "2026-09-01", amount: 100, close: "2026-12-01" };
	const at = "2026-11-12";
	const [own, ...others] = await answers([
		{ versions: [open, { at, amount: 130 }] },
		{ versions: [open, { at, amount: 70 }] },
		{ versions: [open, { at, close: "2027-01-20" }] },
		{ versions: [open, { at, close: null }] },
		{ versions: [open, { at, close: "2026-09-01" }] },
		{ versions: [open, { at, stage: "removed", amount: 5 }] },
		{ versions: [open, { at, stage: "Won", amount: 120 }] },
		{ versions: [open, { at, stage: "Lost" }] },
		{ versions: [{ ...open, at }] },
		{
			versions: [
				{ ...open, stage: "Lost" },
				{ at, stage: "Trial" },
			],
		},
		{
			versions: [
				{ ...open, close: "2027-02-01" },
				{ at, close: "2026-12-20" },
			],
		},
		{
			versions: [
				{ ...open, close: "2026-09-30" },
				{ at, close: "2026-12-20" },
			],
		},
		{
			versions: [
				{ ...open, at },
				{ at: "2026-11-16", stage: "Won" },
			],
		},
		{
			versions: [
				{ ...open, at: "2026-11-12 09:00", currency: "KWD" },
				{ at: "2026-11-12 10:00", currency: "JPY", amount: 12_345 },
			],
		},
	]);
	for (const other of others) expect(other).toEqual(own);
	expect(own?.map((step) => step.kind)).toEqual([
		"closing",
		"grew",
		"lost",
		"moved-earlier",
		"new",
		"opening",
		"pulled-in",
		"pushed-out",
		"removed",
		"reopened",
		"rolled-in",
		"shrank",
		"won",
	]);
});
