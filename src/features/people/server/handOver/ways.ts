import { and, eq, inArray, isNull } from "drizzle-orm";
import type { Tx } from "@/data/db";
import { apiKeys, feeds, type HandedOver, webhooks } from "@/data/schema";
import { type EndedWays, endWays } from "../endWays";

type Kept = NonNullable<HandedOver["ways"]>;

/** Ends somebody's ways in at once, and answers what it takes to open again those that may be. */
export async function endWaysNow(tx: Tx, id: string): Promise<{ counts: EndedWays; kept: Kept }> {
	const keys = await tx
		.select({ id: apiKeys.id })
		.from(apiKeys)
		.where(and(eq(apiKeys.personId, id), isNull(apiKeys.revokedAt)));
	const hooks = await tx
		.select({ id: webhooks.id })
		.from(webhooks)
		.where(and(eq(webhooks.byId, id), eq(webhooks.on, true)));
	const [feed] = await tx.select().from(feeds).where(eq(feeds.personId, id));
	const calendar = feed ? { tokenHash: feed.tokenHash, madeAt: feed.madeAt.toISOString() } : null;
	return { counts: await endWays(tx, [id]), kept: { keys: keys.map((key) => key.id), webhooks: hooks.map((hook) => hook.id), calendar } };
}

/** Opens keys, webhooks and the calendar again that ended with a handing over that is undone. They sign in again. */
export async function openWays(tx: Tx, id: string, { keys, webhooks: hooks, calendar }: Kept): Promise<void> {
	if (keys.length)
		await tx
			.update(apiKeys)
			.set({ revokedAt: null })
			.where(and(eq(apiKeys.personId, id), inArray(apiKeys.id, [...keys])));
	if (hooks.length)
		await tx
			.update(webhooks)
			.set({ on: true })
			.where(and(eq(webhooks.byId, id), inArray(webhooks.id, [...hooks])));
	if (calendar)
		await tx
			.insert(feeds)
			.values({ personId: id, tokenHash: calendar.tokenHash, madeAt: new Date(calendar.madeAt) })
			.onConflictDoNothing();
}
