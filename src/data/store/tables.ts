import { getTableColumns, getTableName, type Table } from "drizzle-orm";
import { type BundleFile, SPECS } from "../../formats/bundle/spec";
import * as schema from "../schema";

/** Where a file of the bundle is kept. */
export interface Store {
	readonly file: BundleFile;
	readonly table: Table;
	readonly tableName: string;
	/** database column by field of the bundle */
	readonly columns: ReadonlyMap<string, string>;
	/** database columns that name a row */
	readonly key: readonly string[];
	/** rows are written in an order of their own, kept in the column `ordinal` */
	readonly ordinal: boolean;
}

const TABLES: Record<BundleFile, Table> = {
	"people.csv": schema.people,
	"accounts.csv": schema.accounts,
	"stages.csv": schema.stages,
	"contacts.csv": schema.contacts,
	"deals.csv": schema.deals,
	"deal_versions.csv": schema.dealVersions,
	"deal_contacts.csv": schema.dealContacts,
	"activities.csv": schema.activities,
	"questions.csv": schema.questions,
	"question_editions.csv": schema.questionEditions,
	"answers.csv": schema.answers,
	"notes.csv": schema.notes,
	"close_plan_steps.csv": schema.closePlanSteps,
	"quotes.csv": schema.quotes,
	"deal_lines.csv": schema.dealLines,
	"orders.csv": schema.orders,
	"tasks.csv": schema.tasks,
	"targets.csv": schema.targets,
	"holidays.csv": schema.holidays,
	"rates.csv": schema.rates,
	"marks.csv": schema.marks,
	"round_plans.csv": schema.roundPlans,
	"rounds.csv": schema.rounds,
	"round_deals.csv": schema.roundDeals,
	"round_calls.csv": schema.roundCalls,
	"round_ready.csv": schema.roundReady,
	"rests.csv": schema.rests,
	"account_notes.csv": schema.accountNotes,
	"attachments.csv": schema.attachments,
	"kits.csv": schema.kits,
	"views.csv": schema.views,
	"view_places.csv": schema.viewPlaces,
	"boards.csv": schema.boards,
	"board_openings.csv": schema.boardOpenings,
	"tries.csv": schema.tries,
	"thresholds.csv": schema.thresholds,
	"notification_choices.csv": schema.wishes,
	"digest_times.csv": schema.digestTimes,
	"webhooks.csv": schema.webhooks,
	"task_changes.csv": schema.taskChanges,
	"former_facts.csv": schema.formerFacts,
};

/** Fields that are kept under another name, or (null) elsewhere. */
const OTHERWISE: Partial<Record<BundleFile, Record<string, string | null>>> = {
	"people.csv": { parent_team: null },
	"deal_versions.csv": { at: "valid_from" },
};

/** The stores of all files, in the order in which they can be written. */
export const STORES: readonly Store[] = SPECS.map((spec) => {
	const table = TABLES[spec.file];
	const names = new Set(Object.values(getTableColumns(table)).map((column) => column.name));
	const columns = new Map<string, string>();
	for (const field of spec.fields) {
		const renamed = OTHERWISE[spec.file]?.[field.name];
		const column = renamed === undefined ? field.name : renamed;
		if (column === null) continue;
		if (!names.has(column)) throw new Error(`${spec.file}: no column for ${field.name}`);
		columns.set(field.name, column);
	}
	const ordinal = names.has("ordinal");
	const key = spec.group ? [spec.group, "ordinal"] : spec.key.map((name) => columns.get(name) as string);
	return { file: spec.file, table, tableName: getTableName(table), columns, key, ordinal };
});
