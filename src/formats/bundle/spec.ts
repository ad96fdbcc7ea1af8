import { CATEGORIES, OTHER_CATEGORY_WORDS } from "../../core/history/columns";

/** How a field of the bundle is written. Amounts name the column that holds their currency. */
export type FieldType =
	| { readonly is: "text" | "id" | "day" | "instant" | "currency" | "yes" | "ids" | "words" }
	| { readonly is: "whole"; readonly least: number; readonly most: number }
	| { readonly is: "decimal"; readonly least: number; readonly most: number }
	| { readonly is: "amount" }
	| { readonly is: "choice"; readonly of: readonly string[]; readonly words?: Readonly<Record<string, string>> };

export interface FieldSpec {
	readonly name: string;
	readonly type: FieldType;
	/** a blank is a problem */
	readonly needed: boolean;
	/** though needed, it may be blank where all but the row's key is */
	readonly blankAlone: boolean;
	/** the file whose ids it names */
	readonly refers: BundleFile | null;
	/** it is written only where a row has a value */
	readonly extra: boolean;
}

export interface FileSpec {
	readonly file: BundleFile;
	readonly required: boolean;
	readonly fields: readonly FieldSpec[];
	/** the fields that name a row; two rows alike in them are a problem. Empty: rows may repeat. */
	readonly key: readonly string[];
	/** for files whose rows may repeat: the field that groups them */
	readonly group?: string;
}

export const BUNDLE_FILES = [
	"people.csv",
	"accounts.csv",
	"stages.csv",
	"deals.csv",
	"deal_versions.csv",
	"contacts.csv",
	"deal_contacts.csv",
	"activities.csv",
	"questions.csv",
	"question_editions.csv",
	"answers.csv",
	"notes.csv",
	"close_plan_steps.csv",
	"quotes.csv",
	"deal_lines.csv",
	"orders.csv",
	"tasks.csv",
	"targets.csv",
	"holidays.csv",
	"rates.csv",
	"marks.csv",
] as const;
export type BundleFile = (typeof BUNDLE_FILES)[number];
export const SETTINGS_FILE = "settings.json";

type Options = Partial<Pick<FieldSpec, "needed" | "blankAlone" | "refers" | "extra">>;
const field = (name: string, type: FieldType, options: Options = {}): FieldSpec => ({
	name,
	type,
	needed: false,
	blankAlone: false,
	refers: null,
	extra: false,
	...options,
});
const text = (name: string, options?: Options) => field(name, { is: "text" }, options);
const id = (name = "id") => field(name, { is: "id" }, { needed: true });
const ref = (name: string, refers: BundleFile, options?: Options) => field(name, { is: "id" }, { refers, ...options });
const day = (name: string, options?: Options) => field(name, { is: "day" }, options);
const instant = (name: string, options?: Options) => field(name, { is: "instant" }, options);
const choice = (name: string, of: readonly string[], options?: Options) => field(name, { is: "choice", of }, options);
const money = (name = "amount", options?: Options) => field(name, { is: "amount" }, options);
const currency = (options?: Options) => field("currency", { is: "currency" }, options);
const needed = { needed: true };

/**
 * Every file of the open bundle: reading, checking, writing and the documentation all follow from this list.
 * A file only names files above it or itself.
 */
