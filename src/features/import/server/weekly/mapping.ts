import { evenChances, type Stage } from "@/core/history/stage";
import type { StageInput } from "@/features/setup";
import type { CsvTable } from "@/formats/csv";
import type { Grid } from "@/formats/grid";
import type { Rated } from "@/formats/weekly/currencyMarks";
import { type DateOrder, type DateReading, dateReadings, guessDates } from "@/formats/weekly/dates";
import { type Columns, comparable, guessColumns } from "@/formats/weekly/fields";
import { guessBelow, guessBetween, guessHeader, labels, tableOf } from "@/formats/weekly/layout";
import { type AmountCell, guessDecimal } from "@/formats/weekly/money";
import type { RememberedPlan, WeeklyPlan } from "@/formats/weekly/plan";
import { cellsOf } from "@/formats/weekly/read";
import { currencyIn, scaleIn } from "@/formats/weekly/scale";
import type { Context } from "@/platform/context";

/** Which of our stages a name of theirs means: the one that is called so, or won or lost by its words; null where it has to be said. */
export function guessStage(theirs: string, stages: readonly Stage[]): string | null {
	const name = comparable(theirs);
	const bare = name.replace(/^\d+ /, "");
	const same = stages.find((stage) => [name, bare].includes(comparable(stage.name)));
	if (same) return same.name;
	const kind = KIND_WORDS.won.test(name) ? "won" : KIND_WORDS.lost.test(name) ? "lost" : null;
	const ends = stages.filter((stage) => stage.kind === kind);
	return ends.length === 1 ? (ends[0]?.name ?? null) : null;
}

const KIND_WORDS = { won: /\b(won|gewonnen|gagné|gagnée|ganado|ganada)\b/, lost: /\b(lost|verloren|perdu|perdue|perdido|perdida)\b/ } as const;
/** Orders that make other days of the same figures. */
const TURNED: readonly DateOrder[] = ["dmy", "mdy"];
/** Until somebody says better. */
const USUAL_DAYS = 10;

/**
 * Stages made of theirs, for a program that has none yet: by the numbers they begin with where all have one, else as
 * they come; chances rise evenly; there is always a won and a lost one, at the end.
 */
export function suggestStages(theirs: readonly string[]): StageInput[] {
	const number = (name: string) => Number(/^\D?(\d+)/.exec(name)?.[1] ?? Number.NaN);
	const kindOf = (name: string) => (KIND_WORDS.won.test(comparable(name)) ? "won" : KIND_WORDS.lost.test(comparable(name)) ? "lost" : "open");
	const names = [...new Set(theirs)];
	if (names.every((name) => !Number.isNaN(number(name)))) names.sort((a, b) => number(a) - number(b));
	const of = (kind: StageInput["kind"]) => names.filter((name) => kindOf(name) === kind);
	const make = (kind: StageInput["kind"], named: readonly string[]) =>
		named.map((name) => ({ was: null, name: name.slice(0, 100), kind, usualDays: kind === "open" ? USUAL_DAYS : 0 }));
	const ends = (kind: "won" | "lost", usual: string) => make(kind, of(kind).length ? of(kind) : [usual]);
	return evenChances([...make("open", of("open")), ...ends("won", "Won"), ...ends("lost", "Lost")]);
}

/** What a plan can't be sure of by itself. */
export interface Unsure {
	/** the order of dates can't be told from the values, nor from how they were read before */
	readonly dates: boolean;
	/** a title above the table says that something is in thousands or millions, and the column's header doesn't */
	readonly scale: boolean;
	/** the text may be in several encodings, and neither names nor letters say in which */
	readonly encoding: boolean;
	/** deals stand on several lines that differ in more than their amount */
	readonly lines: boolean;
	/** amounts can be read with either decimal mark, and nothing says with which */
	readonly amounts: boolean;
}

/** The currencies that have a rate. */
export const ratedIn = ({ organisation, now }: Context): Rated => {
	const { rates } = organisation.company.rules;
	return { has: (code) => code === rates.base || rates.on(code, now.day) !== null };
};

/** A plan with what it was made by. */
export interface Planned {
	readonly plan: WeeklyPlan;
	/** all but what reading the rows shows */
	readonly unsure: Omit<Unsure, "lines">;
	readonly table: CsvTable;
	/** lines between and below deals that are none */
	readonly below: readonly number[];
	/** what the file's dates become by each order that can read them; empty where there is nothing to choose */
	readonly dateReadings: readonly DateReading[];
	/** dates were read in another order before, which can't read these */
	readonly datesBefore: DateOrder | null;
}

/**
 * A whole plan for a file: what was chosen now, else what is remembered of the file before, else a guess. How amounts
 * are written is read anew from each file: a program may write them otherwise from one week to the next.
 * `amounts` are the cells of a column of amounts, with what last week's deals were.
 */
