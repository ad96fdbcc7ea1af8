import { sql } from "drizzle-orm";
import type { Bundle, Row, Value } from "../../formats/bundle/model";
import type { BundleFile } from "../../formats/bundle/spec";
import { SPECS } from "../../formats/bundle/spec";
import type { Tx } from "../db";
import { closeVersions } from "./closeVersions";
import { currentQuestions, keepEdition } from "./editions";
import type { StoredRecord } from "./record";
import { STORES, type Store } from "./tables";
import { takeOverPeople, writeTeams } from "./writePeople";

const CHUNK = 4000;

export type OnWrite = (file: string, done: number, total: number) => Promise<void> | void;

export interface WrittenRows {
	/** rows added or changed, by file; all zero for a repeated bundle */
	readonly changed: Record<string, number>;
	/** deals of which something was added or changed */
	readonly deals: ReadonlySet<string>;
}

/** Writes checked rows: what is there and differs is changed, what isn't there is added, what is the same is left alone. */
export async function writeRows(
	tx: Tx,
	good: ReadonlyMap<BundleFile, readonly Row[]>,
	bundle: Bundle,
	importId: string | null,
	now: Date,
	onWrite: OnWrite,
): Promise<WrittenRows> {
	const changed: Record<string, number> = {};
	const deals = new Set<string>();
	const asked = good.has("questions.csv") && !good.has("question_editions.csv") ? await currentQuestions(tx) : null;
	const teamsChanged = await writeTeams(tx, good.get("people.csv") ?? []);
	for (const store of STORES) {
		const rows = good.get(store.file);
		if (!rows) continue;
		let count = store.file === "people.csv" ? teamsChanged : 0;
		const records = recordsOf(store, rows, importId);
		if (store.file === "people.csv") await takeOverPeople(tx, records);
		if (store.file === "stages.csv") await freePositions(tx, records);
		const groups = SPECS.find((spec) => spec.file === store.file)?.group;
		for (let at = 0; at < records.length; at += CHUNK) {
			await onWrite(store.file, at, records.length);
			count += await upsert(tx, store, records.slice(at, at + CHUNK), deals);
		}
		if (groups) count += await trimGroups(tx, store, groups, records, deals);
		if (store.file === "deal_versions.csv") await closeVersions(tx, [...new Set(records.map((r) => String(r.deal_id)))]);
		await writeExtras(tx, store, rows);
		changed[store.file] = count;
	}
	// A seal that came along knows nothing of this installation's versions: whatever is written after this import is a correction.
	if (good.has("marks.csv"))
		await tx.execute(sql`update marks set newest = (select coalesce(max(id), 0) from deal_versions) where seal is not null and newest is null`);
	if (asked?.length && changed["questions.csv"]) await keepEdition(tx, asked, now);
	changed["settings.json"] = await writeSettings(tx, bundle);
	return { changed, deals };
}

/** The column of a store that names the deal a row is about; null where rows are about none, or about more than one. */
const dealColumn = ({ file, columns }: Store): string | null => (file === "deals.csv" ? "id" : (columns.get("deal_id") ?? null));

/** Adds the deals that changed rows are about. */
async function addDeals(tx: Tx, store: Store, rows: readonly Record<string, unknown>[], deals: Set<string>): Promise<void> {
	for (const { deal } of rows) if (deal !== null) deals.add(String(deal));
	// What is known of a person counts with every deal they are on.
	if (store.file !== "contacts.csv" || !rows.length) return;
	const ids = JSON.stringify(rows.map((row) => row.key));
	const on = await tx.execute(sql`select deal_id as deal from deal_contacts where contact_id in (select json_array_elements_text(${ids}::json))`);
	for (const { deal } of on.rows) deals.add(String(deal));
}

const returned = (store: Store) => {
	const column = dealColumn(store);
	return sql`${column ? sql`t.${sql.identifier(column)}` : sql`null`} as deal, t.${sql.identifier(store.key[0] as string)}::text as key`;
};

