import { createHash } from "node:crypto";
import type { DealState } from "@/core/deal/state";
import { parseDay } from "@/core/time/day";
import type { Sql } from "@/data/db";
import { weeklyFiles } from "@/data/schema";
import type { Problem } from "@/formats/bundle/model";
import { causesOf } from "@/formats/causes";
import { CsvFault, type CsvTable } from "@/formats/csv";
import type { Grid } from "@/formats/grid";
import { dayFromName, WEEKLY_FIELDS } from "@/formats/weekly/fields";
import { dealIdOf, readWeekly, type WeeklyRead } from "@/formats/weekly/read";
import type { WeeklyRow } from "@/formats/weekly/rowReader";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { breathe, inThread } from "@/platform/threads";
import { amountCells, samplesOf, totalsOf } from "./amounts";
import { effectOf } from "./effect";
import { type Planned, planFor, ratedIn, suggestStages } from "./mapping";
import { Names, personWords } from "./people";
import { dayProblems, withoutRate } from "./problems";
import type { SaidRow, WeeklySent, WeeklyView } from "./shapes";

/** A file that was looked at, with all that taking it in needs. */
export interface Looked {
	readonly view: WeeklyView;
	readonly digest: string;
	readonly read: readonly SaidRow[];
	readonly missing: readonly string[];
	readonly names: Names;
	/** the rows that can't be read, as they stand, with what is wrong with each; the header first */
	readonly bad: () => { readonly header: readonly string[]; readonly rows: readonly (readonly string[])[] };
}

/** Reads a file and works out what taking it in would do. Throws a 422 where it can't be read as a table at all. */
export async function look(db: Sql, context: Context, sent: WeeklySent): Promise<Looked> {
	// Long: each step takes what those before it found.
	const { rules } = context.organisation.company;
	const grid = await gridOf(context, sent);
	const files = await db.select().from(weeklyFiles).orderBy(weeklyFiles.day, weeklyFiles.takenAt);
	const sentDay = sent.day ?? dayFromName(sent.name);
	const planned = planFor(context, grid, sent.plan, fileLike(files, sent, sentDay)?.plan ?? null, (cells, of) => amountCells(context, cells, of, sentDay));
	const { plan, unsure, table, below, datesBefore } = planned;
	const found = await readWeekly(sent.name, table, plan, rules.zone, { known: ratedIn(context), breathe });
	const { unknownStages } = found;
	const { rows, all, whole, badLines } = faultsOf(context, sent.name, sentDay, found, plan.header);
	const blocking = plan.goodOnly ? whole : all;
	const digest = createHash("sha256").update(sent.bytes).digest("hex");
	const names = new Names(context, plan.people, sentDay === null ? null : parseDay(sentDay));
	const read = rows.map((row) => ({ ...row, said: stateOf(row, names), accountId: row.account ? names.account(row.account) : null }));
	const people = names.open();
	const open =
		Object.keys(unknownStages).length > 0 ||
		blocking.length > 0 ||
		(plan.goodOnly && !rows.length) ||
		sentDay === null ||
		Object.values(unsure).some(Boolean) ||
		found.differing.length > 0 ||
		people.some(({ name, who }) => who.length > 1 && !plan.people[name]);
	const badDeals = table.records.flatMap(({ line }, i) => (badLines.has(line) ? [dealIdOf(table, plan.columns, i)] : [])).filter(Boolean);
	const sameFile = files.find((file) => file.digest === digest && file.covers === plan.covers);
	const effect = open
		? null
		: await effectOf(db, context, {
				day: sentDay as string,
				covers: plan.covers,
				read,
				names,
				files,
				below,
				plan,
				badDeals,
				rounded: found.rounded,
				datesBefore,
				sameFile,
			});
	const ofDay = files.find((file) => file.day === sentDay && file.covers === plan.covers && file.digest !== digest);
	return {
		digest,
		read,
		names,
		missing: effect?.missing ?? [],
		bad: () => badRows(table, badLines, all),
		view: {
			name: sent.name,
			day: sentDay,
			...tableView(grid, planned, found),
			parts: [...new Set(files.map((file) => file.covers))].filter(Boolean).sort(),
			stages: rules.stages.map((stage) => stage.name),
			firstStages: rules.stages.length || !plan.columns.stage ? null : suggestStages(Object.keys(unknownStages)),
			unknownStages: Object.entries(unknownStages).map(([name, count]) => ({ name, count })),
			people,
			everyone: people.length ? context.organisation.people.map((person) => ({ id: person.id, label: personWords(person) })) : [],
			causes: causesOf(all),
			problemCount: new Set(all.map((problem) => problem.line)).size,
			goodRows: all.length && !whole.length ? rows.length : null,
			addsTo: ofDay?.name ?? null,
			change: effect?.change ?? null,
			before: effect?.before ?? null,
			replaces: plan.adds ? null : (ofDay?.name ?? null),
			sameAs: sameFile?.day ?? null,
			asks: effect?.asks ?? [],
		},
	};
}

