import { and, eq, inArray, isNull, lte, sql } from "drizzle-orm";
import { z } from "zod";
import { exponentOf } from "@/core/money/currency";
import { parseDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { marks, weeklyFiles, weeklyMissing, weeklyRows } from "@/data/schema";
import { tableCsv } from "@/formats/table";
import { SINGLE_BYTE } from "@/formats/text";
import { DATE_ORDERS } from "@/formats/weekly/dates";
import { WEEKLY_FIELDS } from "@/formats/weekly/fields";
import { DECIMAL_MARKS } from "@/formats/weekly/money";
import { SCALES } from "@/formats/weekly/scale";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import type { Written } from "@/platform/write";
import { IMPORT_LOCK } from "../importBundle";
import { look } from "./inspectFile";
import { rebuild } from "./rebuild";
import { refuse } from "./refuse";
import type { WeeklySent, WeeklyView } from "./shapes";
import { fileInstant, WEEKLY_MARK } from "./store";
import { addToFile, clearPlace, forChunks, writeDeals, writeFile, writeMissing, writeNames, writeRows } from "./writeWeekly";

const column = z.string().max(500).nullable();
const longest = z.string().max(500);
export const weeklyPlanSchema = z
	.object({
		columns: z.object(Object.fromEntries(WEEKLY_FIELDS.map(({ key }) => [key, column])) as Record<(typeof WEEKLY_FIELDS)[number]["key"], typeof column>),
		dates: z.enum(DATE_ORDERS),
		decimal: z.enum(DECIMAL_MARKS),
		currency: z.string().refine((code) => exponentOf(code) !== null, "This isn’t a currency’s code, such as EUR."),
		stages: z.record(longest, z.string().max(200)),
		covers: z.string().max(100),
		sheet: z.string().max(200).nullable(),
		header: z.number().int().min(1).max(100_000),
		leaveBelow: z.boolean(),
		people: z.record(longest, z.string().max(200)),
		scale: z.union(SCALES.map((one) => z.literal(one))),
		encoding: z.enum(SINGLE_BYTE).nullable(),
		goodOnly: z.boolean(),
		lines: z.enum(["first", "last"]).nullable(),
		adds: z.boolean(),
	})
	.partial()
	.meta({ id: "WeeklyPlan" });

/** The rows of a weekly file that can't be read, as CSV, each with what is wrong: to be mended and imported again. */
export const badRowsOf = query("import.badRows", "importBundle", async (context: Context, sent: WeeklySent): Promise<Uint8Array> => {
	const { bad } = await look(connection().db, context, sent);
	const { header, rows } = bad();
	const columns = header.map((words) => ({ label: words, kind: "text" as const }));
	return tableCsv(columns, rows);
});

/** Looks at a weekly file and says what taking it in would do; nothing is written. */
export const previewWeekly = query("import.previewWeekly", "importBundle", async (context: Context, sent: WeeklySent): Promise<WeeklyView> => {
	return (await look(connection().db, context, sent)).view;
});

export interface WeeklyTaken {
	/** null where it was known */
	readonly id: string | null;
	readonly day: string;
	/** the day of the file before, to compare with; null for the first */
	readonly before: string | null;
	readonly fresh: number;
	readonly changed: number;
	readonly missing: number;
	/** it was taken in before just as it is: nothing was written */
	readonly known: boolean;
}

/**
 * Takes a weekly file in, whole or not at all: its rows, what differs as versions at its day, and the deals it
 * no longer has for a decision. A file of a day and part that has one replaces it; the order of files doesn't matter.
 * `confirmed` are the keys of what was asked and answered with yes.
 *
 * @throws Fault 422 says what is wrong with the file, 409 what has to be confirmed
 */
export const takeWeekly = command({
	name: "import.takeWeekly",
	right: "importBundle",
	input: z.object({ sent: z.custom<WeeklySent>(), confirmed: z.array(z.string().max(40)).max(20) }),
	server: true,
	async run({ context, input: { sent, confirmed }, tx }): Promise<Written<WeeklyTaken>> {
		// One import at a time: what it checks against must not change before it writes.
		await tx.execute(sql`select pg_advisory_xact_lock(${IMPORT_LOCK})`);
		const looked = await look(tx, context, sent);
		const { view } = looked;
		if (view.sameAs !== null && view.sameAs === view.day) {
			return { result: { id: null, day: view.day, before: null, fresh: 0, changed: 0, missing: 0, known: true }, touched: "nothing", audit: [] };
		}
		refuse(view, new Set(confirmed));
		const day = view.day as string;
		const [into] = view.plan.adds
			? await tx
					.select()
					.from(weeklyFiles)
					.where(and(eq(weeklyFiles.day, day), eq(weeklyFiles.covers, view.plan.covers)))
			: [];
		const before = into ? { deals: [], missing: [] } : await clearPlace(tx, day, view.plan.covers);
		await writeNames(tx, looked);
		await writeDeals(tx, context, looked, day);
		const counts = { rows: looked.read.length, fresh: view.change?.fresh ?? 0, changed: view.change?.changed ?? 0, missing: looked.missing.length };
		const fileId = into ? await addToFile(tx, into, counts) : await writeFile(tx, context, sent.name, looked, day, counts);
		const ids = looked.read.map((row) => row.id);
		if (into) await forChunks(ids, (part) => tx.delete(weeklyRows).where(and(eq(weeklyRows.fileId, fileId), inArray(weeklyRows.dealId, part))));
		await writeRows(tx, looked, fileId);
		// Whatever was missing from this file's day or before is there again; from a later file it is missing still.
		const upTo = tx.select({ id: weeklyFiles.id }).from(weeklyFiles).where(lte(weeklyFiles.day, day));
		await forChunks(ids, (part) =>
			tx.delete(weeklyMissing).where(and(inArray(weeklyMissing.dealId, part), isNull(weeklyMissing.decision), inArray(weeklyMissing.fileId, upTo))),
		);
		await writeMissing(tx, looked.missing, fileId, before.missing);
		const concerned = [...new Set([...ids, ...before.deals])];
		await rebuild(tx, context, concerned);
		const at = new Date(fileInstant(context, parseDay(day) ?? 0));
		await tx.insert(marks).values({ at, name: WEEKLY_MARK, byId: context.actor.person.id, seal: null }).onConflictDoNothing();
		return {
			result: { id: fileId, day, before: view.before?.day ?? null, fresh: counts.fresh, changed: counts.changed, missing: counts.missing, known: false },
			touched: { deals: concerned, parts: ["settings"] },
			audit: {
				action: "weekly file imported",
				subject: fileId,
				detail: { name: sent.name, day, ...(view.plan.covers ? { covers: view.plan.covers } : {}), ...counts },
			},
		};
	},
});
