import { and, desc, eq, isNull, sql } from "drizzle-orm";
import { z } from "zod";
import { connection } from "@/data/db";
import { imports } from "@/data/schema";
import type { ImportStep } from "@/data/schema/import";
import { readKnown } from "@/data/store/known";
import { keepQuiet } from "@/data/store/quiet";
import { forgetOlder } from "@/data/store/takeOut";
import { writeRows } from "@/data/store/writeBundle";
import { checkBundle } from "@/formats/bundle/check";
import { type Contents, withoutContents } from "@/formats/bundle/contents";
import type { Problem, RawFiles } from "@/formats/bundle/model";
import { readBundle } from "@/formats/bundle/read";
import { UnpackFault, unzip } from "@/formats/bundle/unpack";
import { type Cause, causesOf } from "@/formats/causes";
import { instantNow } from "@/platform/clock";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { log } from "@/platform/log";
import { inThread } from "@/platform/threads";
import { sharedWriteLock, systemWrite } from "@/platform/write";
import { causeSchema } from "./causeSchema";
import { keepContents, wholeContents } from "./importContents";
import { stepWords } from "./importStep";

export const IMPORT_STATES = ["reading", "writing", "done", "checked", "refused", "failed", "undone"] as const;

export const importSchema = z
	.object({
		id: z.string(),
		name: z.string(),
		state: z.enum(IMPORT_STATES).meta({
			description:
				"done: written; checked: a dry run without problems; refused: problems, nothing written; failed: an error of ours, nothing written; undone: written, then undone as a whole",
		}),
		dryRun: z.boolean(),
		step: z.string().meta({ description: "the current step, in words" }),
		progress: z.object({ done: z.number().int(), total: z.number().int() }),
		startedAt: z.iso.datetime(),
		endedAt: z.iso.datetime().nullable(),
		counts: z.record(z.string(), z.number().int()).meta({ description: "rows read, by file" }),
		changed: z.record(z.string(), z.number().int()).meta({ description: "rows added or changed, by file" }),
		unknownColumns: z.record(z.string(), z.array(z.string())).meta({ description: "kept, and included in the export" }),
		problemCount: z.number().int(),
		causes: z.array(causeSchema).meta({ description: "the same by cause, with the rows that depend on it; the cause with most rows first" }),
		leavable: z.boolean().meta({ description: "skip_bad would import the rows without problems" }),
		problems: z.array(
			z.object({ file: z.string(), line: z.number().int().nullable(), column: z.string().nullable(), value: z.string().nullable(), reason: z.string() }),
		),
	})
	.meta({ id: "Import" });
export type ImportJson = z.infer<typeof importSchema>;

export interface ImportOptions {
	readonly dryRun: boolean;
	/** write the rows without problems although others have some */
	readonly skipBad: boolean;
	readonly name: string;
	/** it can't be taken out again: nothing is kept for that */
	readonly forGood?: boolean;
}

/** A bundle as a zip's bytes, or as files that are unpacked already. */
export type Source = Uint8Array | RawFiles;

/** names the lock that lets one import in at a time */
export const IMPORT_LOCK = 720518;
const KEPT_PROBLEMS = 1000;
const KEPT_CAUSES = 200;
/** a running import whose process says nothing for this long has died */
const SILENCE = 60_000;

/** Registers an import, so that it can be followed from its first moment. */
export const registerImport = command({
	name: "import.start",
	right: "importBundle",
	input: z.object({ name: z.string(), dryRun: z.boolean() }),
	server: true,
	async run({ context, input: { name, dryRun }, tx }) {
		const id = newId();
		const byId = context.actor.person.id;
		await tx
			.insert(imports)
			.values({ id, byId, startedAt: new Date(context.now.instant), name: name.slice(0, 200), dryRun, state: "reading", step: "opening" });
		return { result: id, touched: "nothing", audit: { action: "import started", subject: id, detail: { name, dryRun } } };
	},
});

/** Starts an import by a person of ops: answers its id at once, and a promise of its end. */
export async function startImport(context: Context, source: Source, options: ImportOptions): Promise<{ id: string; end: Promise<ImportJson> }> {
	const id = await registerImport(context, { name: options.name, dryRun: options.dryRun });
	const end = inThread<ImportJson>("importBundle", { id, source, options }).catch((error: unknown) => endedEarly(id, options, error));
	end.catch(() => undefined);
	return { id, end };
}

/** The thread itself ended, before it could say why: mostly for want of memory. */
async function endedEarly(id: string, options: ImportOptions, error: unknown): Promise<ImportJson> {
	log.error({ error: String(error), id }, "an import’s thread ended");
	const full = (error as { code?: string }).code === "ERR_WORKER_OUT_OF_MEMORY";
	const reason = full
		? "reading it needs more memory than an import may use; nothing was imported. Split it into several bundles"
		: "an error in the program; nothing was imported. Try again; if it fails again, tell the administrator of this server";
	const problem: Problem = { file: options.name, line: null, column: null, value: null, reason };
	const values = {
		state: full ? "refused" : "failed",
		step: "" as const,
		problems: [problem],
		problemCount: 1,
		causes: causesOf([problem]),
		endedAt: await nowThere(),
	};
	await connection()
		.db.update(imports)
		.set({ ...values, beatAt: new Date() })
		.where(and(eq(imports.id, id), isNull(imports.endedAt)));
	return importById(id);
}

