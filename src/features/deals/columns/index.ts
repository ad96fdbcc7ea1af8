import { account } from "./account";
import { amount } from "./amount";
import { attention } from "./attention";
import { category } from "./category";
import { change } from "./change";
import { close } from "./close";
import type { Column } from "./column";
import { competitor } from "./competitor";
import { coverage } from "./coverage";
import { created } from "./created";
import { customer } from "./customer";
import { dealAge } from "./dealAge";
import { evidence } from "./evidence";
import { flags } from "./flags";
import { gaps } from "./gaps";
import { industry } from "./industry";
import { lastTouch } from "./lastTouch";
import { name } from "./name";
import { nextStep } from "./nextStep";
import { nextStepDate } from "./nextStepDate";
import { owner } from "./owner";
import { probability } from "./probability";
import { products } from "./products";
import { pushes } from "./pushes";
import { runway } from "./runway";
import { source } from "./source";
import { stage } from "./stage";
import { stageAge } from "./stageAge";
import { strength } from "./strength";
import { tags } from "./tags";
import { territory } from "./territory";
import { weighted } from "./weighted";

/** Every column a table of deals can show, sort by and write into a file, as the chooser lists them. A new one is one file and one line here. */
export const COLUMNS: readonly Column[] = [
	attention,
	name,
	account,
	owner,
	stage,
	stageAge,
	amount,
	change,
	weighted,
	probability,
	close,
	runway,
	pushes,
	evidence,
	strength,
	coverage,
	gaps,
	flags,
	category,
	nextStep,
	nextStepDate,
	lastTouch,
	dealAge,
	created,
	source,
	competitor,
	customer,
	territory,
	industry,
	products,
	tags,
];

/** What a table shows unless columns are chosen. */
export const STANDARD_COLUMNS = ["attention", "name", "owner", "stage", "amount", "close", "evidence", "flags"] as const;

const BY_KEY: ReadonlyMap<string, Column> = new Map(COLUMNS.map((column) => [column.key, column]));
/** The column with a key, as it stands in an address; undefined where there is none. */
export const columnOf = (key: string): Column | undefined => BY_KEY.get(key);

/** The columns with a figure of their own, which the server makes. */
export const FIGURES: readonly (Column & Required<Pick<Column, "figure">>)[] = COLUMNS.flatMap((column) => {
	const { figure } = column;
	return figure ? [{ ...column, figure }] : [];
});
