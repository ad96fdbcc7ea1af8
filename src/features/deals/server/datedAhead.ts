import { and, asc, eq, lte, sql } from "drizzle-orm";
import { z } from "zod";
import { blockOf, endRow, firstRow } from "@/core/history/columns";
import { type Day, formatDay } from "@/core/time/day";
import { isOneOf } from "@/data/queries/isOneOf";
import { dealVersions } from "@/data/schema";
import { closeVersions } from "@/data/store/closeVersions";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { reachDeal } from "@/platform/reachDeal";

/** The first instant after today: a version from then on isn't seen today, and whatever is edited would come before it. */
const endOfToday = ({ organisation, now }: Context): number => organisation.company.rules.zone.instantAt(now.day + 1, 0);

/** The day of a deal's newest version, where that lies after today: a clock was set back, or a version came dated so. */
export function aheadOf(context: Context, deal: number): Day | null {
	const { history, rules } = context.organisation.company;
	const block = blockOf(history, deal);
	const last = endRow(block, deal) - 1;
	if (last < firstRow(block, deal)) return null;
	const at = block.at[last] as number;
	return at >= endOfToday(context) ? rules.zone.dayOf(at) : null;
}

/** Throws a 409 where the version in force is dated after today; it says what can be done. */
export function demandNotAhead(context: Context, validFrom: Date, name: string): void {
	if (validFrom.getTime() < endOfToday(context)) return;
	const day = formatDay(context.organisation.company.rules.zone.dayOf(validFrom.getTime()));
	throw new Fault(
		409,
		"Dated in the future",
		`The newest version of ${name} is dated ${day}, after today, so a change made now wouldn’t show. Open the deal and date that version to today first.`,
	);
}

/**
 * Dates the versions of a deal that lie after today to now, one after the other: what they say holds from then on.
 *
 * @throws Fault 404 a deal out of reach, 409 where none lies ahead
 */
export const correctAhead = command({
	name: "deals.correctAhead",
	right: "editDeals",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		reachDeal(context, id);
		const end = new Date(endOfToday(context));
		const ahead = await tx
			.select()
			.from(dealVersions)
			.where(and(eq(dealVersions.dealId, id), sql`${dealVersions.validFrom} >= ${end.toISOString()}::timestamptz`))
			.orderBy(asc(dealVersions.validFrom))
			.for("update");
		if (!ahead.length) throw new Fault(409, "Nothing to correct", "No version of this deal is dated after today.");
		const [last] = await tx
			.select({ at: sql<string>`max(${dealVersions.validFrom})` })
			.from(dealVersions)
			.where(and(eq(dealVersions.dealId, id), lte(dealVersions.validFrom, new Date(end.getTime() - 1))));
		const first = Math.max(context.now.instant, last?.at ? new Date(last.at).getTime() + 1 : 0);
		// A version is never changed where it stands: what is kept in memory goes by its number. Others take their place.
		await tx.delete(dealVersions).where(
			isOneOf(
				dealVersions.id,
				ahead.map((version) => version.id),
			),
		);
		await tx
			.insert(dealVersions)
			.values(ahead.map(({ id: _, ...version }, i) => ({ ...version, validFrom: new Date(first + i), validTo: new Date(first + i) })));
		await closeVersions(tx, [id]);
		const changed = ahead.map(({ validFrom }, i) => ({ field: "dated", before: validFrom.toISOString(), after: new Date(first + i).toISOString() }));
		return { result: { versions: ahead.length }, touched: [id], audit: { action: "version dated to today", subject: id, detail: { changed } } };
	},
});
