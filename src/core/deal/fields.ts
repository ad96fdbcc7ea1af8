import type { Company } from "../company";
import { type Block, CATEGORIES, NONE, nextStepOf } from "../history/columns";
import type { Stage } from "../history/stage";
import { currencySign, wholeAmount } from "../money/words";
import { isoOrNull, parseDay, parts } from "../time/day";
import { longDay, shortDay } from "../time/words";
import { plural } from "../words/grammar";
import type { DealState, FieldKey, FieldValue } from "./state";

/** What the words of a field's value depend on. */
export interface FieldSetting {
	readonly stages: readonly Pick<Stage, "name" | "kind" | "rank">[];
	/** of the amount, at the later of two states */
	readonly currency: string;
	/** who an owner's value names: an id, or an index where states come from the columns */
	readonly person: (value: FieldValue) => string;
	/** the year that days needn't name */
	readonly near?: number | undefined;
	/** the amounts of the two states are in two currencies */
	readonly currencyDiffers?: boolean | undefined;
	/** the later state is won or lost */
	readonly closed?: boolean | undefined;
}

/** A field that is kept with every version of a deal. */
export interface VersionedField {
	readonly key: FieldKey;
	/** what screens call it */
	readonly label: string;
	/** how it is written and edited */
	readonly kind: "stage" | "money" | "currency" | "day" | "person" | "category" | "text";
	/** Its value at a row of a block: stages, currencies and categories by name, days ISO, the owner by index; null: blank. */
	at(company: Company, block: Block, row: number): FieldValue;
	/** Whether a change is better for the period, or worse; null: neither. Without it, a change is neither. */
	better?(before: FieldValue, after: FieldValue, setting: FieldSetting): boolean | null;
	/** By how much it changed, in words, where neither end is blank; null where before and after say it all. */
	told?(before: FieldValue, after: FieldValue, setting: FieldSetting): string | null;
	/** of a deal that was closed it follows from the closing, and isn't told as a change */
	readonly endsWithDeal?: true;
	/** changed by a box of its own, or (named) in the box of another field */
	readonly edited: "alone" | FieldKey | null;
}

const stageRank = (name: FieldValue, { stages }: FieldSetting) => {
	const stage = stages.find((one) => one.name === name);
	return stage?.kind === "won" ? 1000 : stage?.kind === "lost" ? -1 : (stage?.rank ?? 0);
};
const categoryPlace = (category: FieldValue) => CATEGORIES.indexOf(category as never);
const dayOf = (iso: FieldValue) => parseDay(String(iso)) ?? 0;

const stage: VersionedField = {
	key: "stage",
	label: "Stage",
	kind: "stage",
	edited: "alone",
	at: ({ rules }, block, row) => rules.stages[block.stage[row] as number]?.name ?? null,
	better: (before, after, setting) => stageRank(after, setting) > stageRank(before, setting),
	told: (before, after, setting) => (setting.closed ? null : stageRank(after, setting) > stageRank(before, setting) ? "moved on" : "moved back"),
};

/** A blank amount counts as 0. */
const amount: VersionedField = {
	key: "amount",
	label: "Amount",
	kind: "money",
	edited: "alone",
	at: (_, block, row) => (Number.isNaN(block.amount[row] as number) ? null : (block.amount[row] as number)),
	better: (before, after) => Number(after ?? 0) > Number(before ?? 0),
	told: (before, after, { currency, currencyDiffers }) => {
		const more = Number(after) - Number(before);
		return currencyDiffers ? null : `${currencySign(currency)}${wholeAmount(Math.abs(more), currency)} ${more > 0 ? "more" : "less"}`;
	},
};

const currency: VersionedField = {
	key: "currency",
	label: "Currency",
	kind: "currency",
	edited: null,
	at: ({ rules }, block, row) => rules.currencies[block.currency[row] as number] ?? null,
};

const closeDate: VersionedField = {
	key: "closeDate",
	label: "Close date",
	kind: "day",
	edited: "alone",
	at: (_, block, row) => isoOrNull(block.close[row] as number),
	better: (before, after, { closed }) => (closed || before === null ? null : after !== null && String(after) < String(before)),
	told: (before, after) => {
		const later = dayOf(after) - dayOf(before);
		return `${plural(Math.abs(later), "day")} ${later > 0 ? "later" : "earlier"}`;
	},
};

