import { eq } from "drizzle-orm";
import { z } from "zod";
import { blockOf } from "@/core/history/columns";
import { rowOf } from "@/core/inspect";
import { formatDay } from "@/core/time/day";
import { quotes } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { dayInput, idSchema } from "@/platform/input";
import { reachDeal } from "@/platform/reachDeal";

/** Notes a quote that was sent today, for the deal's present amount. */
export const sendQuote = command({
	name: "sheet.sendQuote",
	right: "editDeals",
	input: z.object({
		dealId: idSchema,
		number: z.string().trim().max(100, "A quote’s number has at most 100 letters.").nullable(),
		validUntil: dayInput,
	}),
	async run({ context, input: { dealId, number, validUntil }, tx }) {
		const { organisation, now } = context;
		const { seen } = reachDeal(context, dealId);
		const { history, rules } = organisation.company;
		const today = formatDay(now.day);
		if (validUntil < today) throw new Fault(422, "Already lapsed", `A quote sent today must be valid until at least ${today}.`);
		const block = blockOf(history, seen.deal);
		const amount = block.amount[rowOf(history, seen)] as number;
		const id = newId("quote");
		await tx.insert(quotes).values({
			id,
			dealId,
			number: number || null,
			sentOn: today,
			validUntil,
			amount: Number.isNaN(amount) ? null : amount,
			currency: rules.currencies[block.currency[rowOf(history, seen)] as number] ?? rules.rates.base,
		});
		return { result: { id }, touched: [dealId], audit: { action: "quote sent", subject: dealId, detail: { quote: id, validUntil } } };
	},
});

/** Notes what they answered to a quote today; null takes the answer back. */
export const answerQuote = command({
	name: "sheet.answerQuote",
	right: "editDeals",
	input: z.object({ id: idSchema, answer: z.string().max(500, "An answer has at most 500 letters.").nullable() }),
	async run({ context, input: { id, answer }, tx }) {
		const [quote] = await tx.select().from(quotes).where(eq(quotes.id, id)).for("update");
		if (!quote) throw notFound("quote", id);
		reachDeal(context, quote.dealId);
		await tx
			.update(quotes)
			.set(answer === null ? { answeredOn: null, answer: null } : { answeredOn: formatDay(context.now.day), answer: answer.trim() || "answered" })
			.where(eq(quotes.id, id));
		return { result: {}, touched: [quote.dealId], audit: { action: "quote answered", subject: quote.dealId, detail: { quote: id, answer } } };
	},
});
