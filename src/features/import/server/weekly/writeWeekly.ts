import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { FIELD_KEYS } from "@/core/deal/fields";
import { parseDay } from "@/core/time/day";
import type { Tx } from "@/data/db";
import { accounts, deals, people, weeklyFiles, weeklyMissing, weeklyRows } from "@/data/schema";
import { remembered } from "@/formats/weekly/plan";
import type { Context } from "@/platform/context";
import { newId } from "@/platform/ids";
import type { Looked } from "./inspectFile";

const CHUNK = 1000;

/** Works through a list a thousand at a time. */
export async function forChunks<T>(list: readonly T[], work: (part: T[]) => Promise<unknown>): Promise<void> {
	for (let at = 0; at < list.length; at += CHUNK) await work(list.slice(at, at + CHUNK));
}

type Missing = typeof weeklyMissing.$inferSelect;

/** Takes the file of a day and part away, whose place another one takes; gives the deals it had, and what was decided of those it hadn't. */
export async function clearPlace(tx: Tx, day: string, covers: string): Promise<{ deals: string[]; missing: Missing[] }> {
	const [old] = await tx
		.select()
		.from(weeklyFiles)
		.where(and(eq(weeklyFiles.day, day), eq(weeklyFiles.covers, covers)));
	if (!old) return { deals: [], missing: [] };
	const rows = await tx.select({ id: weeklyRows.dealId }).from(weeklyRows).where(eq(weeklyRows.fileId, old.id));
	const missing = await tx.select().from(weeklyMissing).where(eq(weeklyMissing.fileId, old.id));
	await tx.delete(weeklyFiles).where(eq(weeklyFiles.id, old.id));
	return { deals: [...rows.map((row) => row.id), ...missing.map((one) => one.dealId)], missing };
}

/** People who aren't known become reps, who can't sign in until they are given a password. */
export async function writeNames(tx: Tx, { names }: Looked): Promise<void> {
	const mail = /^\S+@\S+\.\S+$/;
	await forChunks([...names.newPeople], (part) =>
		tx.insert(people).values(part.map(([name, id]) => ({ id, name, email: mail.test(name) ? name.toLowerCase() : null, role: "rep" as const, team: null }))),
	);
	await forChunks([...names.newAccounts], (part) => tx.insert(accounts).values(part.map(([name, id]) => ({ id, name }))));
}

/** Writes the deals that a file names, new and known. */
export async function writeDeals(tx: Tx, { organisation }: Context, { read }: Looked, day: string): Promise<void> {
	const { zone } = organisation.company.rules;
	const noon = (iso: string) => new Date(zone.instantAt(parseDay(iso) ?? 0, 12 * 3_600_000));
	await forChunks(read, (part) =>
		tx
			.insert(deals)
			.values(
				part.map((row) => ({
					id: row.id,
					accountId: row.accountId,
					name: row.name,
					source: row.source ?? null,
					createdAt: noon(row.created && row.created < day ? row.created : day),
				})),
			)
			.onConflictDoUpdate({
				target: deals.id,
				// What a file leaves blank stays; a deal is as old as the first that is known of it.
				set: {
					accountId: sql`coalesce(excluded.account_id, ${deals.accountId})`,
					name: sql`coalesce(nullif(excluded.name, ''), ${deals.name})`,
					source: sql`coalesce(excluded.source, ${deals.source})`,
					createdAt: sql`least(${deals.createdAt}, excluded.created_at)`,
				},
			}),
	);
}

/** Writes what a file’s rows say. */
export async function writeRows(tx: Tx, { read }: Looked, fileId: string): Promise<void> {
	await forChunks(read, (part) =>
		tx.insert(weeklyRows).values(
			part.map(({ id, said }) => ({
				fileId,
				dealId: id,
				said: FIELD_KEYS.filter((field) => field in said),
				...Object.fromEntries(FIELD_KEYS.map((field) => [field, said[field] ?? null])),
			})),
		),
	);
}

/** One that waits for a decision already isn't asked twice; what was decided of one the replaced file hadn't either holds on. */
export async function writeMissing(tx: Tx, missing: readonly string[], fileId: string, replaced: readonly Missing[]): Promise<void> {
	const decided = new Map(replaced.map((one) => [one.dealId, one]));
	await forChunks(missing, async (part) => {
		const waiting = new Set(
			(
				await tx
					.select({ id: weeklyMissing.dealId })
					.from(weeklyMissing)
					.where(and(inArray(weeklyMissing.dealId, part), isNull(weeklyMissing.decision)))
			).map((row) => row.id),
		);
		const fresh = part.filter((id) => !waiting.has(id));
		if (fresh.length) await tx.insert(weeklyMissing).values(fresh.map((dealId) => ({ ...decided.get(dealId), fileId, dealId })));
	});
}

type File = typeof weeklyFiles.$inferSelect;

type Counts = Readonly<Record<"rows" | "fresh" | "changed" | "missing", number>>;

/** Counts what is added to a file that was imported before. Answers its id. */
export async function addToFile(tx: Tx, { id, counts }: File, { rows, fresh, changed }: Counts): Promise<string> {
	const added = { rows: (counts.rows ?? 0) + rows, fresh: (counts.fresh ?? 0) + fresh, changed: (counts.changed ?? 0) + changed };
	await tx
		.update(weeklyFiles)
		.set({ counts: { ...counts, ...added } })
		.where(eq(weeklyFiles.id, id));
	return id;
}

/** Notes a file that is imported. Answers its new id. */
export async function writeFile(tx: Tx, context: Context, name: string, { view, digest }: Looked, day: string, counts: Counts): Promise<string> {
	const id = newId();
	await tx.insert(weeklyFiles).values({
		id,
		name: name.slice(0, 200),
		day,
		covers: view.plan.covers,
		plan: remembered(view.plan),
		digest,
		byId: context.actor.person.id,
		counts,
	});
	return id;
}
