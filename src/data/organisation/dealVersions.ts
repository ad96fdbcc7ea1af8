import { type SQL, sql } from "drizzle-orm";
import type { Rules } from "@/core/company";
import { CATEGORIES, NONE, REMOVED, type VersionRow } from "@/core/history/columns";
import type { OrganisationState } from "./state";
import { dayIn, type Stored, text } from "./stored";

/** All versions of deals that `where` lets through, with what is kept with each. */
export const versionsQuery = (where: SQL): SQL =>
	sql`select id, deal_id, (extract(epoch from valid_from) * 1000)::float8 as valid_from, stage, amount, currency, close_date, owner_id, category, next_step, next_step_date from deal_versions ${where}`;

/** Versions as the columns take them; `index` gives a deal’s place by its id. */
export function versionsOf(
	rows: readonly Stored[],
	index: ReadonlyMap<string, number>,
	{ stages, currencies }: Rules,
	{ personIndex }: Pick<OrganisationState, "personIndex">,
): VersionRow[] {
	const stageIndex = new Map(stages.map((stage, i) => [stage.name, i]));
	const currencyIndex = new Map(currencies.map((code, i) => [code, i]));
	return rows.map(
		(row): VersionRow => ({
			deal: index.get(String(row.deal_id)) ?? NONE,
			at: Number(row.valid_from),
			stage: row.stage === null ? REMOVED : (stageIndex.get(String(row.stage)) ?? REMOVED),
			amount: row.amount === null ? Number.NaN : Number(row.amount),
			currency: currencyIndex.get(String(row.currency)) ?? NONE,
			close: dayIn(row.close_date),
			owner: personIndex.get(String(row.owner_id)) ?? NONE,
			category: CATEGORIES.indexOf(row.category as never),
			nextStepDay: dayIn(row.next_step_date),
			nextStep: text(row.next_step) ?? "",
			id: Number(row.id),
		}),
	);
}
