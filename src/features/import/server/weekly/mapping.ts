import { evenChances, type Stage } from "@/core/history/stage";
import type { StageInput } from "@/features/setup";
import type { CsvTable } from "@/formats/csv";
import { type Columns, comparable, guessColumns } from "@/formats/weekly/fields";
import { cellsOf, type WeeklyPlan } from "@/formats/weekly/read";
import { guessDates, guessDecimal } from "@/formats/weekly/values";
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

const KIND_WORDS = { won: /\bwon\b/, lost: /\blost\b/ } as const;
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

/** A whole plan for a file: what was chosen now, else what is remembered, else a guess; `unsure` says where the guess isn't certain. */
export function planFor(
	context: Context,
	table: CsvTable,
	chosen: Partial<WeeklyPlan> | null,
	remembered: WeeklyPlan | null,
): { plan: WeeklyPlan; unsure: { dates: boolean } } {
	const { stages, rates } = context.organisation.company.rules;
	const columns: Columns = chosen?.columns ?? guessColumns(table.header, remembered?.columns ?? null);
	const dates = guessDates([...cellsOf(table, columns.closeDate), ...cellsOf(table, columns.nextStepDate), ...cellsOf(table, columns.created)]);
	const said = { ...remembered?.stages, ...chosen?.stages };
	const theirs = [...new Set(cellsOf(table, columns.stage).map((cell) => cell.trim()))].filter(Boolean);
	const named = theirs.flatMap((name) => {
		const ours = stages.find((stage) => stage.name === said[name])?.name ?? guessStage(name, stages);
		return ours === null ? [] : [[name, ours] as const];
	});
	const order = chosen?.dates ?? (dates?.sure ? dates.order : (remembered?.dates ?? dates?.order ?? "ymd"));
	return {
		plan: {
			columns,
			dates: order,
			decimal: chosen?.decimal ?? remembered?.decimal ?? guessDecimal(cellsOf(table, columns.amount)),
			currency: chosen?.currency ?? remembered?.currency ?? rates.base,
			stages: Object.fromEntries(named),
		},
		unsure: { dates: !chosen?.dates && !remembered?.dates && dates !== null && !dates.sure },
	};
}
