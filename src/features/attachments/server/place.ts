import { eq } from "drizzle-orm";
import { z } from "zod";
import type { Sql } from "@/data/db";
import { activities } from "@/data/schema";
import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { reachAccount } from "@/platform/reachAccount";
import { reachDeal } from "@/platform/reachDeal";

/** With what something is kept: a deal, an account, or an activity of one of them. */
export const placeSchema = z.union(
	[z.object({ dealId: idSchema }).strict(), z.object({ accountId: idSchema }).strict(), z.object({ activityId: idSchema }).strict()],
	"Name a deal, an account or an activity.",
);
export type Place = z.output<typeof placeSchema>;

/** A place as it is stored. */
export interface Kept {
	readonly dealId: string | null;
	readonly accountId: string | null;
	readonly activityId: string | null;
}

/** The place as it is stored, for those who reach it. @throws Fault 404 for everybody else */
export async function reachPlace(db: Sql, context: Context, place: Place): Promise<Kept> {
	if ("dealId" in place) {
		reachDeal(context, place.dealId);
		return { dealId: place.dealId, accountId: null, activityId: null };
	}
	if ("accountId" in place) {
		reachAccount(context, place.accountId);
		return { dealId: null, accountId: place.accountId, activityId: null };
	}
	const { activityId } = place;
	const [activity] = await db.select({ dealId: activities.dealId, accountId: activities.accountId }).from(activities).where(eq(activities.id, activityId));
	if (!activity) throw notFound("activity", activityId);
	reachKept(context, activity);
	return activity.dealId ? { dealId: activity.dealId, accountId: null, activityId } : { dealId: null, accountId: activity.accountId, activityId };
}

/** Whether what is kept with a deal or an account is reached. @throws Fault 404 */
export function reachKept(context: Context, { dealId, accountId }: Pick<Kept, "dealId" | "accountId">): void {
	if (dealId) reachDeal(context, dealId);
	else reachAccount(context, accountId ?? "");
}
