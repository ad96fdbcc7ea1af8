import { and, count, desc, eq } from "drizzle-orm";
import { z } from "zod";
import { plural } from "@/core/words/grammar";
import { connection, type Sql, type Tx } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { accountNotes, accounts, activities, attachments, audit, contacts, deals, formerFacts, orders, tasks } from "@/data/schema";
import { command, lookup } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { reachAccount } from "@/platform/reachAccount";
import { seenAccount } from "./editAccounts";
import { demandOwnerReached } from "./ownership";

const pair = z.object({ from: idSchema, into: idSchema });

/** What belongs to an account, by its table; orders are moved apart, since their number is their account’s own. */
const OWNED = [
	{ key: "deals", table: deals, account: deals.accountId, id: deals.id, words: ["deal", "deals"] },
	{ key: "contacts", table: contacts, account: contacts.accountId, id: contacts.id, words: ["contact", "contacts"] },
	{ key: "activities", table: activities, account: activities.accountId, id: activities.id, words: ["activity", "activities"] },
	{ key: "notes", table: accountNotes, account: accountNotes.accountId, id: accountNotes.id, words: ["note", "notes"] },
	{ key: "files", table: attachments, account: attachments.accountId, id: attachments.id, words: ["file", "files"] },
	{ key: "tasks", table: tasks, account: tasks.accountId, id: tasks.id, words: ["task", "tasks"] },
] as const;
type Key = (typeof OWNED)[number]["key"];

function bothOf(context: Context, { from, into }: z.output<typeof pair>) {
	if (from === into) throw new Fault(422, "The same account", "Choose two different accounts: one to keep, and one to merge into it.");
	return { gone: reachAccount(context, from), stays: reachAccount(context, into) };
}

/** What merging one account into another would move, in words and numbers. */
export const previewAccountMerge = lookup({
	name: "accounts.previewMerge",
	right: "mergeAccounts",
	input: pair,
	async run({ context, input }) {
		const { gone, stays } = bothOf(context, input);
		const counts = await countsOf(connection().db, input.from);
		const moves = [...OWNED.map(({ key, words }) => ({ n: counts[key], words })), { n: counts.orders, words: ["order", "orders"] as const }];
		const said = moves.filter(({ n }) => n > 0).map(({ n, words: [one, many] }) => plural(n, one, many));
		return {
			from: gone.name,
			into: stays.name,
			counts,
			words: said.length ? `What moves to ${stays.name}: ${said.join(", ")}.` : `Nothing moves: ${gone.name} is empty.`,
		};
	},
});

async function countsOf(db: Sql, id: string): Promise<Record<Key | "orders", number>> {
	const of = async (table: (typeof OWNED)[number]["table"] | typeof orders, column: (typeof OWNED)[number]["account"] | typeof orders.accountId) => {
		const [row] = await db.select({ n: count() }).from(table).where(eq(column, id));
		return row?.n ?? 0;
	};
	const found = {} as Record<Key | "orders", number>;
	for (const { key, table, account } of OWNED) found[key] = await of(table, account);
	found.orders = await of(orders, orders.accountId);
	return found;
}

/** Merges an account into another: all that belongs to it moves, and it is gone. It can be undone. */
export const mergeAccounts = command({
	name: "accounts.merge",
	right: "mergeAccounts",
	input: pair.extend({ versionId: z.number().int().optional() }),
	async run({ context, input: { from, into, versionId }, tx }) {
		const { gone, stays } = bothOf(context, { from, into });
		for (const one of [gone, stays]) demandOwnerReached(context, one, "merge it");
		// The one that stays as it was seen, and the other: a person who edits either of them is told.
		const staying = await seenAccount(tx, into, versionId ?? stays.version);
		const row = await seenAccount(tx, from, gone.version);
		const moved = {} as Record<Key, string[]>;
		for (const { key, table, account, id } of OWNED) {
			const ids = await tx.select({ id }).from(table).where(eq(account, from));
			moved[key] = ids.map((one) => one.id);
			await tx.update(table).set({ accountId: into }).where(eq(account, from));
		}
		const placed = await moveOrders(tx, from, into);
		const belonged = and(eq(formerFacts.field, "account"), eq(formerFacts.before, from));
		const once = await tx.update(formerFacts).set({ before: into }).where(belonged).returning({ uid: formerFacts.uid, deal: formerFacts.dealId });
		const named = namesOf(row, staying);
		await tx
			.update(accounts)
			.set({ also: [...staying.also, ...named] })
			.where(eq(accounts.id, into));
		const former = await tx.delete(formerFacts).where(eq(formerFacts.accountId, from)).returning();
		await tx.delete(accounts).where(eq(accounts.id, from));
		return {
			result: ([merge]) => ({ merge: merge ?? 0, into }),
			touched: { deals: dealsOf(moved.deals, once), parts: ["accounts"] },
			audit: {
				action: "accounts merged",
				subject: into,
				detail: { from: row, into, moved, orders: placed, former: once.map(({ uid }) => uid), own: former, named },
			},
		};
	},
});

