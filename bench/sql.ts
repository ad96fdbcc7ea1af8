import { createWriteStream } from "node:fs";
import { DuckDBInstance } from "@duckdb/node-api";
import type pg from "pg";
import type { Company } from "../src/core/company";
import { blockOf, endRow, firstRow, NONE } from "../src/core/history/columns";
import { type Day, NO_DAY } from "../src/core/time/day";
import type { Period } from "../src/core/time/period";

/** A step as an SQL engine answers it. */
export interface SqlStep {
	readonly kind: string;
	readonly count: number;
	readonly amount: number;
}

const FOREVER = 2 ** 30;

/** The versions as rows `deal, from_day, to_day, stage, amount, currency, close, owner`: in force on the days from one up to before the other. */
function* rowsOf({ history }: Company): Generator<(number | null)[]> {
	for (let deal = 0; deal < history.deals; deal++) {
		const block = blockOf(history, deal);
		const end = endRow(block, deal);
		for (let row = firstRow(block, deal); row < end; row++) {
			const amount = block.amount[row] as number;
			const blank = (value: number, none: number) => (value === none ? null : value);
			yield [
				deal,
				block.day[row] as number,
				row + 1 < end ? (block.day[row + 1] as number) : FOREVER,
				block.stage[row] as number,
				Number.isNaN(amount) ? null : amount,
				blank(block.currency[row] as number, NONE),
				blank(block.close[row] as number, NO_DAY),
				blank(block.owner[row] as number, NONE),
			];
		}
	}
}

const TABLES = `
create table bench_versions (deal int not null, from_day int not null, to_day int not null, stage smallint not null, amount bigint, currency smallint, close int, owner int);
create table bench_stages (stage smallint primary key, kind text not null);
create table bench_rates (currency smallint primary key, rate decimal(18, 8) not null)`;
const INDEXES = [
	"create index bench_deal on bench_versions (deal, from_day)",
	"create index bench_days on bench_versions (to_day, from_day)",
	"create index bench_close on bench_versions (close)",
];

/** The bridge of everyone's deals between two days as one statement, with the deals of each step. */
export function bridgeSql(a: Day, b: Day, period: Period): string {
	const state = (day: Day) => `
		select v.deal, k.kind, v.close, v.amount, v.currency,
			coalesce(k.kind = 'open' and v.close between ${period.start} and ${period.end}, false) as is_in
		from bench_versions v
		left join bench_stages k on k.stage = v.stage
		where v.from_day <= ${day} and v.to_day > ${day}`;
	return `
	with a as (${state(a)}), b as (${state(b)}),
	-- Amounts are put into the base only of the deals that are in a step at all.
	met as (
		select coalesce(a.deal, b.deal) as deal, a.kind as kind_a, b.kind as kind_b, a.close as close_a, b.close as close_b,
			a.amount as own_a, b.amount as own_b, a.currency as currency_a, b.currency as currency_b, coalesce(a.is_in, false) as in_a, coalesce(b.is_in, false) as in_b,
			(not coalesce(a.is_in, false) and b.kind in ('won', 'lost') and b.close between ${period.start} and ${period.end} and coalesce(a.kind, 'open') = 'open') as unseen
		from a full join b on b.deal = a.deal
	),
	-- Lost from outside the period: its last open state by the ends of days lay there.
	outside as (
		select deal from (
			select distinct on (v.deal) v.deal, v.close from bench_versions v join bench_stages k on k.stage = v.stage
			where k.kind = 'open' and v.to_day > v.from_day and v.from_day <= ${b} and v.deal in (select deal from met where unseen and kind_b = 'lost')
			order by v.deal, v.from_day desc
		) o where close is null or close not between ${period.start} and ${period.end}
	),
	j as (
		select met.*, coalesce(round(own_a * ra.rate), 0)::bigint as x, coalesce(round(own_b * rb.rate), 0)::bigint as y
		from met
		left join bench_rates ra on ra.currency = currency_a
		left join bench_rates rb on rb.currency = currency_b
		where in_a or in_b or (unseen and met.deal not in (select deal from outside))
	),
	steps as (
		select deal, 'opening' as kind, x as amount from j where in_a
		union all select deal, 'closing', y from j where in_b
		union all select deal, case when y > x then 'grew' else 'shrank' end, abs(y - x) from j where in_a and kind_b is not null and x <> y
		union all select deal,
			case when kind_b is null then 'removed' when kind_b <> 'open' then kind_b when close_b is null or close_b > ${period.end} then 'pushed-out' else 'moved-earlier' end,
			case when kind_b is null then x else y end
		from j where in_a and not in_b
		union all select deal,
			case when kind_a is null then 'new' when kind_a <> 'open' then 'reopened' when close_a is null or close_a > ${period.end} then 'pulled-in' else 'rolled-in' end, y
		from j where not in_a and (in_b or unseen)
		union all select deal, kind_b, y from j where unseen
	)
	select kind, count(*)::int as count, sum(amount)::bigint as amount, array_agg(deal) as deals from steps group by kind`;
}

