import { randomBytes } from "node:crypto";
import { and, desc, eq, gt, isNull, or } from "drizzle-orm";
import { z } from "zod";
import { formatDay } from "@/core/time/day";
import { connection, type Tx } from "@/data/db";
import { apiKeys, people } from "@/data/schema";
import { AREAS } from "@/platform/areas";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { tokenHash } from "@/platform/sessions";

/** Makes a key that acts as the person; the token is shown once and kept only as a hash. */
export const createKey = command({
	name: "people.createKey",
	right: "ownKeys",
	input: z.object({
		name: z.string().trim().min(1, "Give the key a name so that you recognize it later.").max(100),
		write: z.boolean().default(false).meta({ description: "it may write, not only read" }),
		areas: z
			.array(z.enum(AREAS, `There is no such area; there are ${AREAS.join(", ")}.`))
			.max(40)
			.default([])
			.meta({ description: "areas it may use, such as deals, tasks, import; none means all" }),
		days: z.number().int().min(1).max(730, "A key lasts at most two years.").default(365).meta({ description: "days until it expires" }),
	}),
	secret: true,
	async run({ context, input: { name, write, areas, days }, tx }) {
		if (context.actor.key) throw new Fault(403, "Not allowed", "A key can’t create keys: sign in and create it in Setup.");
		const expiresAt = new Date(Date.now() + days * 86_400_000);
		const made = await storeKey(tx, context.actor.person.id, name, { write, areas, expiresAt });
		const detail = { name, areas: areas.length ? areas : "all", write, until: formatDay(context.organisation.company.rules.zone.dayOf(expiresAt.getTime())) };
		return { result: made, touched: "nothing", audit: { action: "key created", subject: made.id, detail } };
	},
});

/** Stores a new key of a person; the answer is the only place that ever has its token. */
export async function storeKey(
	tx: Pick<Tx, "insert">,
	personId: string,
	name: string,
	scope: { readonly write: boolean; readonly areas: readonly string[]; readonly expiresAt: Date | null } = { write: true, areas: [], expiresAt: null },
): Promise<{ id: string; token: string }> {
	const token = `lamp_${randomBytes(30).toString("base64url")}`;
	const id = newId();
	await tx.insert(apiKeys).values({ id, personId, name, tokenHash: tokenHash(token), hint: token.slice(0, 9), ...scope, areas: [...scope.areas] });
	return { id, token };
}

/** One's own keys, the newest first; everyone's for ops. */
export const listKeys = query("people.keys", "ownKeys", async (context: Context) => {
	const everyone = context.actor.person.role === "ops";
	const rows = await connection()
		.db.select({
			id: apiKeys.id,
			name: apiKeys.name,
			hint: apiKeys.hint,
			person: people.name,
			personId: apiKeys.personId,
			createdAt: apiKeys.createdAt,
			lastUsedAt: apiKeys.lastUsedAt,
			write: apiKeys.write,
			areas: apiKeys.areas,
			expiresAt: apiKeys.expiresAt,
		})
		.from(apiKeys)
		.innerJoin(people, eq(people.id, apiKeys.personId))
		.where(
			and(
				isNull(apiKeys.revokedAt),
				or(isNull(apiKeys.expiresAt), gt(apiKeys.expiresAt, new Date())),
				everyone ? undefined : eq(apiKeys.personId, context.actor.person.id),
			),
		)
		.orderBy(desc(apiKeys.createdAt));
	return rows.map((row) => ({
		...row,
		createdAt: row.createdAt.toISOString(),
		lastUsedAt: row.lastUsedAt?.toISOString() ?? null,
		expiresAt: row.expiresAt?.toISOString() ?? null,
	}));
});

/** Ends a key: one's own, or anyone's for ops. */
export const revokeKey = command({
	name: "people.revokeKey",
	right: "ownKeys",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const own = context.actor.person.role === "ops" ? undefined : eq(apiKeys.personId, context.actor.person.id);
		const done = await tx
			.update(apiKeys)
			.set({ revokedAt: new Date() })
			.where(and(eq(apiKeys.id, id), isNull(apiKeys.revokedAt), own))
			.returning({ name: apiKeys.name, personId: apiKeys.personId });
		if (!done.length) throw notFound("key", id);
		return {
			result: {},
			touched: "nothing",
			audit: done.map(({ name, personId }) => ({ action: "key revoked", subject: id, detail: { name, of: personId } })),
		};
	},
});