const owner: VersionedField = {
	key: "ownerId",
	label: "Owner",
	kind: "person",
	edited: "alone",
	at: (_, block, row) => (block.owner[row] === NONE ? null : (block.owner[row] as number)),
};

const category: VersionedField = {
	key: "category",
	label: "Category",
	kind: "category",
	edited: "alone",
	at: (_, block, row) => CATEGORIES[block.category[row] as number] ?? null,
	better: (before, after, { closed }) => (closed || before === null || after === null ? null : categoryPlace(after) < categoryPlace(before)),
	told: (before, after, { closed }) => (closed ? null : categoryPlace(after) < categoryPlace(before) ? "surer" : "less sure"),
};

const nextStep: VersionedField = {
	key: "nextStep",
	label: "Next step",
	kind: "text",
	edited: "alone",
	endsWithDeal: true,
	at: (_, block, row) => nextStepOf(block, row) || null,
};

const nextStepDate: VersionedField = {
	key: "nextStepDate",
	label: "Next step’s day",
	kind: "day",
	edited: "nextStep",
	endsWithDeal: true,
	at: (_, block, row) => isoOrNull(block.nextStepDay[row] as number),
};

/** The reason of a version that only takes the one before it back: a word of the store, never shown as a reason. */
export const UNDONE = "undone";

/** Every field that is kept with each version of a deal, in the order in which changes are told. */
export const FIELDS: readonly VersionedField[] = [stage, amount, currency, closeDate, owner, category, nextStep, nextStepDate];
export const FIELD_KEYS: readonly FieldKey[] = FIELDS.map((field) => field.key);

/**
 * The field with a key.
 *
 * @throws Error for a key there is none of
 * @example fieldOf("closeDate").label // "Close date"
 */
export function fieldOf(key: FieldKey): VersionedField {
	const found = FIELDS.find((field) => field.key === key);
	if (!found) throw new Error(`no versioned field is called ${key}`);
	return found;
}

/**
 * The fields of a state alone, of something that has them among others.
 *
 * @example stateOf({ id: 7, stage: "Terms", amount: 100, … }) // { stage: "Terms", amount: 100, … }
 */
export const stateOf = (from: DealState): DealState => Object.fromEntries(FIELD_KEYS.map((key) => [key, from[key]])) as unknown as DealState;

export const BLANK_STATE = Object.fromEntries(FIELD_KEYS.map((key) => [key, null])) as unknown as DealState;

/**
 * The state at a row of a block; `idOf` gives a person's id by index.
 */
export function stateAt(company: Company, block: Block, row: number, idOf: (person: number) => string | null): DealState {
	const state = Object.fromEntries(FIELDS.map((field) => [field.key, field.at(company, block, row)]));
	return { ...state, ownerId: state.ownerId === null ? null : idOf(Number(state.ownerId)) } as unknown as DealState;
}

/**
 * The fields in which two states differ; an empty text is a blank.
 *
 * @example differing({ ...BLANK_STATE, amount: 0 }, BLANK_STATE) // ["amount"]
 */
export function differing(before: DealState | null, after: DealState): FieldKey[] {
	const was = before ?? BLANK_STATE;
	return FIELD_KEYS.filter((key) => blankAsNull(was[key]) !== blankAsNull(after[key]));
}
const blankAsNull = (value: FieldValue) => (value === "" ? null : value);

/**
 * A field's value in words: `€1 200`, `18 Nov 2026`, `best case`, or `blank`.
 *
 * @example valueWords(fieldOf("category"), "best_case", setting) // "best case"
 */
export function valueWords({ kind }: VersionedField, value: FieldValue, setting: FieldSetting): string {
	if (kind === "person" && value === null) return setting.person(null);
	if (value === null || value === "") return "blank";
	if (kind === "money") return `${currencySign(setting.currency)}${wholeAmount(Number(value), setting.currency)}`;
	if (kind === "person") return setting.person(value);
	if (kind === "day") return parts(dayOf(value)).year === setting.near ? shortDay(dayOf(value)) : longDay(dayOf(value));
	return String(value).replaceAll("_", " ");
}
