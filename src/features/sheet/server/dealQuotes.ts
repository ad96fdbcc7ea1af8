import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { z } from "zod";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { quotes } from "@/data/schema";
import { touch } from "@/data/store/touch";
import { type Context, record } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { reachDeal } from "@/platform/reachDeal";
import { demand } from "@/platform/rights";

export const quoteSchema = z.object({
	number: z.string().trim().max(100, "A quote's number has at most 100 letters.").nullable(),
	validUntil: z.iso.date("This isn't a day that exists."),
});

/** Notes a quote that was sent today, for the deal's present amount. */
export async function sendQuote(context: Context, dealId: string, input: z.infer<typeof quoteSchema>): Promise<{ id: string }> {
	demand(context.actor, "editDeals");
	const wish = quoteSchema.parse(input);
	const { organisation, now } = context;
	const { seen } = reachDeal(context, dealId);
	const { history, rules } = organisation.company;
	const today = formatDay(now.day);
	if (wish.validUntil < today) throw new Fault(422, "Lapsed already", `A quote that is sent today must hold at least until ${today}.`);
	const amount = history.amount[seen.row] as number;
	const id = `quote-${randomUUID()}`;
	await connection().db.transaction(async (tx) => {
		await tx.insert(quotes).values({
			id,
			dealId,
			number: wish.number || null,
			sentOn: today,
			validUntil: wish.validUntil,
			amount: Number.isNaN(amount) ? null : amount,
			currency: rules.currencies[history.currency[seen.row] as number] ?? rules.rates.base,
		});
		await record(tx, context, "quote sent", dealId, { quote: id, validUntil: wish.validUntil });
		await touch(tx, [dealId]);
	});
	return { id };
}

/** Notes what they answered to a quote today; null takes the answer back. */
export async function answerQuote(context: Context, id: string, answer: string | null): Promise<void> {
	demand(context.actor, "editDeals");
	await connection().db.transaction(async (tx) => {
		const [quote] = await tx.select().from(quotes).where(eq(quotes.id, id)).for("update");
		if (!quote) throw notFound("quote", id);
		reachDeal(context, quote.dealId);
		await tx
			.update(quotes)
			.set(answer === null ? { answeredOn: null, answer: null } : { answeredOn: formatDay(context.now.day), answer: answer.trim().slice(0, 500) || "answered" })
			.where(eq(quotes.id, id));
		await record(tx, context, "quote answered", quote.dealId, { quote: id, answer });
		await touch(tx, [quote.dealId]);
	});
}
