import { and, desc, eq, isNull, sql } from "drizzle-orm";
import { z } from "zod";
import { LEVELS } from "@/core/qualification/answer";
import { questionsOn } from "@/core/qualification/edition";
import type { Tx } from "@/data/db";
import { activities, answers, attachments, dealContacts, deals } from "@/data/schema";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { personName } from "@/platform/names";
import { reachDeal } from "@/platform/reachDeal";

/**
 * Adds an answer to a question of a deal; earlier ones stay. *Shown* needs what shows it.
 *
 * @throws Fault 409 says who answered meanwhile, and what, unless the person has chosen to answer anyway; 422 without proof
 */
export const answerQuestion = command({
	name: "evidence.answer",
	right: "answerQuestions",
	input: z
		.object({
			dealId: idSchema,
			questionId: idSchema,
			level: z.enum(LEVELS),
			note: z.string().trim().max(2000, "A note on an answer has at most 2000 letters.").nullable().optional(),
			/** `activity:ID`, `contact:ID`, `attachment:ID` or a link */
			shownBy: z.string().trim().max(2000).nullable().optional(),
			/** the instant of the newest answer that was seen, null for none */
			seenAt: z.iso.datetime().nullable(),
			/** answer although somebody else did meanwhile */
			anyway: z.boolean().default(false),
		})
		.meta({ id: "NewAnswer" }),
	async run({ context, input, tx }) {
		const { dealId, level } = input;
		const { question, newest } = await newestAnswer(tx, context, dealId, input.questionId);
		const shownBy = level === "shown" ? (input.shownBy ?? "") : null;
		if (shownBy !== null) await checkProof(tx, dealId, shownBy);
		const seen = input.seenAt === null ? null : Date.parse(input.seenAt);
		if (newest && newest.at.getTime() !== seen && !input.anyway) throw meanwhile(context, newest);
		const at = await writeAnswer(tx, context, { dealId, questionId: question.id, level, note: input.note || null, shownBy }, newest);
		return {
			result: { at: at.toISOString() },
			touched: [dealId],
			audit: { action: "question answered", subject: dealId, detail: { question: question.id, level, was: newest?.level ?? "unknown" } },
		};
	},
});

/**
 * Answers a question where only its level was seen, as in the grid. What was there before comes back with it, for an undo.
 *
 * @throws Fault 409 says who answered meanwhile, and what
 */
export const answerCell = command({
	name: "evidence.answerCell",
	right: "answerQuestions",
	input: z.object({
		dealId: idSchema,
		questionId: idSchema,
		level: z.enum(LEVELS).exclude(["shown"], "“Shown” needs a source: answer it on the deal."),
		/** the level that was seen */
		seen: z.enum(LEVELS),
	}),
	async run({ context, input: { dealId, questionId, level, seen }, tx }) {
		const { newest, question } = await newestAnswer(tx, context, dealId, questionId);
		if ((newest?.level ?? "unknown") !== seen) throw meanwhile(context, newest);
		const at = await writeAnswer(tx, context, { dealId, questionId: question.id, level, note: null, shownBy: null }, newest);
		return {
			result: {
				at: at.toISOString(),
				before: { level: (newest?.level ?? "unknown") as (typeof LEVELS)[number], note: newest?.note ?? null, shownBy: newest?.shownBy ?? null },
			},
			touched: [dealId],
			audit: { action: "question answered", subject: dealId, detail: { question: question.id, level, was: seen } },
		};
	},
});

type Answer = typeof answers.$inferSelect;

/** A question that is asked today, and its newest answer on a deal; a second answer on this deal waits for the first. */
async function newestAnswer(tx: Tx, context: Context, dealId: string, questionId: string) {
	reachDeal(context, dealId);
	const question = questionsOn(context.organisation.company.rules.editions, context.now.day).find((q) => q.id === questionId);
	if (!question) throw new Fault(404, "Not found", "This question was retired. Reload the sheet.");
	await tx.select({ id: deals.id }).from(deals).where(eq(deals.id, dealId)).for("update");
	const [newest] = await tx
		.select()
		.from(answers)
		.where(and(eq(answers.dealId, dealId), eq(answers.questionId, question.id)))
		.orderBy(desc(answers.at))
		.limit(1);
	return { question, newest };
}

function meanwhile({ organisation }: Context, newest: Answer | undefined): Fault {
	if (!newest) return new Fault(409, "Answered by someone else", "The answer you saw has been replaced.");
	const by = personName(organisation, newest.byId) ?? "Somebody";
	const said = `${newest.level === "against" ? "against us" : newest.level}${newest.note ? `, “${newest.note}”` : ""}`;
	return new Fault(409, "Answered by someone else", `${by} answered this since: ${said}.`, { at: newest.at.toISOString(), level: newest.level, by });
}

/** Writes an answer after the newest one; two of one instant lie a millisecond apart. */
async function writeAnswer(
	tx: Tx,
	{ actor, now }: Context,
	said: Pick<Answer, "dealId" | "questionId" | "level" | "note" | "shownBy">,
	newest: Answer | undefined,
): Promise<Date> {
	const at = new Date(Math.max(now.instant, (newest?.at.getTime() ?? 0) + 1));
	await tx.insert(answers).values({ ...said, at, byId: actor.person.id });
	return at;
}

/** What shows an answer must be there: an activity, a contact or a file of the deal, or a link. */
async function checkProof(tx: Tx, dealId: string, shownBy: string): Promise<void> {
	if (/^https?:\/\/\S+$/.test(shownBy)) return;
	const [kind, ...rest] = shownBy.split(":");
	const id = rest.join(":");
	const one = { one: sql`1` };
	const found =
		kind === "activity"
			? await tx
					.select(one)
					.from(activities)
					.where(and(eq(activities.id, id), eq(activities.dealId, dealId)))
			: kind === "contact"
				? await tx
						.select(one)
						.from(dealContacts)
						.where(and(eq(dealContacts.contactId, id), eq(dealContacts.dealId, dealId)))
				: kind === "attachment"
					? await tx
							.select(one)
							.from(attachments)
							.where(and(eq(attachments.id, id), eq(attachments.dealId, dealId), isNull(attachments.removedAt)))
					: [];
	if (!found.length)
		throw new Fault(422, "Missing source", "Name the source: an activity, a contact or a file of this deal, or a link that starts with https://.");
}