export function planFor(
	context: Context,
	grid: Grid,
	chosen: Partial<WeeklyPlan> | null,
	before: Partial<RememberedPlan> | null,
	amounts: (table: CsvTable, plan: Pick<WeeklyPlan, "columns" | "currency" | "scale">) => readonly AmountCell[],
): Planned {
	const { rates, zone } = context.organisation.company.rules;
	const header = chosen?.header ?? guessHeader(grid);
	const { columns, table, below, leaveBelow } = tableIn(grid, header, chosen, before);
	const days = [columns.closeDate, columns.nextStepDate, columns.created].flatMap((column) => cellsOf(table, column));
	const dates = guessDates(days, zone);
	// What was said of the files before holds as long as it reads these as well as anything else does.
	const holds = before?.dates && dates?.able.includes(before.dates) ? before.dates : null;
	const order = chosen?.dates ?? (dates?.sure ? dates.order : (holds ?? dates?.order ?? "ymd"));
	const { scale, sure: sureScale } = scaleFor(grid, header, columns, chosen, before);
	const currency = chosen?.currency ?? currencyIn(columns.amount ?? "", ratedIn(context)) ?? before?.currency ?? rates.base;
	const decimal = guessDecimal(amounts(table, { columns, currency, scale }));
	const asked = !chosen?.dates && dates !== null && !dates.sure && holds === null;
	const turned =
		!chosen?.dates && dates?.sure && before?.dates && !dates.able.includes(before.dates) && TURNED.includes(before.dates) && TURNED.includes(dates.order);
	return {
		plan: {
			columns,
			dates: order,
			decimal: chosen?.decimal ?? decimal.mark,
			scale,
			currency,
			stages: stagesNamed(context, table, columns, { ...before?.stages, ...chosen?.stages }),
			covers: (chosen?.covers ?? before?.covers ?? "").trim(),
			sheet: grid.sheet,
			header,
			leaveBelow,
			people: { ...before?.people, ...chosen?.people },
			encoding: chosen?.encoding ?? null,
			goodOnly: chosen?.goodOnly ?? false,
			lines: chosen?.lines ?? null,
			adds: chosen?.adds ?? false,
		},
		unsure: {
			dates: asked,
			amounts: !chosen?.decimal && !decimal.sure,
			scale: !sureScale,
			encoding: grid.open.length > 0,
		},
		dateReadings: asked && dates ? dateReadings(days, dates.able, zone) : [],
		datesBefore: turned ? (before?.dates ?? null) : null,
		table,
		below,
	};
}

type Chosen = Partial<WeeklyPlan> | null;
type Before = Partial<RememberedPlan> | null;

/** The table below a header, its columns, and the lines below or between that look like no row of it. */
function tableIn(grid: Grid, header: number, chosen: Chosen, before: Before) {
	const rows = grid.rows.filter((row) => row.line > header);
	const head = grid.rows.find((row) => row.line === header)?.cells ?? [];
	const width = head.filter((cell) => cell.trim()).length;
	const names = labels(head);
	const columns: Columns = chosen?.columns ?? guessColumns(names, before?.columns ?? null);
	const needed = [columns.stage, columns.closeDate, columns.owner].map((column) => (column === null ? -1 : names.indexOf(column))).filter((at) => at >= 0);
	const below = [...new Set([...guessBetween(rows, width, needed), ...guessBelow(rows, width)])].sort((a, b) => a - b);
	const leaveBelow = chosen?.leaveBelow ?? true;
	return { columns, below, leaveBelow, table: tableOf(grid, header, new Set(leaveBelow ? below : [])) };
}

/** Each stage of the file by ours, where it is known or can be guessed. */
function stagesNamed(context: Context, table: CsvTable, columns: Columns, said: Readonly<Record<string, string>>): Record<string, string> {
	const { stages } = context.organisation.company.rules;
	const theirs = [...new Set(cellsOf(table, columns.stage).map((cell) => cell.trim()))].filter(Boolean);
	return Object.fromEntries(
		theirs.flatMap((name) => {
			const ours = stages.find((stage) => Object.hasOwn(said, name) && stage.name === said[name])?.name ?? guessStage(name, stages);
			return ours === null ? [] : [[name, ours] as const];
		}),
	);
}

/** The unit of amounts: as chosen, in the column’s name, as before, or above the table; only this last has to be asked. */
function scaleFor(grid: Grid, header: number, columns: Columns, chosen: Chosen, before: Before): { scale: WeeklyPlan["scale"]; sure: boolean } {
	const inHeader = scaleIn(columns.amount ?? "");
	const above =
		grid.rows
			.filter((row) => row.line < header)
			.flatMap(({ cells }) => cells.map(scaleIn))
			.find((one) => one !== null) ?? null;
	return {
		scale: chosen?.scale ?? inHeader ?? before?.scale ?? above ?? 0,
		sure: chosen?.scale !== undefined || inHeader !== null || before?.scale !== undefined || above === null,
	};
}
