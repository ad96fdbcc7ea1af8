import { and, eq, isNull } from "drizzle-orm";
import { z } from "zod";
import { strangerOf } from "@/core/attention/rest";
import { RULES } from "@/core/flags/list";
import { surveyOn } from "@/core/survey";
import { formatDay, NO_DAY, parseDay } from "@/core/time/day";
import { connection, type Tx } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { deals, rests } from "@/data/schema";
import { clock } from "@/platform/clock";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { dayInput, idSchema } from "@/platform/input";
import { personName } from "@/platform/names";
import { reachDeal } from "@/platform/reachDeal";
import { systemWrite } from "@/platform/write";

/** so long a deal may rest at the most, in days */
const LONGEST = 120;

export const restFields = {
	dealId: idSchema,
	until: dayInput,
	reason: z.string().trim().min(1, "Enter a reason for the rest.").max(300, "A reason has at most 300 letters."),
};

/** What a rest needs: an open deal that is lit, a day ahead, and none that holds already. */
async function demandRest(tx: Tx, context: Context, dealId: string, until: string) {
	const { seen, index } = reachDeal(context, dealId);
	const today = formatDay(context.now.day);
	// Of two who give one at once the second waits here, and sees the first one's.
	await tx.select({ id: deals.id }).from(deals).where(eq(deals.id, dealId)).for("update");
	const known = new Set(context.organisation.company.deals[index]?.rests.map(({ id }) => id));
	const given = await tx
		.select({ id: rests.id, byId: rests.byId })
		.from(rests)
		.where(and(eq(rests.dealId, dealId), eq(rests.state, "given"), isNull(rests.endedOn)));
	const just = given.find(({ id }) => !known.has(id));
	if (just) throw new Fault(409, "Already at rest", `${personName(context.organisation, just.byId) ?? "Somebody"} gave this rest a moment ago.`);
	if (seen.status !== "open") throw new Fault(409, "The deal is closed", `It is ${seen.status}; it needs no rest.`);
	if (!seen.flags.length) throw new Fault(409, "Not lit", "No flag of this deal is lit, so it needs no rest.");
	const day = parseDay(until) as number;
	if (until <= today) throw new Fault(422, "The day has passed", `It can’t rest until ${until}; today is ${today}.`);
	if (day > context.now.day + LONGEST)
		throw new Fault(422, "Too long", `A deal can rest at most ${LONGEST} days. Choose a day up to ${formatDay(context.now.day + LONGEST)}.`);
	if (seen.rest) throw new Fault(409, "Already at rest", `At rest until ${formatDay(seen.rest.until)}: ${seen.rest.reason}`);
	return seen;
}

/** Lets a lit deal rest till a day: until then, or until another flag lights, it is in no count. */
export const giveRest = command({
	name: "rounds.giveRest",
	right: "holdRounds",
	input: z.object(restFields).meta({ id: "NewRest" }),
	async run({ context, input: { dealId, until, reason }, tx }) {
		const seen = await demandRest(tx, context, dealId, until);
		const row = {
			id: newId("rest"),
			dealId,
			state: "given",
			fromDay: formatDay(context.now.day),
			untilDay: until,
			reason,
			flags: seen.flags.map(({ code }) => code),
			byId: context.actor.person.id,
			at: new Date(context.now.instant),
		};
		// What was asked for of this deal is answered by it.
		await tx.delete(rests).where(and(eq(rests.dealId, dealId), eq(rests.state, "asked")));
		await tx.insert(rests).values(row);
		return { result: { id: row.id }, touched: [dealId], audit: { action: "rest given", subject: dealId, detail: { until, reason } } };
	},
});

/** Asks for a rest; whoever leads its owner gives or refuses it. */
export const askRest = command({
	name: "rounds.askRest",
	right: "askRests",
	input: z.object(restFields),
	async run({ context, input: { dealId, until, reason }, tx }) {
		await demandRest(tx, context, dealId, until);
		const [asked] = await tx
			.select({ id: rests.id })
			.from(rests)
			.where(and(eq(rests.dealId, dealId), eq(rests.state, "asked")));
		if (asked) throw new Fault(409, "Already asked for", "A rest for this deal is already asked for and waits for an answer.");
		const row = {
			id: newId("rest"),
			dealId,
			state: "asked",
			fromDay: formatDay(context.now.day),
			untilDay: until,
			reason,
			askedById: context.actor.person.id,
			at: new Date(context.now.instant),
		};
		await tx.insert(rests).values(row);
		return { result: { id: row.id }, touched: [dealId], audit: { action: "rest asked for", subject: dealId, detail: { until, reason } } };
	},
});

