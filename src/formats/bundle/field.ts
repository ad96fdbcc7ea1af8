/** How a field of the bundle is written. Amounts name the column that holds their currency. */
export type FieldType =
	| { readonly is: "text" | "id" | "day" | "instant" | "currency" | "yes" | "ids" | "words" | "json" }
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
	/** what stands where nothing was said: it is written as a blank, and a blank is read as it */
	readonly standard: string | number | boolean | null;
}

export interface FileSpec {
	readonly file: BundleFile;
	readonly required: boolean;
	readonly fields: readonly FieldSpec[];
	/** the fields that name a row; two rows alike in them are a problem. Empty: rows may repeat. */
	readonly key: readonly string[];
	/** for files whose rows may repeat: the field that groups them */
	readonly group?: string;
	/** the fields by which rows are written one after the other, where that isn't the key */
	readonly order?: readonly string[];
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
	// What is this program's own: another one may leave it out.
	"round_plans.csv",
	"rounds.csv",
	"round_deals.csv",
	"round_calls.csv",
	"round_ready.csv",
	"rests.csv",
	"account_notes.csv",
	"attachments.csv",
	"kits.csv",
	"views.csv",
	"view_places.csv",
	"boards.csv",
	"board_openings.csv",
	"tries.csv",
	"thresholds.csv",
	"notification_choices.csv",
	"digest_times.csv",
	"webhooks.csv",
	"task_changes.csv",
	"former_facts.csv",
] as const;
export type BundleFile = (typeof BUNDLE_FILES)[number];
export const SETTINGS_FILE = "settings.json";

export type Options = Partial<Pick<FieldSpec, "needed" | "blankAlone" | "refers" | "extra" | "standard">>;
/** A column of a file: by its name, what it holds, and whether it may be left out. */
export const field = (name: string, type: FieldType, options: Options = {}): FieldSpec => ({
	name,
	type,
	needed: false,
	blankAlone: false,
	refers: null,
	extra: false,
	standard: null,
	...options,
});
/** A column of text. */
export const text = (name: string, options?: Options) => field(name, { is: "text" }, options);
/** The column that names a row. */
export const id = (name = "id") => field(name, { is: "id" }, { needed: true });
/** A column that names a row of another file. */
export const ref = (name: string, refers: BundleFile, options?: Options) => field(name, { is: "id" }, { refers, ...options });
/** A column of ISO days. */
export const day = (name: string, options?: Options) => field(name, { is: "day" }, options);
/** A column of RFC 3339 instants. */
export const instant = (name: string, options?: Options) => field(name, { is: "instant" }, options);
/** A column of JSON. */
export const json = (name: string, options?: Options) => field(name, { is: "json" }, options);
/** A column of one of some words. */
export const choice = (name: string, of: readonly string[], options?: Options) => field(name, { is: "choice", of }, options);
/** A column of an amount in major units, with a point. */
export const money = (name = "amount", options?: Options) => field(name, { is: "amount" }, options);
/** A column of a currency’s ISO code. */
export const currency = (options?: Options) => field("currency", { is: "currency" }, options);
export const needed = { needed: true };
