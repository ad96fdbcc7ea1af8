import { and, eq, inArray, isNull, lt } from "drizzle-orm";
import { formatDay } from "@/core/time/day";
import { connection, type Tx } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { apiKeys, feeds, passkeys, passwordLinks, people, sessions, webhooks } from "@/data/schema";
import { clock } from "@/platform/clock";
import { systemWrite } from "@/platform/write";

/** Each way by which somebody, or a program in their name, comes in or is told: how many there were. */
export interface EndedWays {
	readonly sessions: number;
	readonly keys: number;
	readonly links: number;
	readonly passkeys: number;
	readonly calendars: number;
	readonly webhooks: number;
}

/**
 * Ends every way by which some people come in or are told: they don't open again by themselves when somebody returns. What
 * they made webhooks of stays to be read, switched off.
 */
export async function endWays(tx: Tx, personIds: readonly string[]): Promise<EndedWays> {
	const ids = [...personIds];
	const of = async (work: Promise<readonly unknown[]>) => (await work).length;
	return {
		sessions: await of(tx.delete(sessions).where(inArray(sessions.personId, ids)).returning({ id: sessions.id })),
		keys: await of(
			tx
				.update(apiKeys)
				.set({ revokedAt: new Date() })
				.where(and(inArray(apiKeys.personId, ids), isNull(apiKeys.revokedAt)))
				.returning({ id: apiKeys.id }),
		),
		links: await of(tx.delete(passwordLinks).where(inArray(passwordLinks.personId, ids)).returning({ id: passwordLinks.personId })),
		passkeys: await of(tx.delete(passkeys).where(inArray(passkeys.personId, ids)).returning({ id: passkeys.id })),
		calendars: await of(tx.delete(feeds).where(inArray(feeds.personId, ids)).returning({ id: feeds.personId })),
		webhooks: await of(
			tx
				.update(webhooks)
				.set({ on: false })
				.where(and(inArray(webhooks.byId, ids), eq(webhooks.on, true)))
				.returning({ id: webhooks.id }),
		),
	};
}

/** Ends the ways in of people whose last day has passed. Doing it twice changes nothing. */
export async function endWaysOfGone(): Promise<readonly string[]> {
	const today = formatDay(clock(await currentOrganisation(connection().db)).day);
	return systemWrite(async (tx) => {
		const ended: string[] = [];
		const audit = [];
		for (const { id, name } of await tx.select({ id: people.id, name: people.name }).from(people).where(lt(people.activeTo, today))) {
			const detail = await endWays(tx, [id]);
			if (!Object.values(detail).some(Boolean)) continue;
			ended.push(`ways in of ${name} ended`);
			audit.push({ action: "access ended", subject: id, detail: { ...detail } });
		}
		return { result: ended, touched: "nothing", audit };
	});
}