export const SPECS: readonly FileSpec[] = [
	{
		file: "people.csv",
		required: true,
		key: ["id"],
		fields: [
			id(),
			text("name", needed),
			text("email"),
			choice("role", ["manager", "rep", "ops", "viewer"], needed),
			text("team"),
			text("parent_team"),
			day("active_from"),
			day("active_to"),
			field("also", { is: "words" }, { extra: true }),
		],
	},
	{
		file: "accounts.csv",
		required: true,
		key: ["id"],
		fields: [id(), text("name"), choice("kind", ["customer", "prospect"]), text("industry"), text("territory"), ref("owner_id", "people.csv")],
	},
	{
		file: "stages.csv",
		required: true,
		key: ["name"],
		fields: [
			field("position", { is: "whole", least: 0, most: 1000 }, needed),
			id("name"),
			choice("kind", ["open", "won", "lost"], needed),
			field("probability", { is: "decimal", least: 0, most: 1 }, needed),
			// Of won and lost stages it may be blank.
			field("usual_days", { is: "decimal", least: 0, most: 10_000 }),
		],
	},
	{
		file: "contacts.csv",
		required: false,
		key: ["id"],
		fields: [
			id(),
			ref("account_id", "accounts.csv"),
			text("name"),
			text("title"),
			text("email"),
			choice("buying_role", ["decision_maker", "champion", "influencer", "user", "blocker", "unknown"]),
			ref("reports_to_id", "contacts.csv"),
		],
	},
	{
		file: "deals.csv",
		required: true,
		key: ["id"],
		fields: [
			id(),
			ref("account_id", "accounts.csv"),
			text("name"),
			text("source"),
			instant("created_at", needed),
			text("competitor"),
			text("outcome_reason"),
			field("tags", { is: "words" }),
		],
	},
	{
		file: "deal_versions.csv",
		required: true,
		key: ["deal_id", "at"],
		fields: [
			ref("deal_id", "deals.csv", needed),
			instant("at", needed),
			// A row with nothing but its deal and instant: the deal was taken off the books.
			ref("stage", "stages.csv", { ...needed, blankAlone: true }),
			money(),
			currency(),
			day("close_date"),
			ref("owner_id", "people.csv"),
			field("category", { is: "choice", of: CATEGORIES, words: OTHER_CATEGORY_WORDS }),
			text("next_step"),
			day("next_step_date"),
			ref("by_id", "people.csv", { extra: true }),
			text("reason", { extra: true }),
		],
	},
	{
		file: "deal_contacts.csv",
		required: false,
		key: ["deal_id", "contact_id"],
		fields: [ref("deal_id", "deals.csv", needed), ref("contact_id", "contacts.csv", needed)],
	},
	{
		file: "activities.csv",
		required: false,
		key: ["id"],
		fields: [
			id(),
			ref("deal_id", "deals.csv"),
			ref("account_id", "accounts.csv"),
			field("contact_ids", { is: "ids" }, { refers: "contacts.csv" }),
			text("kind", needed),
			choice("direction", ["in", "out", "both", "none"], needed),
			choice("state", ["planned", "done"], needed),
			instant("at", needed),
			ref("by_id", "people.csv"),
			text("subject"),
			text("body"),
		],
	},
	{
		file: "questions.csv",
		required: false,
		key: ["id"],
		fields: [
			id(),
			text("area", needed),
			text("prompt", needed),
			text("help"),
			field("weight", { is: "decimal", least: 0.000001, most: 1_000_000 }, needed),
			field("due_stage_position", { is: "whole", least: 1, most: 1000 }, needed),
			field("key", { is: "yes" }),
		],
	},
	{
		file: "question_editions.csv",
		required: false,
		key: ["at", "question_id"],
		fields: [
			instant("at", needed),
			ref("question_id", "questions.csv", needed),
			field("place", { is: "whole", least: 0, most: 100_000 }, needed),
			text("area", needed),
			text("prompt", needed),
			text("help"),
			field("weight", { is: "decimal", least: 0.000001, most: 1_000_000 }, needed),
			field("due_stage_position", { is: "whole", least: 1, most: 1000 }, needed),
			field("key", { is: "yes" }),
		],
	},
	{
		file: "answers.csv",
		required: false,
		key: ["deal_id", "question_id", "at"],
		fields: [
			ref("deal_id", "deals.csv", needed),
			ref("question_id", "questions.csv", needed),
			choice("level", ["unknown", "against", "assumed", "heard", "shown"], needed),
			text("note"),
			instant("at", needed),
			ref("by_id", "people.csv"),
			text("shown_by", { extra: true }),
		],
	},
	{
		file: "notes.csv",
		required: false,
		key: ["id"],
		fields: [
			id(),
			ref("deal_id", "deals.csv", needed),
			instant("at", needed),
			ref("by_id", "people.csv"),
			text("body", needed),
			field("mentions", { is: "ids" }, { refers: "people.csv" }),
		],
	},
	{
		file: "close_plan_steps.csv",
		required: false,
		key: ["id"],
		fields: [id(), ref("deal_id", "deals.csv", needed), text("title", needed), day("due_on"), choice("side", ["ours", "theirs"], needed), day("done_on")],
	},
	{
		file: "quotes.csv",
		required: false,
		key: ["id"],
		fields: [
			id(),
			ref("deal_id", "deals.csv", needed),
			text("number"),
			day("sent_on"),
			day("valid_until"),
			day("answered_on"),
			text("answer"),
			money(),
			currency(),
		],
	},
	{
		file: "deal_lines.csv",
		required: false,
		key: [],
		group: "deal_id",
		fields: [
			ref("deal_id", "deals.csv", needed),
			text("product"),
			text("family"),
			field("quantity", { is: "decimal", least: -1e9, most: 1e9 }),
			money("list_price"),
			money("unit_price"),
			currency(),
		],
	},
	{
		file: "orders.csv",
		required: false,
		key: [],
		group: "account_id",
		fields: [ref("account_id", "accounts.csv", needed), day("date", needed), text("product"), money(), currency()],
	},
	{
		file: "tasks.csv",
		required: false,
		key: ["id"],
		fields: [
			id(),
			ref("deal_id", "deals.csv"),
			text("title", needed),
			ref("assignee_id", "people.csv"),
			day("due_on"),
			instant("created_at", needed),
			instant("done_at"),
			choice("state", ["open", "done", "dropped"], needed),
			field("flags", { is: "words" }),
			ref("created_by_id", "people.csv", { extra: true }),
			text("note", { extra: true }),
		],
	},
	{
		file: "targets.csv",
		required: false,
		key: ["person_id", "period_start", "period_end", "family"],
		fields: [
			ref("person_id", "people.csv", needed),
			day("period_start", needed),
			day("period_end", needed),
			money("amount", needed),
			currency(needed),
			text("family", { extra: true }),
		],
	},
	{ file: "holidays.csv", required: false, key: ["date"], fields: [day("date", needed), text("name")] },
	{
		file: "rates.csv",
		required: false,
		key: ["currency", "date"],
		fields: [currency(needed), day("date", needed), field("rate", { is: "decimal", least: 1e-9, most: 1e9 }, needed)],
	},
	{ file: "marks.csv", required: false, key: ["at", "name"], fields: [instant("at", needed), text("name", needed)] },
];

/** The field that names a row of a file, for references to it; null where rows have no name. */
export function nameField(spec: FileSpec): string | null {
	return spec.key.length === 1 ? (spec.key[0] ?? null) : null;
}
