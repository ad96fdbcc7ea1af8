import { and, isNull } from "drizzle-orm";
import type { DealState } from "@/core/deal/state";
import { parseDay } from "@/core/time/day";
import type { Tx } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { deals, dealVersions } from "@/data/schema";
import type { Context } from "@/platform/context";

export type Version = typeof dealVersions.$inferSelect;

/** The version in force of each of some deals, by deal; with `lock` held until the commit. */
export async function currentVersions(db: Pick<Tx, "select">, ids: readonly string[], lock = false): Promise<Map<string, Version>> {
	if (!ids.length) return new Map();
	// The deal is held, not its version: whoever waits for it then sees the version that came meanwhile.
	if (lock)
		await db
			.select({ id: deals.id })
			.from(deals)
			.where(isOneOf(deals.id, [...ids]))
			.orderBy(deals.id)
			.for("no key update");
	const found = db
		.select()
		.from(dealVersions)
		.where(and(isOneOf(dealVersions.dealId, [...ids]), isNull(dealVersions.validTo)))
		.orderBy(dealVersions.dealId);
	const rows = await found;
	return new Map(rows.map((row) => [row.dealId, row]));
}

/** Adds the next version of a deal and gives its id; `closeVersions` has to follow. */
export async function appendVersion(tx: Tx, context: Context, before: Version, state: DealState, at: Date, reason: string | null): Promise<number> {
	const [row] = await tx
		.insert(dealVersions)
		.values({ ...state, dealId: before.dealId, validFrom: at, validTo: at, byId: context.actor.person.id, reason })
		.returning({ id: dealVersions.id });
	return row?.id as number;
}

const NOON = 12 * 3_600_000;

/**
 * Now, or at noon of the day on which the deal was closed; in either case after the version before. What is
 * registered late is dated to its day, so that the figures of that day come right.
 */
export function versionInstant({ organisation, now }: Context, before: Version, closedOn?: string): Date {
	const day = closedOn ? parseDay(closedOn) : null;
	const wanted = day === null || day >= now.day ? now.instant : organisation.company.rules.zone.instantAt(day, NOON);
	return new Date(Math.max(wanted, before.validFrom.getTime() + 1));
}
