import { amount } from "./amount";
import { attention } from "./attention";
import { category } from "./category";
import { close } from "./close";
import { closed } from "./closed";
import { competitor } from "./competitor";
import { coverage } from "./coverage";
import { customer } from "./customer";
import { dealAge } from "./dealAge";
import { family } from "./family";
import type { Filter, FilterField, FilterSetting, Op } from "./filter";
import { gaps } from "./gaps";
import { industry } from "./industry";
import { lastTouch } from "./lastTouch";
import { level } from "./level";
import { owner } from "./owner";
import { probability } from "./probability";
import { product } from "./product";
import { pushes } from "./pushes";
import { runway } from "./runway";
import { source } from "./source";
import { stage } from "./stage";
import { stageAge } from "./stageAge";
import { strength } from "./strength";
import { tag } from "./tag";
import { territory } from "./territory";
import { text } from "./text";
import { waiting } from "./waiting";

export { choicesOf, type Filter, type FilterField, type FilterSetting } from "./filter";

/** Every field and figure by which deals can be filtered, as the menu lists them. A new one is one file and one line here. */
export const FILTERS: readonly FilterField[] = [
	amount,
	probability,
	runway,
	close,
	closed,
	lastTouch,
	attention,
	level,
	strength,
	coverage,
	gaps,
	pushes,
	stageAge,
	dealAge,
	stage,
	owner,
	category,
	waiting,
	product,
	family,
	territory,
	industry,
	source,
	competitor,
	customer,
	tag,
	text,
];

const BY_FIELD: ReadonlyMap<string, FilterField> = new Map(FILTERS.map((filter) => [filter.field, filter]));
/** The filter of a field; undefined for one there is none of. */
export const filterField = (name: string): FilterField | undefined => BY_FIELD.get(name);

/** Reads a condition of an address; null when it can't be one. */
export function readFilter(text: string): Filter | null {
	const [name = "", op = "", ...rest] = text.split(".");
	const value = rest.join(".");
	const found = filterField(name);
	return found?.ops.includes(op as Op) && value && found.reads(value) ? { field: name, op, value } : null;
}

/** A filter as it stands in the address. */
export const writeFilter = ({ field, op, value }: Filter): string => `${field}.${op}.${value}`;

/** Whether a deal meets a condition. A deal without the figure doesn't, but one never spoken to was last spoken to long ago. */
export const meets = (row: Parameters<FilterField["meets"]>[0], filter: Filter, setting: FilterSetting): boolean =>
	filterField(filter.field)?.meets(row, filter, setting) ?? true;

/** A condition as it reads: `amount from €50k`, `closing in the next 20 working days`. */
export const filterWords = (filter: Filter, setting: Pick<FilterSetting, "currency">): string => filterField(filter.field)?.describe(filter, setting) ?? "";
