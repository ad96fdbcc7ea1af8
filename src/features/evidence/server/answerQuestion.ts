import { and, desc, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { questionsOn } from "@/core/qualification/edition";
import { LEVELS } from "@/core/qualification/score";
import { connection } from "@/data/db";
import { activities, answers, dealContacts, deals } from "@/data/schema";
import { touch } from "@/data/store/touch";
import { type Context, record } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { reachDeal } from "@/platform/reachDeal";
import { demand } from "@/platform/rights";

export const answerSchema = z
	.object({
		questionId: z.string().min(1).max(200),
		level: z.enum(LEVELS),
		note: z.string().trim().max(2000, "A note on an answer has at most 2000 letters.").nullable().optional(),
		/** `activity:ID`, `contact:ID` or a link */
		shownBy: z.string().trim().max(2000).nullable().optional(),
		/** the instant of the newest answer that was seen, null for none */
		seenAt: z.iso.datetime().nullable(),
		/** answer although somebody else did meanwhile */
		anyway: z.boolean().default(false),
	})
	.meta({ id: "NewAnswer" });

/**
 * Adds an answer to a question of a deal; earlier ones stay. A 409 says who answered meanwhile, and what,
 * unless the person has chosen to answer anyway. *Shown* needs what shows it.
 */
export async function answerQuestion(context: Context, dealId: string, input: z.input<typeof answerSchema>): Promise<{ at: string }> {
	demand(context.actor, "answerQuestions");
	const wish = answerSchema.parse(input);
	const { organisation, actor, now } = context;
	reachDeal(context, dealId);
	const question = questionsOn(organisation.company.rules.editions, now.day).find((q) => q.id === wish.questionId);
	if (!question) throw new Fault(404, "Not found", "This question isn't asked any more. Look at the sheet again.");
	const shownBy = wish.level === "shown" ? (wish.shownBy ?? "") : null;
	if (shownBy !== null) await checkProof(dealId, shownBy);
	return connection().db.transaction(async (tx) => {
		// Whoever answers a question of this deal waits for the one before.
		await tx.select({ id: deals.id }).from(deals).where(eq(deals.id, dealId)).for("update");
		const [newest] = await tx
			.select()
			.from(answers)
			.where(and(eq(answers.dealId, dealId), eq(answers.questionId, question.id)))
			.orderBy(desc(answers.at))
			.limit(1);
		const seen = wish.seenAt === null ? null : Date.parse(wish.seenAt);
		if (newest && newest.at.getTime() !== seen && !wish.anyway) {
			const who = organisation.people[organisation.personIndex.get(newest.byId ?? "") ?? -1]?.name ?? "Somebody";
			throw new Fault(
				409,
				"Answered meanwhile",
				`${who} answered this meanwhile: ${newest.level === "against" ? "against us" : newest.level}${newest.note ? `, “${newest.note}”` : ""}.`,
				{
					at: newest.at.toISOString(),
					level: newest.level,
					by: who,
				},
			);
		}
		const at = new Date(Math.max(now.instant, (newest?.at.getTime() ?? 0) + 1));
		await tx.insert(answers).values({ dealId, questionId: question.id, level: wish.level, note: wish.note || null, at, byId: actor.person.id, shownBy });
		await record(tx, context, "question answered", dealId, { question: question.id, level: wish.level, was: newest?.level ?? "unknown" });
		await touch(tx, [dealId]);
		return { at: at.toISOString() };
	});
}

/** What shows an answer must be there: an activity or a contact of the deal, or a link. */
async function checkProof(dealId: string, shownBy: string): Promise<void> {
	const missing = () => new Fault(422, "What shows it?", "Say what shows it: an activity or a contact of this deal, or a link that starts with https://.");
	const { db } = connection();
	if (/^https?:\/\/\S+$/.test(shownBy)) return;
	const [kind, ...rest] = shownBy.split(":");
	const id = rest.join(":");
	const found =
		kind === "activity"
			? await db
					.select({ one: sql`1` })
					.from(activities)
					.where(and(eq(activities.id, id), eq(activities.dealId, dealId)))
			: kind === "contact"
				? await db
						.select({ one: sql`1` })
						.from(dealContacts)
						.where(and(eq(dealContacts.contactId, id), eq(dealContacts.dealId, dealId)))
				: [];
	if (!found.length) throw missing();
}