/** What stands in a file, by the plan it is read by. */
const tableView = (grid: Grid, { plan, unsure, table, below, dateReadings }: Planned, found: WeeklyRead) => ({
	rows: table.records.length,
	written: grid.written,
	sheets: grid.sheets,
	...aroundTable(grid, plan.header, below),
	fields: WEEKLY_FIELDS.map(({ key, label, needed }) => ({ key, label, needed })),
	columns: table.header.filter(Boolean).map((name) => ({ name, samples: samplesOf(table, name) })),
	plan,
	unsure: { ...unsure, lines: found.differing.length > 0 },
	encodings: grid.open,
	dates: dateReadings,
	summed: found.summed,
	differing: found.differing.slice(0, 20),
	amounts: totalsOf(table, plan),
});

/** What is wrong with a file, and the rows that can be taken all the same. */
function faultsOf(context: Context, file: string, day: string | null, { rows, problems, badLines }: WeeklyRead, header: number) {
	const unrated = withoutRate(context, file, rows);
	const unratedLines = new Set(unrated.map(({ line }) => line));
	const all = [...dayProblems(context, file, day), ...problems, ...unrated];
	return {
		rows: rows.filter(({ line }) => !unratedLines.has(line)),
		all,
		/** what no row alone can be blamed for keeps the whole file out */
		whole: all.filter(({ line }) => line === null || line <= header),
		badLines: new Set([...badLines, ...[...unratedLines].flatMap((line) => line ?? [])]),
	};
}

/** The rows that can't be read, each with what is wrong with it in a last column. */
const badRows = (table: CsvTable, badLines: ReadonlySet<number>, problems: readonly Problem[]): ReturnType<Looked["bad"]> => ({
	header: [...table.header, "What is wrong"],
	rows: table.records
		.filter(({ line }) => badLines.has(line))
		.map(({ line, cells }) => [
			...table.header.map((_, i) => cells[i] ?? ""),
			problems
				.filter((problem) => problem.line === line)
				.map(({ column, reason }) => [column, reason].filter(Boolean).join(": "))
				.join("; ") || "its stage doesn’t exist here",
		]),
});

/** How many lines stand above a table, and those below it that are no rows of it. */
const aroundTable = (grid: Grid, header: number, below: readonly number[]): Pick<WeeklyView, "above" | "below"> => ({
	above: grid.rows.filter((row) => row.line < header).length,
	below: grid.rows
		.filter((row) => below.includes(row.line))
		.map((row) => ({
			line: row.line,
			words: row.cells
				.filter((cell) => cell.trim())
				.join(" · ")
				.slice(0, 120),
		})),
});

/** so many names are looked for to tell an encoding */
const MOST_NAMES = 5000;

/** The file's cells, read in a thread of its own. */
async function gridOf({ organisation }: Context, sent: WeeklySent): Promise<Grid> {
	const hints = {
		encoding: sent.plan?.encoding ?? null,
		names: [...organisation.people.map(({ name }) => name), ...[...organisation.accounts.values()].map(({ name }) => name)]
			.filter((name) => /[^\p{ASCII}]/u.test(name))
			.slice(0, MOST_NAMES),
	};
	const answer = await inThread<Grid | { line: number; fault: string }>("readGrid", { bytes: sent.bytes, sheet: sent.plan?.sheet ?? null, hints }).catch(
		(error: unknown) => {
			if ((error as { code?: string }).code !== "ERR_WORKER_OUT_OF_MEMORY") throw error;
			return { line: 1, fault: "reading it needs more memory than a file may use; save the sheet as CSV, with only the rows and columns you need" };
		},
	);
	if ("fault" in answer) throw new Fault(422, "Not a table", `${sent.name}, line ${answer.line}: ${answer.fault}.`);
	if (!answer.rows.length) throw new Fault(422, "Not a table", `${sent.name}: the ${answer.sheet === null ? "file" : `sheet ${answer.sheet}`} is empty.`);
	return answer;
}

/** What the thread does for `gridOf`; a fault is answered, since an error would lose what it knows between threads. */
export const asGrid = (reading: Promise<Grid>): Promise<Grid | { line: number; fault: string }> =>
	reading.catch((error: unknown) => {
		if (error instanceof CsvFault) return { line: error.line, fault: error.message };
		throw error;
	});

type File = typeof weeklyFiles.$inferSelect;

/** A file's name without what changes from week to week. */
const stem = (name: string) =>
	name
		.toLowerCase()
		.replace(/[\d_\-. ]+/g, " ")
		.trim();

/** The latest file before that is most like this one: of the part that was chosen, else of the same name, else any of everything. */
function fileLike(files: readonly File[], sent: WeeklySent, day: string | null): File | undefined {
	const latest = [...files].reverse().sort((a, b) => Number(b.day <= (day ?? "9")) - Number(a.day <= (day ?? "9")));
	const covers = sent.plan?.covers?.trim();
	const ofPart = covers === undefined ? undefined : latest.find((file) => file.covers === covers);
	return ofPart ?? latest.find((file) => stem(file.name) === stem(sent.name)) ?? latest.find((file) => file.covers === "") ?? latest[0];
}

/** The fields a row says something of. */
function stateOf(row: WeeklyRow, names: Names): Partial<DealState> {
	return {
		stage: row.stage,
		amount: row.amount,
		currency: row.currency,
		closeDate: row.closeDate,
		ownerId: row.owner === null ? null : names.person(row.owner),
		...(row.category === undefined ? {} : { category: row.category }),
		...(row.nextStep === undefined ? {} : { nextStep: row.nextStep }),
		...(row.nextStepDate === undefined ? {} : { nextStepDate: row.nextStepDate }),
	};
}
