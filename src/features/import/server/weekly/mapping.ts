import { evenChances, type Stage } from "@/core/history/stage";
import type { StageInput } from "@/features/setup";
import type { CsvTable } from "@/formats/csv";
import type { Grid } from "@/formats/grid";
import { guessDates } from "@/formats/weekly/dates";
import { type Columns, comparable, guessColumns } from "@/formats/weekly/fields";
import { guessBelow, guessHeader, tableOf } from "@/formats/weekly/layout";
import { type AmountCell, guessDecimal } from "@/formats/weekly/money";
import { cellsOf, type RememberedPlan, type WeeklyPlan } from "@/formats/weekly/read";
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
	/** the order of dates can't be told from the values */
	readonly dates: boolean;
	/** amounts can be read with either decimal mark, and nothing says with which */
	readonly amounts: boolean;
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
	amounts: (table: CsvTable, plan: Pick<WeeklyPlan, "columns" | "currency">) => readonly AmountCell[],
): { plan: WeeklyPlan; unsure: Unsure; table: CsvTable; below: readonly number[] } {
	const { stages, rates, zone } = context.organisation.company.rules;
	const header = chosen?.header ?? guessHeader(grid);
	const rows = grid.rows.filter((row) => row.line > header);
	const below = guessBelow(rows, grid.rows.find((row) => row.line === header)?.cells.filter((cell) => cell.trim()).length ?? 0);
	const leaveBelow = chosen?.leaveBelow ?? true;
	const table = tableOf(grid, header, new Set(leaveBelow ? below : []));
	const columns: Columns = chosen?.columns ?? guessColumns(table.header, before?.columns ?? null);
	const dates = guessDates([...cellsOf(table, columns.closeDate), ...cellsOf(table, columns.nextStepDate), ...cellsOf(table, columns.created)], zone);
	const said = { ...before?.stages, ...chosen?.stages };
	const theirs = [...new Set(cellsOf(table, columns.stage).map((cell) => cell.trim()))].filter(Boolean);
	const named = theirs.flatMap((name) => {
		const ours = stages.find((stage) => Object.hasOwn(said, name) && stage.name === said[name])?.name ?? guessStage(name, stages);
		return ours === null ? [] : [[name, ours] as const];
	});
	const order = chosen?.dates ?? (dates?.sure ? dates.order : (before?.dates ?? dates?.order ?? "ymd"));
	const currency = chosen?.currency ?? before?.currency ?? rates.base;
	const decimal = guessDecimal(amounts(table, { columns, currency }));
	return {
		plan: {
			columns,
			dates: order,
			decimal: chosen?.decimal ?? decimal.mark,
			currency,
			stages: Object.fromEntries(named),
			covers: (chosen?.covers ?? before?.covers ?? "").trim(),
			sheet: grid.sheet,
			header,
			leaveBelow,
			people: { ...before?.people, ...chosen?.people },
		},
		unsure: { dates: !chosen?.dates && !before?.dates && dates !== null && !dates.sure, amounts: !chosen?.decimal && !decimal.sure },
		table,
		below,
	};
}