const stageRows = (company: Company) => company.rules.stages.map((stage, i) => `(${i}, '${stage.kind}')`).join(", ");
function rateRows({ rules }: Company, on: Day): string {
	return rules.currencies.map((code, i) => `(${i}, ${rules.rates.toBase(10 ** 8, code, on) / 10 ** 8})`).join(", ");
}

/** Fills tables of the same rows in PostgreSQL, indexed and analysed. */
export async function fillPostgres(client: pg.Client, company: Company, ratesOn: Day): Promise<void> {
	await client.query("drop table if exists bench_versions, bench_stages, bench_rates");
	await client.query(TABLES);
	const types = ["int", "int", "int", "smallint", "bigint", "smallint", "int", "int"];
	let columns: (number | null)[][] = types.map(() => []);
	const flush = async () => {
		if (!columns[0]?.length) return;
		await client.query(`insert into bench_versions select * from unnest(${types.map((type, i) => `$${i + 1}::${type}[]`).join(", ")})`, columns);
		columns = types.map(() => []);
	};
	for (const row of rowsOf(company)) {
		row.forEach((value, i) => {
			columns[i]?.push(value);
		});
		if ((columns[0]?.length ?? 0) >= 50_000) await flush();
	}
	await flush();
	await client.query(`insert into bench_stages values ${stageRows(company)}`);
	await client.query(`insert into bench_rates values ${rateRows(company, ratesOn)}`);
	for (const index of INDEXES) await client.query(index);
	await client.query("vacuum analyze bench_versions");
}

/** The same in an embedded columnar engine, filled from a file; gives what asks it. */
export async function fillColumnar(file: string, company: Company, ratesOn: Day): Promise<(sql: string) => Promise<Record<string, unknown>[]>> {
	const out = createWriteStream(file);
	let text: string[] = [];
	const write = () => new Promise<void>((resolve) => (out.write(text.join("")) ? resolve() : out.once("drain", resolve)));
	for (const row of rowsOf(company)) {
		text.push(`${row.map((value) => value ?? "").join(",")}\n`);
		if (text.length >= 50_000) {
			await write();
			text = [];
		}
	}
	await write();
	await new Promise<void>((resolve) => out.end(resolve));
	const connection = await (await DuckDBInstance.create(":memory:")).connect();
	for (const statement of TABLES.split(";")) await connection.run(statement);
	await connection.run(`insert into bench_versions select * from read_csv('${file}', header = false, nullstr = '')`);
	await connection.run(`insert into bench_stages values ${stageRows(company)}`);
	await connection.run(`insert into bench_rates values ${rateRows(company, ratesOn)}`);
	for (const index of INDEXES) await connection.run(index);
	return async (sql) => (await connection.runAndReadAll(sql)).getRowObjects();
}

/** Steps in a common form, to see that all say the same. */
export const stepsOf = (rows: readonly Record<string, unknown>[]): SqlStep[] =>
	rows.map((row) => ({ kind: String(row.kind), count: Number(row.count), amount: Number(row.amount) })).sort((a, b) => (a.kind < b.kind ? -1 : 1));
