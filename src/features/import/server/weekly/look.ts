import { createHash } from "node:crypto";
import { eq } from "drizzle-orm";
import { differing, FIELD_KEYS, FIELDS } from "@/core/deal/fields";
import type { DealState } from "@/core/deal/state";
import { formatDay, parseDay } from "@/core/time/day";
import { inForce, overlay, versionsFrom } from "@/core/weekly/versions";
import type { Sql } from "@/data/db";
import { organisationSettings, weeklyFiles } from "@/data/schema";
import type { StageInput } from "@/features/setup";
import type { Problem } from "@/formats/bundle/model";
import { CsvFault, type CsvTable, readCsv } from "@/formats/csv";
import { dayFromName, WEEKLY_FIELDS } from "@/formats/weekly/fields";
import { cellsOf, readWeekly, type WeeklyPlan, type WeeklyRow } from "@/formats/weekly/read";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { planFor, suggestStages } from "./mapping";
import { Names } from "./people";
import { dealsLastIn, fileBefore, fileInstant, importOf, isWeekly, statementsOf, versionsOf } from "./store";

/** A file as it is sent, with what was chosen for it so far. */
export interface WeeklySent {
	readonly name: string;
	readonly bytes: Uint8Array;
	readonly day: string | null;
	readonly plan: Partial<WeeklyPlan> | null;
}

export interface WeeklyView {
	readonly name: string;
	readonly rows: number;
	/** ISO day; null: the name doesn't say, and nobody has yet */
	readonly day: string | null;
	readonly fields: readonly { readonly key: keyof WeeklyPlan["columns"]; readonly words: string; readonly needed: boolean }[];
	/** their columns, each with a few of its values */
	readonly columns: readonly { readonly name: string; readonly samples: readonly string[] }[];
	readonly plan: WeeklyPlan;
	/** the order of dates can't be told from the values */
	readonly datesUnsure: boolean;
	readonly stages: readonly string[];
	/** while there are none: stages that could be made of theirs; null where there are some, or their column isn't chosen yet */
	readonly firstStages: readonly StageInput[] | null;
	/** their stages that ours have to be named for, with how many rows have them */
	readonly unknownStages: readonly { readonly name: string; readonly count: number }[];
	readonly problems: readonly Problem[];
	readonly problemCount: number;
	/** what taking it in would do; null while the day, a column or a stage is open */
	readonly change: WeeklyChange | null;
	/** the file before it, and the one of the same day, which it would replace */
	readonly before: { readonly name: string; readonly day: string } | null;
	readonly replaces: string | null;
	/** this very file was taken in already, for that day */
	readonly sameAs: string | null;
	/** must be answered with yes before it is taken in */
	readonly ask: string | null;
}

export interface WeeklyChange {
	readonly fresh: number;
	readonly changed: number;
	readonly same: number;
	/** deals of the file before that are open and not in this one; decided later, one by one */
	readonly missing: number;
	/** how many deals change in a field */
	readonly fields: readonly { readonly words: string; readonly count: number }[];
	readonly newPeople: readonly string[];
	readonly newAccounts: number;
	/** of the changed ones, those that somebody changed here since the file before: the file's word is taken */
	readonly editedHere: number;
}

/** A file that was looked at, with all that taking it in needs. */
export interface Looked {
	readonly view: WeeklyView;
	readonly digest: string;
	readonly read: readonly (WeeklyRow & { readonly said: Partial<DealState>; readonly accountId: string | null })[];
	readonly missing: readonly string[];
	readonly names: Names;
}

const KEPT_PROBLEMS = 200;

/** Reads a file and works out what taking it in would do. Throws a 422 where it can't be read as CSV at all. */
export async function look(db: Sql, context: Context, sent: WeeklySent): Promise<Looked> {
	const { rules } = context.organisation.company;
	const table = tableOf(sent);
	const [org] = await db.select({ plan: organisationSettings.weeklyPlan }).from(organisationSettings);
	const { plan, unsure } = planFor(context, table, sent.plan, org?.plan ?? null);
	const { rows, problems, unknownStages } = readWeekly(sent.name, table, plan);
	const day = sent.day ?? dayFromName(sent.name);
	const all = [...dayProblems(context, sent.name, day), ...problems, ...withoutRate(context, sent.name, rows)];
	const digest = createHash("sha256").update(sent.bytes).digest("hex");
	const files = await db.select().from(weeklyFiles);
	const same = files.find((file) => file.digest === digest);
	const names = new Names(context);
	const read = rows.map((row) => ({ ...row, said: stateOf(row, names), accountId: row.account ? names.account(row.account) : null }));
	const open = Object.keys(unknownStages).length > 0 || all.length > 0 || day === null;
	const effect = open ? null : await effectOf(db, context, day, read, names);
	return {
		digest,
		read,
		names,
		missing: effect?.missing ?? [],
		view: {
			name: sent.name,
			rows: table.records.length,
			day,
			fields: WEEKLY_FIELDS.map(({ key, words, needed }) => ({ key, words, needed })),
			columns: table.header.filter(Boolean).map((name) => ({ name, samples: [...new Set(cellsOf(table, name).filter((cell) => cell.trim()))].slice(0, 3) })),
			plan,
			datesUnsure: unsure.dates,
			stages: rules.stages.map((stage) => stage.name),
			firstStages: rules.stages.length || !plan.columns.stage ? null : suggestStages(Object.keys(unknownStages)),
			unknownStages: Object.entries(unknownStages).map(([name, count]) => ({ name, count })),
			problems: all.slice(0, KEPT_PROBLEMS),
			problemCount: all.length,
			change: effect?.change ?? null,
			before: effect?.before ?? null,
			replaces: files.find((file) => file.day === day && file.digest !== digest)?.name ?? null,
			sameAs: same?.day ?? null,
			ask: effect?.ask ?? null,
		},
	};
}