type StoredAccount = typeof accounts.$inferSelect;

/** By what files call an account that goes, as far as the one that stays isn’t called so already: its id, its name, and what was merged into it. */
const namesOf = (gone: StoredAccount, stays: StoredAccount): string[] =>
	[...new Set([gone.id, gone.name, ...gone.also])].filter((name) => name && name !== stays.name && !stays.also.includes(name));

/** Deals that are moved, and those that once belonged to the account. */
const dealsOf = (moved: readonly string[], once: readonly { readonly deal: string | null }[]) => [
	...new Set([...moved, ...once.flatMap(({ deal }) => deal ?? [])]),
];

/** The number of an order, before and after it was moved. */
interface Placed {
	readonly was: number;
	readonly now: number;
}

/** Moves orders behind those that are there. */
async function moveOrders(tx: Tx, from: string, into: string): Promise<Placed[]> {
	const [last] = await tx.select({ ordinal: orders.ordinal }).from(orders).where(eq(orders.accountId, into)).orderBy(desc(orders.ordinal)).limit(1);
	const own = await tx.select().from(orders).where(eq(orders.accountId, from)).orderBy(orders.ordinal);
	const first = (last?.ordinal ?? -1) + 1;
	const placed: Placed[] = [];
	for (const [i, { ordinal }] of own.entries()) {
		placed.push({ was: ordinal, now: first + i });
		await tx
			.update(orders)
			.set({ accountId: into, ordinal: first + i })
			.where(and(eq(orders.accountId, from), eq(orders.ordinal, ordinal)));
	}
	return placed;
}

interface Kept {
	readonly from: StoredAccount;
	readonly into: string;
	/** those of a merge made before a kind of thing was known lack it */
	readonly moved: Readonly<Partial<Record<Key, readonly string[]>>>;
	readonly orders: readonly Placed[];
	/** deals that once belonged to the account that is gone */
	readonly former?: readonly string[];
	/** by what the one that stays is called since */
	readonly named?: readonly string[];
	/** what the account that is gone was before it was changed; instants as text */
	readonly own?: readonly (Omit<typeof formerFacts.$inferSelect, "at"> & { readonly at: string })[];
}

/** Takes a merge back: the account is there again, with what came from it and is still where it was moved. */
export const unmergeAccounts = command({
	name: "accounts.unmerge",
	right: "mergeAccounts",
	input: z.object({ merge: z.number().int() }),
	async run({ context, input: { merge }, tx }) {
		const [entry] = await tx
			.select()
			.from(audit)
			.where(and(eq(audit.id, merge), eq(audit.action, "accounts merged")));
		const kept = entry?.detail as unknown as Kept | undefined;
		if (!kept) throw notFound("merge", String(merge));
		reachAccount(context, kept.into);
		const made = await tx
			.insert(accounts)
			.values({ ...kept.from, version: kept.from.version + 1 })
			.onConflictDoNothing()
			.returning({ id: accounts.id });
		if (!made.length) throw new Fault(409, "Already undone", `${kept.from.name} is there again already.`);
		for (const { key, table, account, id } of OWNED) {
			const ids = [...(kept.moved[key] ?? [])];
			if (ids.length)
				await tx
					.update(table)
					.set({ accountId: kept.from.id })
					.where(and(eq(account, kept.into), isOneOf(id, ids)));
		}
		const [stays] = await tx.select({ also: accounts.also }).from(accounts).where(eq(accounts.id, kept.into));
		const also = stays?.also.filter((name) => !kept.named?.includes(name)) ?? [];
		await tx.update(accounts).set({ also }).where(eq(accounts.id, kept.into));
		const own = (kept.own ?? []).map(({ id: _, ...row }) => ({ ...row, at: new Date(row.at) }));
		if (own.length) await tx.insert(formerFacts).values(own).onConflictDoNothing();
		const once = kept.former?.length
			? await tx
					.update(formerFacts)
					.set({ before: kept.from.id })
					.where(isOneOf(formerFacts.uid, [...kept.former]))
					.returning({ deal: formerFacts.dealId })
			: [];
		for (const { was, now } of kept.orders)
			await tx
				.update(orders)
				.set({ accountId: kept.from.id, ordinal: was })
				.where(and(eq(orders.accountId, kept.into), eq(orders.ordinal, now)));
		return {
			result: { id: kept.from.id },
			touched: { deals: dealsOf(kept.moved.deals ?? [], once), parts: ["accounts"] },
			audit: { action: "account merge undone", subject: kept.into, detail: { from: kept.from.name, merge } },
		};
	},
});
