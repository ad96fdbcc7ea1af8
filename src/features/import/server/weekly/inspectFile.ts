import { createHash } from "node:crypto";
import type { DealState } from "@/core/deal/state";
import { asOf } from "@/core/history/columns";
import { formatDay, parseDay } from "@/core/time/day";
import type { Sql } from "@/data/db";
import { weeklyFiles } from "@/data/schema";
import type { Problem } from "@/formats/bundle/model";
import { causesOf } from "@/formats/causes";
import { CsvFault, type CsvTable } from "@/formats/csv";
import type { Grid } from "@/formats/grid";
import { meantCurrency } from "@/formats/weekly/currencyMarks";
import { dayFromName, WEEKLY_FIELDS } from "@/formats/weekly/fields";
import { type AmountCell, currenciesOf, DECIMAL_MARKS, readMoney } from "@/formats/weekly/money";
import { cellsOf, dealIdOf, readWeekly, type WeeklyPlan, type WeeklyRow } from "@/formats/weekly/read";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { breathe, inThread } from "@/platform/threads";
import { effectOf } from "./effect";
import { planFor, ratedIn, suggestStages } from "./mapping";
import { Names, personWords } from "./people";
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
	const { rules } = context.organisation.company;
	const grid = await gridOf(context, sent);
	const files = await db.select().from(weeklyFiles).orderBy(weeklyFiles.day, weeklyFiles.takenAt);
	const sentDay = sent.day ?? dayFromName(sent.name);
	const { plan, unsure, table, below, dateReadings, datesBefore } = planFor(
		context,
		grid,
		sent.plan,
		fileLike(files, sent, sentDay)?.plan ?? null,
		(cells, of) => amountCells(context, cells, of, sentDay),
	);
	const found = await readWeekly(sent.name, table, plan, rules.zone, { known: ratedIn(context), breathe });
	const { unknownStages } = found;
	const unrated = withoutRate(context, sent.name, found.rows);
	const unratedLines = new Set(unrated.map(({ line }) => line));
	const rows = found.rows.filter(({ line }) => !unratedLines.has(line));
	const all = [...dayProblems(context, sent.name, sentDay), ...found.problems, ...unrated];
	/** what no row alone can be blamed for keeps the whole file out */
	const whole = all.filter(({ line }) => line === null || line <= plan.header);
	const badLines = new Set([...found.badLines, ...[...unratedLines].flatMap((line) => line ?? [])]);
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
		unsure.amounts ||
		unsure.dates ||
		unsure.scale ||
		unsure.encoding ||
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
		bad: () => ({
			header: [...table.header, "What is wrong"],
			rows: table.records
				.filter(({ line }) => badLines.has(line))
				.map(({ line, cells }) => [
					...table.header.map((_, i) => cells[i] ?? ""),
					all
						.filter((problem) => problem.line === line)
						.map(({ column, reason }) => [column, reason].filter(Boolean).join(": "))
						.join("; ") || "its stage doesn’t exist here",
				]),
		}),
		view: {
			name: sent.name,
			rows: table.records.length,
			day: sentDay,
			written: grid.written,
			sheets: grid.sheets,
			above: grid.rows.filter((row) => row.line < plan.header).length,
			below: grid.rows
				.filter((row) => below.includes(row.line))
				.map((row) => ({
					line: row.line,
					words: row.cells
						.filter((cell) => cell.trim())
						.join(" · ")
						.slice(0, 120),
				})),
			parts: [...new Set(files.map((file) => file.covers))].filter(Boolean).sort(),
			fields: WEEKLY_FIELDS.map(({ key, words, needed }) => ({ key, words, needed })),
			columns: table.header.filter(Boolean).map((name) => ({ name, samples: samplesOf(table, name) })),
			plan,
			unsure: { ...unsure, lines: found.differing.length > 0 },
			encodings: grid.open,
			dates: dateReadings,
			summed: found.summed,
			differing: found.differing.slice(0, 20),
			amounts: totalsOf(table, plan),
			stages: rules.stages.map((stage) => stage.name),
			firstStages: rules.stages.length || !plan.columns.stage ? null : suggestStages(Object.keys(unknownStages)),
			unknownStages: Object.entries(unknownStages).map(([name, count]) => ({ name, count })),
			people,
			everyone: people.length ? context.organisation.people.map((person) => ({ id: person.id, words: personWords(person) })) : [],
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

/** The amounts of a file, each with what its deal stood at before the file's day. */
function amountCells(context: Context, table: CsvTable, plan: Pick<WeeklyPlan, "columns" | "currency" | "scale">, day: string | null): AmountCell[] {
	const { organisation, now } = context;
	const { history, rules } = organisation.company;
	const known = ratedIn(context);
	const currencies = cellsOf(table, plan.columns.currency);
	const before = (parseDay(day ?? "") ?? now.day + 1) - 1;
	return cellsOf(table, plan.columns.amount).flatMap((text, i): AmountCell[] => {
		if (!text.trim()) return [];
		const currency = currencies[i]?.trim().toUpperCase() || (meantCurrency(currenciesOf(text), plan.currency, known) ?? plan.currency);
		const deal = organisation.dealIndex.get(dealIdOf(table, plan.columns, i));
		const row = deal === undefined ? -1 : asOf(history, deal, before);
		const amount = row < 0 || rules.currencies[history.currency[row] as number] !== currency ? Number.NaN : (history.amount[row] as number);
		return [{ text, currency, scale: plan.scale, before: Number.isNaN(amount) ? null : amount }];
	});
}

/** What a file's amounts come to by each decimal mark, those of other currencies left out. */
function totalsOf(table: CsvTable, plan: WeeklyPlan): WeeklyView["amounts"] {
	const currencies = cellsOf(table, plan.columns.currency);
	const cells = cellsOf(table, plan.columns.amount).filter(
		(text, i) =>
			text.trim() &&
			(currencies[i]?.trim().toUpperCase() || plan.currency) === plan.currency &&
			[0, ...currenciesOf(text)].every((code) => code === 0 || code === plan.currency || currenciesOf(text).includes(plan.currency)),
	);
	return DECIMAL_MARKS.map((mark) => {
		const read = cells.map((text) => readMoney(text, mark, plan.currency, { scale: plan.scale, round: true }));
		return {
			mark,
			total: read.reduce<number>((sum, one) => sum + (typeof one === "number" ? one : 0), 0),
			unread: read.filter((one) => typeof one === "string").length,
		};
	});
}

const SAMPLES = 3;
function samplesOf(table: CsvTable, name: string): string[] {
	const at = table.header.indexOf(name);
	const samples = new Set<string>();
	for (const { cells } of table.records) {
		const cell = cells[at]?.trim();
		if (cell) samples.add(cell.slice(0, 80));
		if (samples.size === SAMPLES) break;
	}
	return [...samples];
}

function dayProblems(context: Context, file: string, day: string | null): Problem[] {
	if (day === null) return [];
	const parsed = parseDay(day);
	const reason = parsed === null ? "this isn’t a day" : parsed > context.now.day ? `this day is in the future; today is ${formatDay(context.now.day)}` : null;
	return reason ? [{ file, line: null, column: null, value: day, reason }] : [];
}

/** Amounts in a currency that can't be put into the base. */
function withoutRate({ organisation, now }: Context, file: string, rows: readonly WeeklyRow[]): Problem[] {
	const { rates } = organisation.company.rules;
	return rows.flatMap(({ currency, line }) => {
		if (currency === null || currency === rates.base || rates.on(currency, now.day)) return [];
		return [{ file, line, column: null, value: currency, reason: `there is no rate from ${currency} to ${rates.base}; import rates.csv with one first` }];
	});
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
