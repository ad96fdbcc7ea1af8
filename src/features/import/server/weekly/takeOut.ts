import { and, eq, ne } from "drizzle-orm";
import { z } from "zod";
import { parseDay } from "@/core/time/day";
import { connection, type Sql } from "@/data/db";
import { marks, weeklyFiles, weeklyMissing } from "@/data/schema";
import { command, lookup } from "@/platform/command";
import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { dealsIn, lossWithout, rebuild } from "./rebuild";
import { fileAfter, fileInstant, WEEKLY_MARK } from "./store";

export interface TakingOut {
	readonly name: string;
	readonly day: string;
	/** deals it says something of */
	readonly deals: number;
	/** versions that go with it, and those that are made anew of what the other files say */
	readonly versions: number;
	readonly anew: number;
	/** deals that only it knows, and which are gone with it unless something hangs on them */
	readonly vanishing: readonly { readonly id: string; readonly name: string }[];
	/** decisions about deals it hadn't, which the next file of its part takes over where it hasn't got them either */
	readonly decisions: number;
}

const input = z.object({ fileId: z.string().max(100) });

async function fileOf(db: Sql, id: string) {
	const [file] = await db.select().from(weeklyFiles).where(eq(weeklyFiles.id, id));
	if (!file) throw notFound("weekly file", id);
	return file;
}

/** All deals that a file has a bearing on: those in it, and those it hadn't. */
async function concernedBy(db: Sql, fileId: string) {
	const missing = await db.select().from(weeklyMissing).where(eq(weeklyMissing.fileId, fileId));
	return { missing, ids: [...new Set([...(await dealsIn(db, fileId)), ...missing.map((one) => one.dealId)])] };
}

/** What taking a weekly file out again would undo; nothing is written. */
export const previewTakeOut = lookup({
	name: "import.previewTakeOut",
	right: "importBundle",
	input,
	async run({ context, input: { fileId } }): Promise<TakingOut> {
		const { db } = connection();
		const file = await fileOf(db, fileId);
		const { ids, missing } = await concernedBy(db, fileId);
		const loss = await lossWithout(db, context, fileId, ids);
		return {
			name: file.name,
			day: file.day,
			deals: (await dealsIn(db, fileId)).length,
			...loss,
			decisions: missing.filter((one) => one.decision !== null).length,
		};
	},
});

/**
 * Takes a weekly file out again, as if it had never come: what it said, its mark where no other file is of its day, and
 * what was decided of deals it hadn't, unless the next file hasn't got them either. People and accounts it made stay.
 */
export const takeOutWeekly = command({
	name: "import.takeOutWeekly",
	right: "importBundle",
	input,
	async run({ context, input: { fileId }, tx }) {
		const file = await fileOf(tx, fileId);
		const { ids, missing } = await concernedBy(tx, fileId);
		const next = await fileAfter(tx, file.day, file.covers);
		const there = new Set(next ? await dealsIn(tx, next.id) : []);
		await tx.delete(weeklyFiles).where(eq(weeklyFiles.id, fileId));
		const handed = next ? missing.filter((one) => !there.has(one.dealId)).map((one) => ({ ...one, fileId: next.id })) : [];
		if (handed.length) await tx.insert(weeklyMissing).values(handed).onConflictDoNothing();
		await forgetMark(tx, context, file);
		await rebuild(tx, context, ids);
		const detail = { name: file.name, day: file.day, ...(file.covers ? { covers: file.covers } : {}), deals: ids.length };
		return {
			result: { day: file.day, deals: ids.length },
			touched: { deals: ids, parts: ["settings"] },
			audit: { action: "weekly import undone", subject: fileId, detail },
		};
	},
});

async function forgetMark(tx: Sql, context: Context, file: typeof weeklyFiles.$inferSelect): Promise<void> {
	const others = await tx
		.select({ id: weeklyFiles.id })
		.from(weeklyFiles)
		.where(and(eq(weeklyFiles.day, file.day), ne(weeklyFiles.id, file.id)));
	if (others.length) return;
	const at = new Date(fileInstant(context, parseDay(file.day) ?? 0));
	await tx.delete(marks).where(and(eq(marks.at, at), eq(marks.name, WEEKLY_MARK)));
}
