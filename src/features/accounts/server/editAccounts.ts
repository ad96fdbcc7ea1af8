import { eq } from "drizzle-orm";
import { z } from "zod";
import type { Tx } from "@/data/db";
import type { Account } from "@/data/organisation/state";
import { accounts } from "@/data/schema";
import { command } from "@/platform/command";
import { dealIdsOf } from "@/platform/dealsByAccount";
import { recordPreviousValue } from "@/platform/factHistory";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { reachAccount } from "@/platform/reachAccount";
import { demandOwner, demandOwnerReached } from "./ownership";

const words = (what: string) => z.string().trim().max(200, `${what} has at most 200 letters.`).nullable();
const fields = {
	name: z.string().trim().min(1, "Enter a name.").max(200, "A name has at most 200 letters."),
	kind: z.enum(["customer", "prospect"]).nullable(),
	industry: words("An industry"),
	territory: words("A territory"),
	ownerId: idSchema.nullable(),
};

/** What of an account may be changed; what is left out stays. */
export const accountChangeSchema = z.object(fields).partial().strict().meta({ id: "AccountChange" });
type AccountChange = z.output<typeof accountChangeSchema>;

export const newAccountSchema = z
	.object({
		...fields,
		kind: fields.kind.default("prospect"),
		industry: fields.industry.default(null),
		territory: fields.territory.default(null),
		ownerId: fields.ownerId.optional(),
	})
	.strict()
	.meta({ id: "NewAccount" });

/** Makes an account; the person who makes it owns it, unless another is named. */
export const makeAccount = command({
	name: "accounts.make",
	right: "editAccounts",
	input: newAccountSchema,
	async run({ context, input, tx }) {
		const { person } = context.actor;
		const ownerId = input.ownerId === undefined ? (person.role === "ops" ? null : person.id) : input.ownerId;
		await demandOwner(tx, context, null, ownerId);
		const id = newId("account");
		await tx.insert(accounts).values({ ...input, ownerId, id });
		await recordPreviousValue(tx, context, [{ accountId: id, field: "made", before: null }]);
		return { result: { id, versionId: 1 }, touched: "accounts", audit: { action: "account created", subject: id, detail: { ...input, ownerId } } };
	},
});

/**
 * Changes an account as it was seen.
 *
 * @throws Fault 412 where somebody has changed it since
 */
export const changeAccount = command({
	name: "accounts.change",
	right: "editAccounts",
	input: z.object({ id: idSchema, versionId: z.number().int(), change: accountChangeSchema }),
	async run({ context, input: { id, versionId, change }, tx }) {
		const before = reachAccount(context, id);
		await seenAccount(tx, id, versionId);
		if (change.ownerId !== undefined && change.ownerId !== before.ownerId) {
			demandOwnerReached(context, before, "give it to someone else");
			await demandOwner(tx, context, before, change.ownerId);
		}
		await recordPreviousValue(tx, context, formerOf(before, change));
		await tx
			.update(accounts)
			.set({ ...change, version: versionId + 1 })
			.where(eq(accounts.id, id));
		return {
			result: { id, versionId: versionId + 1, before: partOf(before, change) },
			touched: { deals: change.name === undefined ? [] : dealIdsOf(context.organisation, id), parts: ["accounts"] },
			audit: { action: "account changed", subject: id, detail: { before: partOf(before, change), after: change } },
		};
	},
});

const MOST = 1000;

/** Gives several accounts new owners, all of them or none. */
export const giveAccounts = command({
	name: "accounts.give",
	right: "editAccounts",
	input: z.object({
		to: z
			.array(z.object({ id: idSchema, ownerId: idSchema.nullable() }))
			.min(1)
			.max(MOST),
	}),
	async run({ context, input: { to }, tx }) {
		const before: { id: string; ownerId: string | null }[] = [];
		for (const { id, ownerId } of to) {
			const account = reachAccount(context, id);
			demandOwnerReached(context, account, "give it to someone else");
			await demandOwner(tx, context, account, ownerId);
			before.push({ id, ownerId: account.ownerId });
		}
		await recordPreviousValue(
			tx,
			context,
			to.flatMap(({ id, ownerId }, i) =>
				before[i]?.ownerId === ownerId ? [] : [{ accountId: id, field: "owner" as const, before: before[i]?.ownerId ?? null }],
			),
		);
		for (const { id, ownerId } of to) {
			const [row] = await tx.select({ version: accounts.version }).from(accounts).where(eq(accounts.id, id)).for("update");
			await tx
				.update(accounts)
				.set({ ownerId, version: (row?.version ?? 0) + 1 })
				.where(eq(accounts.id, id));
		}
		return {
			result: { before },
			touched: "accounts",
			audit: to.map(({ id, ownerId }, i) => ({
				action: "account changed",
				subject: id,
				detail: { before: { ownerId: before[i]?.ownerId ?? null }, after: { ownerId } },
			})),
		};
	},
});

/** The row of an account, held until the commit; a 412 where it isn't the version that was seen any more. */
export async function seenAccount(tx: Tx, id: string, versionId: number) {
	const [row] = await tx.select().from(accounts).where(eq(accounts.id, id)).for("update");
	if (!row) throw notFound("account", id);
	if (row.version !== versionId)
		throw new Fault(412, "Changed by someone else", `${row.name} was changed after you opened it. Reload the page; nothing was overwritten.`, {
			versionId: row.version,
		});
	return row;
}

const partOf = (account: Account, change: AccountChange) =>
	Object.fromEntries(Object.keys(change).map((key) => [key, account[key as keyof AccountChange]])) as AccountChange;

const FIELDS = { name: "name", kind: "kind", industry: "industry", territory: "territory", ownerId: "owner" } as const;

/** What a change is kept of, so that days before it read on as they were. */
const formerOf = (account: Account, change: AccountChange) =>
	(Object.keys(FIELDS) as (keyof typeof FIELDS)[]).flatMap((key) =>
		change[key] === undefined || change[key] === account[key] ? [] : [{ accountId: account.id, field: FIELDS[key], before: account[key] }],
	);
