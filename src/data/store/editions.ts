import { asc, count, max } from "drizzle-orm";
import type { Sql, Tx } from "../db";
import { questionEditions, questions } from "../schema";

export type StoredQuestion = typeof questions.$inferSelect;

/** The edition before the first change counts from here on. */
const BEGINNING = new Date(0);

/** All questions as they stand, in the framework's order, those taken out included. */
export async function currentQuestions(db: Sql): Promise<StoredQuestion[]> {
	return db.select().from(questions).orderBy(asc(questions.ordinal), asc(questions.id));
}

/**
 * Keeps the questions as they now stand as an edition from an instant on. The first time the ones they
 * replace are kept too, so that earlier scores stay as they were. `kept` names those in force; without it, all.
 */
export async function keepEdition(tx: Tx, before: readonly StoredQuestion[], at: Date, kept: ReadonlySet<string> | null = null): Promise<void> {
	const [known] = await tx.select({ n: count() }).from(questionEditions);
	if (!known?.n && before.length) await tx.insert(questionEditions).values(before.map((question) => rowOf(question, BEGINNING)));
	const now = (await currentQuestions(tx)).filter((question) => !kept || kept.has(question.id));
	const [newest] = await tx.select({ at: max(questionEditions.at) }).from(questionEditions);
	// An edition is named by its instant, so two never share one.
	const instant = newest?.at && newest.at >= at ? new Date(newest.at.getTime() + 1) : at;
	if (now.length) await tx.insert(questionEditions).values(now.map((question) => rowOf(question, instant)));
}

function rowOf({ id, ordinal, ...rest }: StoredQuestion, at: Date): typeof questionEditions.$inferInsert {
	return { ...rest, at, questionId: id, place: ordinal };
}