async function held(tx: Tx, context: Context, id: string) {
	const [row] = await tx.select().from(rests).where(eq(rests.id, id)).for("update");
	if (!row) throw notFound("rest", id);
	reachDeal(context, row.dealId);
	return row;
}

/** Gives or refuses a rest that was asked for. */
export const answerRest = command({
	name: "rounds.answerRest",
	right: "holdRounds",
	input: z.object({ id: idSchema, give: z.boolean() }),
	async run({ context, input: { id, give }, tx }) {
		const row = await held(tx, context, id);
		if (row.state !== "asked")
			throw new Fault(409, "Already answered", `${personName(context.organisation, row.byId) ?? "Somebody"} has ${row.state} it already.`);
		const seen = give ? await demandRest(tx, context, row.dealId, row.untilDay) : null;
		await tx
			.update(rests)
			.set({
				state: give ? "given" : "refused",
				fromDay: formatDay(context.now.day),
				flags: seen?.flags.map(({ code }) => code) ?? [],
				byId: context.actor.person.id,
				at: new Date(context.now.instant),
			})
			.where(eq(rests.id, id));
		return { result: {}, touched: [row.dealId], audit: { action: give ? "rest given" : "rest refused", subject: row.dealId, detail: { until: row.untilDay } } };
	},
});

/** Ends a rest today: by a manager; a rest that was asked for is taken back by whoever asked. */
export const endRest = command({
	name: "rounds.endRest",
	right: "askRests",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const row = await held(tx, context, id);
		const { person } = context.actor;
		if (row.state === "asked" && row.askedById === person.id) await tx.delete(rests).where(eq(rests.id, id));
		else if (person.role !== "manager") throw new Fault(403, "Not allowed", "Only a manager can end a rest.");
		else if (row.state !== "given" || row.endedOn) throw new Fault(409, "Not in force", "This rest is no longer in force.");
		else
			await tx
				.update(rests)
				.set({ endedOn: formatDay(context.now.day), endedBy: `${person.name} ended it` })
				.where(eq(rests.id, id));
		return { result: {}, touched: [row.dealId], audit: { action: "rest ended", subject: row.dealId, detail: { until: row.untilDay, reason: row.reason } } };
	},
});

/**
 * Ends the rests of deals on which another flag has lit since, or that are closed, so that they stay ended when that flag
 * goes out again. Done soon after each write, and every minute.
 */
export async function endRests(): Promise<string[]> {
	const { db } = connection();
	const organisation = await currentOrganisation(db);
	const now = clock(organisation);
	const today = formatDay(now.day);
	const survey = surveyOn(organisation.company, now.day);
	const over = organisation.company.deals.flatMap(({ rests: own }, deal) =>
		own.flatMap((rest) => {
			if (rest.from > now.day || now.day >= rest.until || rest.ended !== NO_DAY) return [];
			const seen = survey.deals[deal];
			if (seen?.status !== "open") return [{ id: rest.id, deal, by: "the deal is closed" }];
			const stranger = strangerOf(rest, seen.flags);
			return stranger ? [{ id: rest.id, deal, by: `${RULES.find(({ code }) => code === stranger.code)?.name ?? stranger.code} lit` }] : [];
		}),
	);
	if (!over.length) return [];
	await systemWrite(async (tx) => {
		for (const { id, by } of over)
			await tx
				.update(rests)
				.set({ endedOn: today, endedBy: by })
				.where(and(eq(rests.id, id), isNull(rests.endedOn)));
		return {
			result: null,
			touched: over.map(({ deal }) => organisation.deals[deal]?.id ?? ""),
			audit: over.map(({ deal, by }) => ({ action: "rest ended", subject: organisation.deals[deal]?.id ?? null, detail: { by } })),
		};
	});
	return [`${over.length} rests ended`];
}
