import { eq } from "drizzle-orm";
import type { Tx } from "@/data/db";
import { deals } from "@/data/schema";
import type { Context } from "@/platform/context";
import { recordPreviousValue } from "@/platform/factHistory";

/** Writes why a deal was lost and to whom; what was known before is kept for the days before. */
export async function writeOutcome(
	tx: Tx,
	context: Context,
	dealId: string,
	outcome: { readonly outcomeReason?: string | null | undefined; readonly competitor?: string | null | undefined },
): Promise<void> {
	const [was] = await tx.select({ outcomeReason: deals.outcomeReason, competitor: deals.competitor }).from(deals).where(eq(deals.id, dealId)).for("update");
	const { outcomeReason, competitor } = outcome;
	await recordPreviousValue(tx, context, [
		...(was && competitor !== undefined && competitor !== was.competitor ? [{ dealId, field: "competitor" as const, before: was.competitor }] : []),
		...(was && outcomeReason !== undefined && outcomeReason !== was.outcomeReason
			? [{ dealId, field: "outcome_reason" as const, before: was.outcomeReason }]
			: []),
	]);
	await tx.update(deals).set(outcome).where(eq(deals.id, dealId));
}