function recordsOf(store: Store, rows: readonly Row[], importId: string | null): StoredRecord[] {
	const spec = SPECS.find((one) => one.file === store.file);
	const structured = new Set(spec?.fields.filter(({ type }) => type.is === "json").map(({ name }) => name));
	const records = rows.map((row) => {
		const record: StoredRecord = {};
		// What a file has no column for stays as it is, or begins as the table has it.
		for (const [field, column] of store.columns)
			if (row.fields[field] !== undefined) record[column] = structured.has(field) ? parsed(row.fields[field] as Value) : (row.fields[field] as Value);
		if ((store.file === "accounts.csv" || store.file === "deals.csv" || store.file === "contacts.csv") && record.name === null) record.name = "";
		if (store.file === "stages.csv") record.usual_days ??= "0";
		if (store.file === "targets.csv") record.family ??= "";
		if (store.file === "deal_versions.csv") {
			// Open-ended only once all are in: the database allows one current version a deal.
			record.valid_to = record.valid_from as Value;
			record.import_id = importId;
		}
		return record;
	});
	const group = SPECS.find((spec) => spec.file === store.file)?.group;
	if (group) numberWithin(records, group);
	else if (store.ordinal)
		records.forEach((record, i) => {
			record.ordinal = i + 1;
		});
	return records;
}

/** JSON goes in as what it says, not as its text. */
const parsed = (text: Value): Value => (typeof text === "string" ? (JSON.parse(text) as Value) : null);

/** Rows without a name of their own get an ordinal within their group, whatever order they came in. */
function numberWithin(records: StoredRecord[], group: string): void {
	const text = new Map(records.map((record) => [record, JSON.stringify(record)]));
	records.sort((a, b) => ((text.get(a) as string) < (text.get(b) as string) ? -1 : 1));
	const next = new Map<Value, number>();
	for (const record of records) {
		const ordinal = (next.get(record[group] ?? null) ?? 0) + 1;
		next.set(record[group] ?? null, ordinal);
		record.ordinal = ordinal;
	}
}

/** One statement a chunk: the rows go in as one JSON parameter, typed by the table itself. */
async function upsert(tx: Tx, store: Store, records: readonly StoredRecord[], deals: Set<string>): Promise<number> {
	if (!records.length) return 0;
	const list = (names: readonly string[], prefix = "") =>
		sql.join(
			names.map((name) => sql`${sql.raw(prefix)}${sql.identifier(name)}`),
			sql`, `,
		);
	const columns = Object.keys(records[0] as StoredRecord);
	const notCompared = new Set([...store.key, "valid_to", "import_id"]);
	const set = columns.filter((name) => !notCompared.has(name));
	const table = sql.identifier(store.tableName);
	const onConflict = set.length
		? sql`do update set ${sql.join(
				[...set, ...(columns.includes("import_id") ? ["import_id"] : [])].map((name) => sql`${sql.identifier(name)} = excluded.${sql.identifier(name)}`),
				sql`, `,
			)} where (${list(set, "t.")}) is distinct from (${list(set, "excluded.")})`
		: sql`do nothing`;
	const result = await tx.execute(sql`
		insert into ${table} as t (${list(columns)})
		select ${list(columns)} from json_populate_recordset(null::${table}, ${JSON.stringify(records)}::json)
		on conflict (${list(store.key)}) ${onConflict}
		returning ${returned(store)}`);
	await addDeals(tx, store, result.rows, deals);
	return result.rowCount ?? 0;
}

async function trimGroups(tx: Tx, store: Store, group: string, records: readonly StoredRecord[], deals: Set<string>): Promise<number> {
	const counts: Record<string, number> = {};
	for (const record of records) counts[String(record[group])] = record.ordinal as number;
	const result = await tx.execute(sql`
		delete from ${sql.identifier(store.tableName)} t using json_each_text(${JSON.stringify(counts)}::json) g
		where t.${sql.identifier(group)} = g.key and t.ordinal > g.value::int
		returning ${returned(store)}`);
	await addDeals(tx, store, result.rows, deals);
	return result.rowCount ?? 0;
}

