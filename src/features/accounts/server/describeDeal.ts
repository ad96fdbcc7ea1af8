import { and, eq } from "drizzle-orm";
import { z } from "zod";
import type { Tx } from "@/data/db";
import { deals, formerFacts } from "@/data/schema";
import { command } from "@/platform/command";
import { recordPreviousValue } from "@/platform/factHistory";
import { Fault } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { reachAccount } from "@/platform/reachAccount";
import { reachDeal } from "@/platform/reachDeal";

const said = z.object({ name: z.string().trim().min(1, "Enter a name.").max(200, "A name has at most 200 letters."), accountId: idSchema.nullable() }).strict();

/**
 * Gives a deal another name or another account; days before go on being read with the former ones. People on the deal stay on it.
 *
 * @throws Fault 409 where somebody else has done so since it was seen
 */
export const describeDeal = command({
	name: "accounts.describeDeal",
	right: "editDeals",
	input: z.object({ dealId: idSchema, set: said, seen: z.object({ name: z.string(), accountId: z.string().nullable() }) }),
	async run({ context, input: { dealId, set, seen }, tx }) {
		reachDeal(context, dealId);
		const [row] = await tx.select({ name: deals.name, accountId: deals.accountId }).from(deals).where(eq(deals.id, dealId)).for("update");
		const was = row ?? seen;
		const { accounts } = context.organisation;
		const nameOf = (id: string | null) => (id ? (accounts.get(id)?.name ?? id) : "no account");
		if (was.name !== seen.name || was.accountId !== seen.accountId)
			throw new Fault(409, "Changed by someone else", `This deal is called ${was.name || "nothing"} now, with ${nameOf(was.accountId)}. Reload to see it.`);
		if (set.accountId !== null && set.accountId !== was.accountId && !(await hadAccount(tx, dealId, set.accountId))) reachAccount(context, set.accountId);
		if (set.accountId === null && was.accountId !== null) throw new Fault(422, "No account", "Choose the account that this deal belongs to.");
		const changed = {
			...(set.name !== was.name ? { name: set.name } : {}),
			...(set.accountId !== was.accountId ? { accountId: set.accountId } : {}),
		};
		if (!Object.keys(changed).length) return { result: { before: was }, touched: "nothing", audit: [] };
		await recordPreviousValue(tx, context, [
			...("name" in changed ? [{ dealId, field: "name" as const, before: was.name }] : []),
			...("accountId" in changed ? [{ dealId, field: "account" as const, before: was.accountId }] : []),
		]);
		await tx.update(deals).set(changed).where(eq(deals.id, dealId));
		const words = ({ name, accountId }: typeof was) => `${name || "no name"}, ${nameOf(accountId)}`;
		return {
			result: { before: was },
			touched: { deals: [dealId], parts: ["accounts"] },
			audit: { action: "deal renamed", subject: dealId, detail: { before: words(was), after: words({ ...was, ...set }) } },
		};
	},
});

/** Whether a deal belonged to an account before: it goes back there by anybody who reaches the deal. */
async function hadAccount(tx: Tx, dealId: string, accountId: string): Promise<boolean> {
	const had = await tx
		.select({ at: formerFacts.at })
		.from(formerFacts)
		.where(and(eq(formerFacts.dealId, dealId), eq(formerFacts.field, "account"), eq(formerFacts.before, accountId)))
		.limit(1);
	return had.length > 0;
}
