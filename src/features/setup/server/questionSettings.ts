import { sql } from "drizzle-orm";
import { z } from "zod";
import { questionsOn } from "@/core/qualification/edition";
import { formatDay } from "@/core/time/day";
import type { Tx } from "@/data/db";
import { newestEntry } from "@/data/queries/audit";
import { questions } from "@/data/schema";
import { currentQuestions, keepEdition } from "@/data/store/editions";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { newId } from "@/platform/ids";
import type { Written } from "@/platform/write";

const ACTION = "questions changed";
const item = z.object({
	/** null for a new question */
	id: z.string().max(200).nullable(),
	area: z.string().trim().min(1, "Each question needs an area.").max(100, "An area has at most 100 letters."),
	prompt: z.string().trim().min(1, "A question can’t be empty.").max(500, "A question has at most 500 letters."),
	help: z.string().trim().max(2000, "Help has at most 2000 letters.").nullable(),
	weight: z
		.number("The weight must be a number.")
		.gt(0, "The weight must be above zero: a question needs some weight.")
		.max(1_000_000, "The weight is at most a million."),
	due: z.number().int().min(1, "A question is due at the first open stage or later."),
	key: z.boolean(),
});
const questionsSchema = z.array(item).max(200, "At most 200 questions.");
export type QuestionInput = z.infer<typeof item>;

export interface QuestionsView {
	readonly questions: readonly (QuestionInput & { readonly id: string })[];
	readonly stages: readonly string[];
	/** days from which editions count, newest first; the oldest is null, from the beginning */
	readonly editions: readonly (string | null)[];
	readonly answers: Readonly<Record<string, number>>;
}

/** The questions in force, when they were changed, and how many deals have an answer to each. */
export const readQuestions = query("setup.questions", "readRules", (context: Context): QuestionsView => {
	const { organisation, now } = context;
	const { editions, stages } = organisation.company.rules;
	const current = questionsOn(editions, now.day);
	const counts: Record<string, number> = {};
	for (const question of current)
		counts[question.id] = organisation.company.deals.filter((deal) => [...deal.answers].some((a) => a.question === question.slot)).length;
	return {
		questions: current.map(({ id, area, prompt, weight, due, key }) => ({
			id,
			area,
			prompt,
			help: organisation.questionHelp.get(id) ?? null,
			weight,
			due,
			key,
		})),
		stages: stages.filter((stage) => stage.kind === "open").map((stage) => stage.name),
		editions: editions.map((edition, i) => (i === 0 ? null : formatDay(edition.from))).reverse(),
		answers: counts,
	};
});

/**
 * Puts the questions in force as given, in this order: a new edition from now on, which leaves earlier scores as
 * they were. A question that is left out is asked no more; its answers stay. Answers the audit's entry, for undoing.
 */
export const saveQuestions = command({
	name: "setup.saveQuestions",
	right: "changeRules",
	input: z.object({ questions: questionsSchema }),
	async run({ context, input: { questions: wish }, tx }) {
		const last = context.organisation.company.rules.stages.filter((stage) => stage.kind === "open").length;
		const tooLate = wish.find((question) => question.due > last);
		if (tooLate) throw new Fault(422, "No such stage", `“${tooLate.prompt}” is due at stage ${tooLate.due}; there are ${last} open stages.`);
		const ids = wish.flatMap((question) => question.id ?? []);
		if (new Set(ids).size < ids.length) throw new Fault(422, "Named twice", "A question is in the list twice.");
		return setQuestions(tx, context, wish, "set");
	},
});

/**
 * Brings back the questions before the newest change, as another edition.
 *
 * @throws Fault 409 when they were changed again since
 */
export const undoQuestions = command({
	name: "setup.undoQuestions",
	right: "changeRules",
	input: z.object({ change: z.number().int() }),
	async run({ context, input: { change }, tx }) {
		const newest = await newestEntry(tx, ACTION);
		if (newest?.id !== change) throw new Fault(409, "Changed since", "The questions were changed again since, so they can’t be undone.");
		return setQuestions(tx, context, questionsSchema.parse(newest.detail.before), "undone");
	},
});

async function setQuestions(tx: Tx, context: Context, wish: readonly QuestionInput[], how: string): Promise<Written<{ change: number }>> {
	const before = readQuestions(context).questions;
	await tx.execute(sql`lock table questions in share row exclusive mode`);
	const stored = await currentQuestions(tx);
	const known = new Set(stored.map((question) => question.id));
	const kept = new Set<string>();
	for (const [i, { due, ...question }] of wish.entries()) {
		if (question.id !== null && !known.has(question.id)) {
			throw new Fault(409, "Changed since", `The question ${question.id} no longer exists. Reload the page.`);
		}
		const row = { ...question, id: question.id ?? newId("question"), help: question.help || null, dueStagePosition: due, ordinal: i + 1 };
		kept.add(row.id);
		await tx.insert(questions).values(row).onConflictDoUpdate({ target: questions.id, set: row });
	}
	// Those taken out stand behind the others, and wait for whoever asks them again.
	await tx.execute(sql`
		update questions set ordinal = ${wish.length} + ordinal where not (id = any(array(select json_array_elements_text(${JSON.stringify([...kept])}::json))))
		and ordinal <= ${wish.length}`);
	await keepEdition(tx, stored, new Date(context.now.instant), kept);
	return { result: ([change = 0]) => ({ change }), touched: "settings", audit: { action: ACTION, detail: { before, after: wish, how } } };
}