/** Stages may swap places: positions are unique, so those that change are moved out of the way first. */
async function freePositions(tx: Tx, records: readonly StoredRecord[]): Promise<void> {
	await tx.execute(sql`
		update stages s set position = -1000 - s.position
		from json_to_recordset(${JSON.stringify(records)}::json) as n(name text, position int)
		where n.name = s.name and n.position <> s.position`);
}

async function writeExtras(tx: Tx, store: Store, rows: readonly Row[]): Promise<void> {
	const key = SPECS.find((spec) => spec.file === store.file)?.key ?? [];
	if (!key.length) return;
	const extras = rows
		.filter((row) => Object.keys(row.extras).length)
		.map((row) => ({ file: store.file, row_key: rowKey(key, row.fields), fields: row.extras }));
	for (let at = 0; at < extras.length; at += CHUNK) {
		await tx.execute(sql`
			insert into import_extras as t (file, row_key, fields)
			select file, row_key, fields from json_populate_recordset(null::import_extras, ${JSON.stringify(extras.slice(at, at + CHUNK))}::json)
			on conflict (file, row_key) do update set fields = excluded.fields where t.fields is distinct from excluded.fields`);
	}
}

/** The name under which a row's unknown columns are kept. */
export function rowKey(key: readonly string[], fields: Readonly<Record<string, Value>>): string {
	return key.map((name) => String(fields[name] ?? "")).join("\u001f");
}

async function writeSettings(tx: Tx, { settings }: Bundle): Promise<number> {
	const given: [string, unknown][] = [
		["time_zone", settings.timeZone],
		["base_currency", settings.baseCurrency],
		["fiscal_start_month", settings.fiscalYearStartMonth],
		["fiscal_weeks", settings.fiscalWeeks && JSON.stringify(settings.fiscalWeeks)],
		["fiscal_before", settings.fiscalBefore && JSON.stringify(settings.fiscalBefore)],
		["weekend", settings.weekend && `{${[...settings.weekend].sort().join(",")}}`],
		["today", settings.today],
		["activity_kinds", settings.activityKinds && JSON.stringify(settings.activityKinds)],
		["flags", settings.flags && JSON.stringify(settings.flags)],
		["attention", settings.attention && JSON.stringify(settings.attention)],
		["outcome_reasons", settings.outcomeReasons && JSON.stringify(settings.outcomeReasons)],
		["contact_bands", settings.contactBands && `{${settings.contactBands.join(",")}}`],
		["commit_goal", settings.commitGoal],
		["risk_share", settings.riskShare],
		["care_days", settings.careDays && JSON.stringify(settings.careDays)],
		["reason_returns", settings.reasonReturns && JSON.stringify(settings.reasonReturns)],
		["attention_was", settings.attentionWas && JSON.stringify(settings.attentionWas)],
	];
	await tx.execute(sql`insert into organisation (id) values (1) on conflict do nothing`);
	const set = given.filter(([, value]) => value !== undefined);
	if (!set.length) return 0;
	const types: Record<string, string> = {
		weekend: "int[]",
		today: "date",
		activity_kinds: "jsonb",
		flags: "jsonb",
		attention: "jsonb",
		fiscal_start_month: "int",
		fiscal_weeks: "jsonb",
		fiscal_before: "jsonb",
		contact_bands: "int[]",
		commit_goal: "int",
		risk_share: "int",
		care_days: "jsonb",
		reason_returns: "jsonb",
		attention_was: "jsonb",
	};
	const cast = (name: string, value: unknown) =>
		name === "outcome_reasons" ? sql`array(select json_array_elements_text(${value}::json))` : sql`${value}::${sql.raw(types[name] ?? "text")}`;
	const result = await tx.execute(sql`
		update organisation set ${sql.join(
			set.map(([name, value]) => sql`${sql.identifier(name)} = ${cast(name, value)}`),
			sql`, `,
		)}
		where ${sql.join(
			set.map(([name, value]) => sql`${sql.identifier(name)} is distinct from ${cast(name, value)}`),
			sql` or `,
		)}`);
	return result.rowCount ?? 0;
}
