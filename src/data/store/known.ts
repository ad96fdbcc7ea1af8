import { sql } from "drizzle-orm";
import type { Known } from "../../formats/bundle/checkShapes";
import { type BundleFile, nameField, SPECS } from "../../formats/bundle/spec";
import type { Sql } from "../db";
import { organisationSettings } from "../schema";
import { STORES } from "./tables";

/** Whatever the time zone, today is over a day from now. */
const DAY = 86_400_000;

/** Ids that rows name, by the file that lists them. */
export type NamedIds = ReadonlyMap<BundleFile, ReadonlySet<string>>;

/** Lists that are short, and of which anything may be asked. */
const SHORT: ReadonlySet<BundleFile> = new Set(["people.csv", "stages.csv", "questions.csv"]);

/**
 * What a new bundle may refer to or clash with.
 *
 * @param now ms since the epoch
 * @param named where a few rows are meant, what they name: of long lists only that is looked up
 */
export async function readKnown(db: Sql, now: number, named?: NamedIds): Promise<Known & { timeZone: string }> {
	const mergedIn = async (table: string) => {
		const { rows } = await db.execute(
			sql`select called as name, t.id from ${sql.identifier(table)} t, unnest(also) called where not exists (select 1 from ${sql.identifier(table)} other where other.id = called)`,
		);
		return new Map(rows.map((row) => [String(row.name), String(row.id)]));
	};
	const merged = { "people.csv": await mergedIn("people"), "accounts.csv": await mergedIn("accounts") };
	const ids = new Map<BundleFile, Set<string>>();
	for (const store of STORES) {
		const spec = SPECS.find((s) => s.file === store.file);
		const field = spec && nameField(spec);
		const column = field && store.columns.get(field);
		if (!column) continue;
		const few = named && !SHORT.has(store.file);
		const asked = few ? [...(named.get(store.file) ?? []), ...(store.file === "accounts.csv" ? merged["accounts.csv"].values() : [])] : [];
		if (few && !asked.length) continue;
		const only = few ? sql` where ${sql.identifier(column)}::text = any(${sql.param(asked)}::text[])` : sql``;
		const rows = await db.execute(sql`select ${sql.identifier(column)}::text as id from ${sql.identifier(store.tableName)}${only}`);
		ids.set(store.file, new Set(rows.rows.map((row) => String(row.id))));
	}
	const [org] = await db.select().from(organisationSettings);
	const rated = await db.execute(sql`select distinct currency from rates`);
	const teams = await db.execute(sql`select name, parent from teams`);
	const emails = await db.execute(sql`select id, lower(email) as email from people where email is not null and id <> lower(email)`);
	const ofDeals = named ? sql` where id = any(${sql.param([...(named.get("deals.csv") ?? [])])}::text[])` : sql``;
	const created = await db.execute(sql`select id, (extract(epoch from created_at) * 1000)::float8 as at from deals${ofDeals}`);
	const positions = await db.execute(sql`select position, name from stages`);
	return {
		ids,
		timeZone: org?.timeZone ?? "Europe/Berlin",
		baseCurrency: org?.baseCurrency ?? "EUR",
		rateCurrencies: new Set(rated.rows.map((row) => String(row.currency))),
		teamParents: new Map(teams.rows.map((row) => [String(row.name), row.parent as string | null])),
		merged,
		emails: new Map(emails.rows.map((row) => [String(row.email), String(row.id)])),
		createdAt: new Map(created.rows.map((row) => [String(row.id), Number(row.at)])),
		latest: now + DAY,
		stagePositions: new Map(positions.rows.map((row) => [Number(row.position), String(row.name)])),
	};
}