/** Carries out an import whose row exists: reads and checks everything, then writes in one transaction or not at all. `beside` is what the files of a folder hold. */
export async function runImport(id: string, source: Source, options: ImportOptions, beside?: Contents): Promise<ImportJson> {
	try {
		await carryOut(id, source, options, beside);
	} catch (error) {
		const reason =
			error instanceof UnpackFault
				? error.message
				: "an error in the program; nothing was imported. Try again; if it fails again, tell the administrator of this server";
		const file = error instanceof UnpackFault ? error.file : options.name;
		const problem: Problem = { file, line: null, column: null, value: null, reason };
		const found = { problems: [problem], problemCount: 1, causes: causesOf([problem]) };
		await update(id, { ...found, state: error instanceof UnpackFault ? "refused" : "failed", step: "", endedAt: await nowThere() });
		if (!(error instanceof UnpackFault)) throw error;
	}
	return importById(id);
}

/** Now by the program's clock, whose day may be held. */
const nowThere = async () => new Date(await instantNow(connection().db));

async function carryOut(id: string, source: Source, options: ImportOptions, beside?: Contents): Promise<void> {
	const { tables: raw, contents: inside } = withoutContents(source instanceof Uint8Array ? await unzip(source, options.name) : source);
	const contents = beside ?? inside;
	const [registered] = await connection().db.select({ byId: imports.byId }).from(imports).where(eq(imports.id, id));
	await update(id, { step: "reading" });
	await systemWrite(
		async (tx) => {
			// One import at a time: what it checks against must not change before it writes.
			await tx.execute(sql`select pg_advisory_xact_lock(${IMPORT_LOCK})`);
			const known = await readKnown(tx, await instantNow(tx));
			const read = readBundle(raw, known);
			await update(id, { step: "checking", counts: read.counts, unknownColumns: read.bundle.unknownColumns });
			const checked = checkBundle(read.bundle, { ...known, contents: await wholeContents(tx, read.bundle, contents) });
			const problems = read.problems.concat(checked.problems);
			const causes = causesOf(problems);
			const found = { problems: problems.slice(0, KEPT_PROBLEMS), problemCount: problems.length, causes: causes.slice(0, KEPT_CAUSES) };
			const hopeless = !leavable(causes);
			const refused = problems.length > 0 && (!options.skipBad || hopeless);
			if (refused || options.dryRun) {
				const step: ImportStep = refused && options.skipBad && hopeless ? "needed" : "";
				await update(id, { ...found, state: refused ? "refused" : "checked", step, endedAt: await nowThere() });
				return { result: undefined, touched: "nothing", audit: [] };
			}
			await update(id, { ...found, state: "writing" });
			await sharedWriteLock(tx);
			const now = new Date(await instantNow(tx));
			const onWrite = (file: string, done: number, total: number) => update(id, { step: `writing ${file}`, done, total });
			if (!options.forGood) await tx.execute(sql`select set_config('porch_lamp.import', ${id}, true)`);
			const { changed, deals } = await writeRows(tx, checked.good, read.bundle, id, now, onWrite);
			await tx.execute(sql`select set_config('porch_lamp.import', '', true)`);
			await keepContents(tx, checked.good, contents);
			if (Object.values(changed).some((count) => count > 0)) await keepQuiet(tx, deals);
			await forgetOlder(tx, id);
			await tx
				.update(imports)
				.set({ state: "done", step: "", changed, endedAt: await nowThere() })
				.where(eq(imports.id, id));
			const anything = Object.values(changed).some((count) => count > 0);
			const audit = { action: "bundle imported", subject: id, detail: { name: options.name, changed } };
			return { result: undefined, touched: anything ? { deals: [...deals], parts: ["settings"] } : "nothing", audit };
		},
		registered?.byId ?? null,
		"later",
	);
}

/** What everything else is said in terms of: it is never left out where something rests on it. */
const NEEDED_BY_OTHERS = new Set(["stages.csv", "questions.csv", "people.csv"]);

/** Whether the rows with problems can be left out: not where a file as a whole can't be read, nor a stage, question or person that others need. */
export const leavable = (causes: readonly Pick<Cause, "file" | "lines" | "rests">[]): boolean =>
	causes.every(({ file, lines, rests }) => (lines[0] ?? 0) > 1 && !(rests > 0 && NEEDED_BY_OTHERS.has(file)));

/** Progress is written outside the import's own transaction, so that others see it. */
async function update(id: string, values: Partial<typeof imports.$inferInsert>): Promise<void> {
	await connection()
		.db.update(imports)
		.set({ ...values, beatAt: new Date() })
		.where(eq(imports.id, id));
}

export const readImport = query("import.report", "readImports", async (_: Context, id: string): Promise<ImportJson> => {
	return importById(id);
});

export const listImports = query("import.list", "readImports", async (_: Context): Promise<ImportJson[]> => {
	const rows = await connection().db.select().from(imports).orderBy(desc(imports.startedAt), desc(imports.id)).limit(20);
	return rows.map(importJson);
});

/** The report of an import. Throws 404. */
export async function importById(id: string): Promise<ImportJson> {
	const [row] = await connection().db.select().from(imports).where(eq(imports.id, id));
	if (!row) throw notFound("import", id);
	return importJson(row);
}

function importJson(row: typeof imports.$inferSelect): ImportJson {
	const running = row.endedAt === null;
	const died = running && Date.now() - row.beatAt.getTime() > SILENCE;
	return {
		id: row.id,
		name: row.name,
		state: died ? "failed" : (row.state as ImportJson["state"]),
		dryRun: row.dryRun,
		step: stepWords(died ? "died" : row.step),
		progress: { done: row.done, total: row.total },
		startedAt: row.startedAt.toISOString(),
		endedAt: row.endedAt?.toISOString() ?? null,
		counts: row.counts,
		changed: row.changed,
		unknownColumns: row.unknownColumns,
		problemCount: row.problemCount,
		causes: row.causes,
		leavable: row.causes.length > 0 && leavable(row.causes),
		problems: row.problems,
	};
}
