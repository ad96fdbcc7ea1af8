import { and, desc, eq, gt, inArray, lt, sql } from "drizzle-orm";
import { BLANK_STATE, stateOf } from "@/core/deal/fields";
import type { DealState } from "@/core/deal/state";
import { parseDay } from "@/core/time/day";
import type { DealVersion, Statement } from "@/core/weekly/versions";
import type { Sql } from "@/data/db";
import { dealVersions, weeklyFiles, weeklyMissing, weeklyRows } from "@/data/schema";
import type { Context } from "@/platform/context";

/** The import that a version of a weekly file names. */
export const importOf = (fileId: string) => `weekly:${fileId}`;
/** Whether an import, by its id, is a weekly file. */
export const isWeekly = (importId: string | null) => importId?.startsWith("weekly:") ?? false;

/** The mark that each file leaves on its day. */
export const WEEKLY_MARK = "Weekly export";

/** The instant a file of a day speaks of: its noon. What is done by hand later on that day comes after it. */
export const fileInstant = ({ organisation }: Context, day: number) => organisation.company.rules.zone.instantAt(day, 12 * 3_600_000);

export interface StoredVersion extends DealVersion {
	readonly id: number;
	readonly importId: string | null;
}

const CHUNK = 5000;

/** Reads in parts, so that no statement gets too long. */
async function inParts<T>(ids: readonly string[], read: (part: string[]) => Promise<T[]>): Promise<T[]> {
	const all: T[] = [];
	for (let at = 0; at < ids.length; at += CHUNK) all.push(...(await read(ids.slice(at, at + CHUNK))));
	return all;
}

/** All versions of some deals, by deal, the oldest first. */
export async function versionsOf(db: Sql, ids: readonly string[]): Promise<Map<string, StoredVersion[]>> {
	const rows = await inParts(ids, (part) =>
		db.select().from(dealVersions).where(inArray(dealVersions.dealId, part)).orderBy(dealVersions.dealId, dealVersions.validFrom),
	);
	return grouped(rows, (row) => ({ id: row.id, at: row.validFrom.getTime(), state: stateOf(row), importId: row.importId }));
}

function grouped<R extends { dealId: string }, T>(rows: readonly R[], make: (row: R) => T): Map<string, T[]> {
	const groups = new Map<string, T[]>();
	for (const row of rows) {
		const list = groups.get(row.dealId);
		if (list) list.push(make(row));
		else groups.set(row.dealId, [make(row)]);
	}
	return groups;
}

/** What all files but one said of some deals, and what was decided of them where they were missing. */
export async function statementsOf(
	db: Sql,
	context: Context,
	ids: readonly string[],
	without: string | null,
): Promise<Map<string, (Statement & { fileId: string })[]>> {
	const { stages } = context.organisation.company.rules;
	const files = await db.select({ id: weeklyFiles.id, day: weeklyFiles.day, takenAt: weeklyFiles.takenAt }).from(weeklyFiles);
	const days = new Map(files.map((file) => [file.id, file.day]));
	const taken = new Map(files.map((file) => [file.id, file.takenAt.getTime()]));
	const at = (fileId: string) => fileInstant(context, parseDay(days.get(fileId) ?? "") ?? 0);
	const rows = await inParts(ids, (part) => db.select().from(weeklyRows).where(inArray(weeklyRows.dealId, part)));
	const said = grouped(
		rows.filter((row) => row.fileId !== without),
		(row) => ({ fileId: row.fileId, at: at(row.fileId), state: Object.fromEntries(row.said.map((field) => [field, row[field]])) as Partial<DealState> }),
	);
	const decided = await inParts(ids, (part) => db.select().from(weeklyMissing).where(inArray(weeklyMissing.dealId, part)));
	for (const one of decided) {
		if (one.fileId === without || one.decision === null || one.decision === "open") continue;
		const stage = stages.find(({ kind }) => kind === one.decision)?.name ?? null;
		const state: Partial<DealState> =
			one.decision === "removed" ? BLANK_STATE : { stage, closeDate: days.get(one.fileId) ?? null, nextStep: null, nextStepDate: null };
		const list = said.get(one.dealId) ?? [];
		// Another part's file of that day has the deal: then it isn't missing.
		if (!list.some((statement) => statement.at === at(one.fileId))) said.set(one.dealId, [...list, { fileId: one.fileId, at: at(one.fileId), state }]);
	}
	for (const [id, list] of said)
		said.set(
			id,
			oneEachInstant(list, (fileId) => taken.get(fileId) ?? 0),
		);
	return said;
}

/** Where files of several parts speak of one deal on one day, the one that came last has the last word. */
function oneEachInstant<S extends Statement & { fileId: string }>(list: readonly S[], taken: (fileId: string) => number): S[] {
	const merged = new Map<number, S>();
	for (const one of [...list].sort((a, b) => taken(a.fileId) - taken(b.fileId) || (a.fileId < b.fileId ? -1 : 1))) {
		const before = merged.get(one.at);
		merged.set(one.at, before ? { ...one, state: { ...before.state, ...one.state } } : one);
	}
	return [...merged.values()];
}

/** The last file of a part before a day; null where there is none. */
export async function fileBefore(db: Sql, day: string, covers: string): Promise<typeof weeklyFiles.$inferSelect | null> {
	const [file] = await db
		.select()
		.from(weeklyFiles)
		.where(and(lt(weeklyFiles.day, day), eq(weeklyFiles.covers, covers)))
		.orderBy(desc(weeklyFiles.day))
		.limit(1);
	return file ?? null;
}

/** The first file of a part after a day; null where there is none. */
export async function fileAfter(db: Sql, day: string, covers: string): Promise<typeof weeklyFiles.$inferSelect | null> {
	const [file] = await db
		.select()
		.from(weeklyFiles)
		.where(and(gt(weeklyFiles.day, day), eq(weeklyFiles.covers, covers)))
		.orderBy(weeklyFiles.day)
		.limit(1);
	return file ?? null;
}

/** Deals that were in one file and, by what stands in the store, in none from a day on: neither in a later one of its part, nor in one of another part. */
export async function dealsLastIn(db: Sql, fileId: string, day: string): Promise<string[]> {
	const rows = await db
		.select({ dealId: weeklyRows.dealId })
		.from(weeklyRows)
		.innerJoin(weeklyFiles, eq(weeklyFiles.id, weeklyRows.fileId))
		.where(
			and(
				eq(weeklyRows.fileId, fileId),
				sql`not exists (select 1 from ${weeklyRows} later join ${weeklyFiles} f on f.id = later.file_id where later.deal_id = ${weeklyRows.dealId}
					and (f.day > ${day} or (f.day = ${day} and f.covers <> ${weeklyFiles.covers})))`,
			),
		);
	return rows.map((row) => row.dealId);
}
