import { isDeepStrictEqual } from "node:util";
import { type SQL, sql } from "drizzle-orm";
import { instantText } from "../../formats/bundle/fields";
import type { Settings, Value } from "../../formats/bundle/model";
import { type BundleFile, type FieldSpec, SPECS } from "../../formats/bundle/spec";
import type { OutRow } from "../../formats/bundle/write";
import type { Sql } from "../db";
import { importExtras, organisationSettings, STANDARD_BANDS, STANDARD_CARE, STANDARD_GOAL, STANDARD_RISK_SHARE, teams } from "../schema";
import { STORES } from "./tables";
import { rowKey } from "./writeBundle";

export interface StoredBundle {
	readonly rows: ReadonlyMap<BundleFile, OutRow[]>;
	readonly settings: Settings;
	readonly baseCurrency: string;
}

/** Marks that the program keeps by itself stay here (whoever takes the bundle in keeps their own), and so do steps that were taken out. */
const ONLY: Partial<Record<BundleFile, SQL>> = {
	"marks.csv": sql`where by_id is not null or seal is null`,
	"close_plan_steps.csv": sql`where removed_at is null`,
};

/** Everything of the bundle as it is stored, rows in an order that only depends on their content. */
export async function readStored(db: Sql): Promise<StoredBundle> {
	const extras = new Map<string, Record<string, string>>();
	for (const row of await db.select().from(importExtras)) extras.set(`${row.file}\n${row.rowKey}`, row.fields);
	const parents = new Map((await db.select().from(teams)).map((team) => [team.name, team.parent]));
	const out = new Map<BundleFile, OutRow[]>();
	for (const store of STORES) {
		const spec = SPECS.find((s) => s.file === store.file);
		if (!spec) continue;
		const order = store.file === "stages.csv" ? ["position"] : store.file === "questions.csv" ? ["ordinal"] : (spec.order ?? store.key);
		const result = await db.execute(sql`
			select ${sql.join(
				[...store.columns].map(([field, column]) => sql`${sql.identifier(column)} as ${sql.identifier(field)}`),
				sql`, `,
			)}
			from ${sql.identifier(store.tableName)}
			${ONLY[store.file] ?? sql``}
			order by ${sql.join(
				order.map((name) => collated(name, store.columns, spec.fields)),
				sql`, `,
			)}`);
		out.set(
			store.file,
			result.rows.map((stored) => {
				const fields: Record<string, Value> = {};
				for (const field of spec.fields) fields[field.name] = fieldValue(field, stored[field.name]);
				if (store.file === "people.csv") fields.parent_team = fields.team ? (parents.get(String(fields.team)) ?? null) : null;
				return { fields, extras: spec.key.length ? extras.get(`${store.file}\n${rowKey(spec.key, fields)}`) : undefined };
			}),
		);
	}
	const [org] = await db.select().from(organisationSettings);
	const settings: Settings = org
		? {
				timeZone: org.timeZone,
				baseCurrency: org.baseCurrency,
				fiscalYearStartMonth: org.fiscalStartMonth,
				...(org.fiscalWeeks ? { fiscalWeeks: org.fiscalWeeks } : {}),
				...(org.fiscalBefore.length ? { fiscalBefore: org.fiscalBefore } : {}),
				weekend: org.weekend,
				...(org.today ? { today: org.today } : {}),
				activityKinds: org.activityKinds,
				flags: org.flags,
				...(Object.keys(org.attention).length ? { attention: org.attention } : {}),
				...(org.outcomeReasons.length ? { outcomeReasons: org.outcomeReasons } : {}),
				...(org.contactBands.join() === STANDARD_BANDS.join() ? {} : { contactBands: org.contactBands }),
				...(org.commitGoal === STANDARD_GOAL ? {} : { commitGoal: org.commitGoal }),
				...(org.riskShare === STANDARD_RISK_SHARE ? {} : { riskShare: org.riskShare }),
				...(isDeepStrictEqual(org.careDays, STANDARD_CARE) ? {} : { careDays: org.careDays }),
				...(Object.keys(org.reasonReturns).length ? { reasonReturns: org.reasonReturns } : {}),
				...(org.attentionWas.length ? { attentionWas: org.attentionWas } : {}),
			}
		: {};
	return { rows: out, settings, baseCurrency: org?.baseCurrency ?? "EUR" };
}

/** Text in the order of its bytes, so that it doesn't depend on the server's language. */
function collated(column: string, columns: ReadonlyMap<string, string>, fields: readonly FieldSpec[]) {
	const name = [...columns].find(([, own]) => own === column)?.[0];
	const kind = fields.find((field) => field.name === name)?.type.is;
	const text = kind === "id" || kind === "text" || kind === "currency";
	return text ? sql`${sql.identifier(column)} collate "C"` : sql`${sql.identifier(column)}`;
}

function fieldValue(field: FieldSpec, stored: unknown): Value {
	if (stored === null || stored === undefined) return null;
	if (stored === "") return field.standard === "" ? "" : null;
	switch (field.type.is) {
		case "instant":
			return instantText(new Date(stored as string).getTime());
		case "day":
			return String(stored);
		case "amount":
		case "whole":
			return Number(stored);
		case "decimal":
			return String(stored);
		case "yes":
			return Boolean(stored);
		case "json":
			return JSON.stringify(stored);
		default:
			return stored as Value;
	}
}
