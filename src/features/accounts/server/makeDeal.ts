import { and, count, eq } from "drizzle-orm";
import { z } from "zod";
import { CATEGORIES } from "@/core/history/columns";
import { MOST_AMOUNT } from "@/core/money/amount";
import { worksOn } from "@/core/people/person";
import { activities, answers, attachments, dealContacts, deals, dealVersions, notes, quotes, tasks } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { dayInput, idSchema } from "@/platform/input";
import { reaches, reachOf } from "@/platform/reach";
import { reachAccount } from "@/platform/reachAccount";
import { reachDeal } from "@/platform/reachDeal";

/** Makes a deal at an account, in the first stage. The person who makes it owns it, unless another of theirs is named. */
export const makeDeal = command({
	name: "accounts.makeDeal",
	right: "editDeals",
	input: z
		.object({
			accountId: idSchema,
			name: z.string().trim().min(1, "Enter a name.").max(200, "A name has at most 200 letters."),
			amount: z
				.number("The amount must be a number.")
				.int("The amount must be in whole minor units.")
				.min(0, "The amount can’t be negative.")
				.max(MOST_AMOUNT, "The amount is too large.")
				.nullable()
				.default(null)
				.meta({ description: "minor units of the base currency" }),
			closeDate: dayInput.nullable().default(null),
			category: z.enum(CATEGORIES).default("pipeline"),
			ownerId: idSchema.optional(),
		})
		.strict()
		.meta({ id: "NewDeal" }),
	async run({ context, input: { accountId, name, ownerId: given, ...state }, tx }) {
		const { organisation, actor, now } = context;
		reachAccount(context, accountId);
		const ownerId = given ?? actor.person.id;
		const index = organisation.personIndex.get(ownerId);
		const owner = index === undefined ? undefined : organisation.people[index];
		if (index === undefined || !owner || !reaches(reachOf(organisation, actor), index)) throw notFound("person", ownerId);
		if (!worksOn(owner, now.day)) throw new Fault(422, "No longer here", `${owner.name} is no longer with the company; choose another owner.`);
		const { stages, rates } = organisation.company.rules;
		const first = stages.find(({ kind }) => kind === "open");
		if (!first) throw new Fault(422, "No stage", "There is no open stage; ops can add one in Setup.");
		const id = newId("deal");
		const at = new Date(now.instant);
		await tx.insert(deals).values({ id, accountId, name, createdAt: at });
		await tx.insert(dealVersions).values({
			...state,
			dealId: id,
			validFrom: at,
			stage: first.name,
			currency: rates.base,
			ownerId,
			nextStep: null,
			nextStepDate: null,
			byId: actor.person.id,
		});
		return { result: { id }, touched: [id], audit: { action: "deal created", subject: id, detail: { name, account: accountId, ...state, owner: ownerId } } };
	},
});

/** What a deal may have besides its one version: with any of it, it has begun, and is lost rather than taken back. */
const BEGUN = [
	{ table: activities, deal: activities.dealId },
	{ table: tasks, deal: tasks.dealId },
	{ table: answers, deal: answers.dealId },
	{ table: notes, deal: notes.dealId },
	{ table: quotes, deal: quotes.dealId },
	{ table: dealContacts, deal: dealContacts.dealId },
	{ table: attachments, deal: attachments.dealId },
] as const;

/** Takes back a deal that one has made here and nobody has done anything with. */
export const unmakeDeal = command({
	name: "accounts.unmakeDeal",
	right: "editDeals",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const { attributes } = reachDeal(context, id);
		const versions = await tx.select().from(dealVersions).where(eq(dealVersions.dealId, id)).for("update");
		let begun = versions.length !== 1 || versions[0]?.byId !== context.actor.person.id || !id.startsWith("deal-");
		for (const { table, deal } of BEGUN) {
			const [row] = await tx.select({ n: count() }).from(table).where(eq(deal, id));
			if (row?.n) begun = true;
		}
		if (begun) throw new Fault(409, "Begun already", `${attributes.name} has been worked on; mark it as lost instead.`);
		await tx.delete(dealVersions).where(and(eq(dealVersions.dealId, id), eq(dealVersions.byId, context.actor.person.id)));
		await tx.delete(deals).where(eq(deals.id, id));
		return { result: {}, touched: [id], audit: { action: "deal removed", subject: id, detail: { name: attributes.name } } };
	},
});