function tableOf(sent: WeeklySent): CsvTable {
	try {
		const table = readCsv(sent.bytes);
		const twice = table.header.find((name, i) => name && table.header.indexOf(name) !== i);
		if (twice) throw new CsvFault(1, `two columns are called ${twice}; give one of them another name`);
		return table;
	} catch (error) {
		if (!(error instanceof CsvFault)) throw error;
		throw new Fault(422, "Not a CSV file", `${sent.name}, line ${error.line}: ${error.message}.`);
	}
}

function dayProblems(context: Context, file: string, day: string | null): Problem[] {
	if (day === null) return [];
	const parsed = parseDay(day);
	const reason = parsed === null ? "this isn't a day" : parsed > context.now.day ? `this day is still to come; today is ${formatDay(context.now.day)}` : null;
	return reason ? [{ file, line: null, column: null, value: day, reason }] : [];
}

/** Amounts in a currency that can't be put into the base. */
function withoutRate({ organisation, now }: Context, file: string, rows: readonly WeeklyRow[]): Problem[] {
	const { rates } = organisation.company.rules;
	const seen = new Set<string>();
	return rows.flatMap(({ currency, line }) => {
		if (currency === null || currency === rates.base || seen.has(currency) || rates.on(currency, now.day)) return [];
		seen.add(currency);
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

async function effectOf(db: Sql, context: Context, day: string, read: Looked["read"], names: Names) {
	const at = fileInstant(context, parseDay(day) ?? 0);
	const [ofDay] = await db.select().from(weeklyFiles).where(eq(weeklyFiles.day, day));
	const before = await fileBefore(db, day);
	const earlier = before ? await dealsLastIn(db, before.id, day) : [];
	const ids = [...new Set([...read.map((row) => row.id), ...earlier])];
	const versions = await versionsOf(db, ids);
	const statements = await statementsOf(db, context, ids, ofDay?.id ?? null);
	/** what holds at the file's instant without it */
	const holds = (id: string) => {
		const fixed = (versions.get(id) ?? []).filter((version) => !isWeekly(version.importId));
		return inForce([...fixed, ...versionsFrom(statements.get(id) ?? [], fixed)], at);
	};
	const counts = new Map(FIELD_KEYS.map((field) => [field, 0]));
	let [fresh, changed, editedHere] = [0, 0, 0];
	for (const row of read) {
		const state = holds(row.id);
		const fields = state ? differing(state, overlay(state, row.said)) : [];
		if (!state) fresh++;
		else if (fields.length) {
			changed++;
			for (const field of fields) counts.set(field, (counts.get(field) ?? 0) + 1);
			const last = (versions.get(row.id) ?? []).filter((version) => version.at <= at && version.importId !== (ofDay ? importOf(ofDay.id) : null)).at(-1);
			if (before && last && !isWeekly(last.importId) && last.at > fileInstant(context, parseDay(before.day) ?? 0)) editedHere++;
		}
	}
	const kinds = new Map(context.organisation.company.rules.stages.map((stage) => [stage.name, stage.kind]));
	const open = earlier.filter((id) => kinds.get(holds(id)?.stage ?? "") === "open");
	const here = new Set(read.map((row) => row.id));
	const missing = open.filter((id) => !here.has(id));
	const ask =
		before && missing.length && (missing.length === open.length || (missing.length >= 5 && missing.length * 2 > open.length))
			? `${missing.length === open.length ? "None" : `Only ${open.length - missing.length}`} of the ${open.length} open deals in ${before.name} (${before.day}) ${missing.length === open.length ? "is" : "are"} in this file. Is it the whole pipeline, with the same deal numbers? Nothing is closed by itself: each missing deal waits for your decision.`
			: null;
	const change: WeeklyChange = {
		fresh,
		changed,
		same: read.length - fresh - changed,
		missing: missing.length,
		fields: FIELDS.flatMap(({ key, words }) => {
			const count = counts.get(key) ?? 0;
			return count ? [{ words, count }] : [];
		}),
		newPeople: [...names.newPeople.keys()],
		newAccounts: names.newAccounts.size,
		editedHere,
	};
	return { change, missing, ask, before: before && { name: before.name, day: before.day } };
}
