import { and, eq, inArray, isNull, lte, sql } from "drizzle-orm";
import { z } from "zod";
import { FIELD_KEYS } from "@/core/deal/fields";
import { exponentOf } from "@/core/money/currency";
import { exactAmount } from "@/core/money/words";
import { parseDay } from "@/core/time/day";
import { connection, type Tx } from "@/data/db";
import { accounts, deals, marks, people, weeklyFiles, weeklyMissing, weeklyRows } from "@/data/schema";
import { tableCsv } from "@/formats/table";
import { SINGLE_BYTE } from "@/formats/text";
import { DATE_ORDERS } from "@/formats/weekly/dates";
import { WEEKLY_FIELDS } from "@/formats/weekly/fields";
import { DECIMAL_MARKS } from "@/formats/weekly/money";
import { remembered } from "@/formats/weekly/read";
import { SCALES } from "@/formats/weekly/scale";
import { command, query, type Written } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { IMPORT_LOCK } from "../importBundle";
import { type Looked, look } from "./inspectFile";
import { rebuild } from "./rebuild";
import type { WeeklySent, WeeklyView } from "./shapes";
import { fileInstant, WEEKLY_MARK } from "./store";

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
	const columns = header.map((words) => ({ words, kind: "text" as const }));
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
		const fileId = into?.id ?? newId();
		const before = into ? { deals: [], missing: [] } : await clearPlace(tx, day, view.plan.covers);
		await writeNames(tx, looked);
		await writeDeals(tx, context, looked, day);
		const counts = { rows: looked.read.length, fresh: view.change?.fresh ?? 0, changed: view.change?.changed ?? 0, missing: looked.missing.length };
		const added = {
			rows: (into?.counts.rows ?? 0) + counts.rows,
			fresh: (into?.counts.fresh ?? 0) + counts.fresh,
			changed: (into?.counts.changed ?? 0) + counts.changed,
		};
		if (into)
			await tx
				.update(weeklyFiles)
				.set({ counts: { ...into.counts, ...added } })
				.where(eq(weeklyFiles.id, fileId));
		else
			await tx.insert(weeklyFiles).values({
				id: fileId,
				name: sent.name.slice(0, 200),
				day,
				covers: view.plan.covers,
				plan: remembered(view.plan),
				digest: looked.digest,
				byId: context.actor.person.id,
				counts,
			});
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

function refuse(view: WeeklyView, confirmed: ReadonlySet<string>): void {
	const [cause] = view.causes;
	if (cause && !(view.plan.goodOnly && view.goodRows)) {
		const place = [cause.lines.length ? `line ${cause.lines[0]}` : null, cause.column].filter(Boolean).join(", ");
		const others = cause.count > 1 ? ` (in ${cause.count} rows)` : "";
		const more = view.causes.length > 1 ? `; and ${view.causes.length - 1} more` : "";
		throw new Fault(422, "Nothing was imported", `${view.name}${place ? `, ${place}` : ""}: ${cause.reason}${others}${more}.`, { causes: view.causes });
	}
	if (view.day === null)
		throw new Fault(422, "Choose the file’s date", `The name ${view.name} doesn’t contain the file’s date. Choose the day it was exported.`);
	if (!view.stages.length)
		throw new Fault(422, "No stages yet", "There are no stages yet. Create them from those in the file, or in Setup, Stages and habits.");
	const [stage] = view.unknownStages;
	if (stage) throw new Fault(422, "Match stages", `${stage.count} rows have the stage “${stage.name}”. Choose the matching stage.`);
	if (view.unsure.encoding)
		throw new Fault(
			422,
			"Choose the text encoding",
			`It may be in ${view.encodings.map(({ encoding, sample }) => `${encoding} (“${sample}”)`).join(", or ")}. Choose the encoding.`,
			{
				encodings: view.encodings,
			},
		);
	if (view.unsure.dates) {
		const readings = view.dates.map(({ order, samples }) => `${order} (${samples.map(({ text, day }) => `${text} is ${day ?? "no day"}`).join(", ")})`);
		throw new Fault(422, "Choose the date order", `Dates can be read in several ways: ${readings.join(", or ")}. Choose the order.`, { dates: view.dates });
	}
	if (view.unsure.scale)
		throw new Fault(
			422,
			"Choose the unit of amounts",
			"A line above the table mentions thousands or millions, but the column’s name doesn’t. Choose the unit of the amounts.",
		);
	if (view.differing.length) {
		const [one] = view.differing;
		throw new Fault(
			422,
			"Choose the line that counts",
			`${one?.id} is on lines ${one?.lines.join(", ")}, which differ in ${one?.words.join(", ")}${view.differing.length > 1 ? `; so do ${view.differing.length - 1} more` : ""}. Amounts are added up; choose the line that supplies the other fields.`,
			{ differing: view.differing },
		);
	}
	if (view.unsure.amounts) {
		const totals = view.amounts.map(
			({ mark, total }) => `${exactAmount(total, view.plan.currency)} with a ${mark === "." ? "point" : "comma"} before the decimals`,
		);
		throw new Fault(
			422,
			"Choose the decimal mark",
			`Amounts can be read in two ways: ${view.plan.currency} ${totals.join(", or ")} altogether. Choose the decimal mark.`,
			{ amounts: view.amounts },
		);
	}
	const several = view.people.find(({ name, who }) => who.length > 1 && !view.plan.people[name]);
	if (several)
		throw new Fault(
			422,
			"Match people",
			`${several.who.length} people are named ${several.name}: ${several.who.map((one) => one.words).join("; ")}. Choose the right one.`,
			{ people: view.people },
		);
	const asks = view.asks.filter((ask) => !confirmed.has(ask.key));
	if (asks.length) throw new Fault(409, "Please confirm", asks.map((ask) => ask.words).join(" "), { asks });
}

const CHUNK = 1000;
async function forChunks<T>(list: readonly T[], work: (part: T[]) => Promise<unknown>): Promise<void> {
	for (let at = 0; at < list.length; at += CHUNK) await work(list.slice(at, at + CHUNK));
}

type Missing = typeof weeklyMissing.$inferSelect;

/** Takes the file of a day and part away, whose place another one takes; gives the deals it had, and what was decided of those it hadn't. */
async function clearPlace(tx: Tx, day: string, covers: string): Promise<{ deals: string[]; missing: Missing[] }> {
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
async function writeNames(tx: Tx, { names }: Looked): Promise<void> {
	const mail = /^\S+@\S+\.\S+$/;
	await forChunks([...names.newPeople], (part) =>
		tx.insert(people).values(part.map(([name, id]) => ({ id, name, email: mail.test(name) ? name.toLowerCase() : null, role: "rep" as const, team: null }))),
	);
	await forChunks([...names.newAccounts], (part) => tx.insert(accounts).values(part.map(([name, id]) => ({ id, name }))));
}

async function writeDeals(tx: Tx, { organisation }: Context, { read }: Looked, day: string): Promise<void> {
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

async function writeRows(tx: Tx, { read }: Looked, fileId: string): Promise<void> {
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
async function writeMissing(tx: Tx, missing: readonly string[], fileId: string, replaced: readonly Missing[]): Promise<void> {
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
