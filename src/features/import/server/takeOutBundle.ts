import { eq } from "drizzle-orm";
import { z } from "zod";
import { connection, type Sql } from "@/data/db";
import { imports } from "@/data/schema";
import { ChangedSince, countKept, newestKept, takeOut } from "@/data/store/takeOut";
import { command, lookup, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";

const input = z.object({ id: z.string().max(100) });

/** What the rows of a table are called. */
const WORDS: Readonly<Record<string, string>> = {
	deal_versions: "versions of deals",
	deal_contacts: "contacts of deals",
	deal_lines: "lines of deals",
	close_plan_steps: "steps of close plans",
	question_editions: "editions of questions",
	import_extras: "unknown columns",
	organisation: "settings",
};
const wordsOf = (table: string) => WORDS[table] ?? table;

async function demandNewest(db: Sql, id: string) {
	const [row] = await db.select().from(imports).where(eq(imports.id, id));
	if (!row) throw notFound("import", id);
	if (row.state !== "done" || (await newestKept(db)) !== id)
		throw new Fault(
			422,
			"Can’t be undone",
			"Only the newest import that changed something can be undone, and only once. To delete the demo company, use Setup, Company.",
		);
	return row;
}

/** The import that can be taken out; null when there is none. */
export const readNewest = query("import.newest", "readImports", (_: Context) => newestKept(connection().db));

/** What taking an import out again would undo, by kind of row; nothing is written. */
export const previewTakeOutBundle = lookup({
	name: "import.previewTakeOutBundle",
	right: "importBundle",
	input,
	async run({ input: { id } }) {
		const { db } = connection();
		const { name } = await demandNewest(db, id);
		const rows = (await countKept(db, id)).map(({ table, added, changed }) => ({ what: wordsOf(table), added, changed }));
		return { name, rows };
	},
});

/** Takes the newest import out again, as if it had never come, as long as nothing later rests on it. */
export const takeOutBundle = command({
	name: "import.takeOutBundle",
	right: "importBundle",
	input,
	alone: true,
	async run({ input: { id }, tx }) {
		const { name } = await demandNewest(tx, id);
		try {
			await takeOut(tx, id);
		} catch (error) {
			const on = restsOn(error);
			if (on)
				throw new Fault(
					409,
					"Later data depends on it",
					`${on} Nothing was changed. Undo the later changes first, or import a corrected bundle: rows are replaced by their ids.`,
				);
			throw error;
		}
		await tx.update(imports).set({ state: "undone" }).where(eq(imports.id, id));
		return { result: { name }, touched: "everything", audit: { action: "import undone", subject: id, detail: { name } } };
	},
});

/** Why an import can't be taken out, in words; null for another error. */
function restsOn(error: unknown): string | null {
	if (error instanceof ChangedSince) return `Some of its ${wordsOf(error.table)} have been changed since.`;
	const { code, table } = (error as { cause?: { code?: string; table?: string } }).cause ?? {};
	return code === "23503" ? `Some of what it imported is used by ${wordsOf(table ?? "later rows")} that came later.` : null;
}
