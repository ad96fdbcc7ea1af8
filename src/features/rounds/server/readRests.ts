import { desc } from "drizzle-orm";
import { holdsOn, restOn } from "@/core/attention/rest";
import { RULES } from "@/core/flags/list";
import { surveyOn } from "@/core/survey";
import { formatDay, NO_DAY } from "@/core/time/day";
import { connection } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { rests } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerShort, personName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import { may } from "@/platform/rights";

/** A rest as it is shown. */
export interface RestView {
	readonly id: string;
	readonly dealId: string;
	readonly deal: string;
	readonly account: string;
	readonly owner: string;
	readonly amount: number;
	readonly state: "asked" | "given" | "refused";
	readonly from: string;
	readonly until: string;
	readonly reason: string;
	readonly askedBy: string | null;
	readonly by: string | null;
	/** it holds today */
	readonly holds: boolean;
	/** why it is over, where it is */
	readonly over: string | null;
	readonly afterClose: boolean;
}

type Stored = typeof rests.$inferSelect;

/** The rests of some deals within reach, the newest first. */
export async function readRestsOf(context: Context, dealIds: readonly string[]): Promise<RestView[]> {
	if (!dealIds.length) return [];
	const rows = await connection()
		.db.select()
		.from(rests)
		.where(isOneOf(rests.dealId, [...dealIds]))
		.orderBy(desc(rests.at));
	return rows.flatMap((row) => restView(context, row) ?? []);
}

/** Those that hold, and those that are asked for, of the deals within reach; what ended lately too. */
export const readRests = query("rounds.rests", "readRounds", async (context: Context): Promise<{ rests: RestView[]; mayGive: boolean }> => {
	const rows = await connection().db.select().from(rests).orderBy(desc(rests.at)).limit(500);
	return { rests: rows.flatMap((row) => restView(context, row) ?? []), mayGive: may(context.actor, "holdRounds") };
});

function restView(context: Context, row: Stored): RestView | null {
	const { organisation, actor, now } = context;
	const deal = organisation.dealIndex.get(row.dealId) ?? -1;
	const seen = surveyOn(organisation.company, now.day).deals[deal];
	if (!seen || !reaches(reachOf(organisation, actor), seen.owner)) return null;
	const facts = organisation.company.deals[deal]?.rests.find(({ id }) => id === row.id);
	const holds = Boolean(facts && restOn([facts], seen.flags, now.day) && seen.status === "open");
	const stranger = facts ? seen.flags.find(({ code }) => !facts.flags.includes(code)) : undefined;
	const today = formatDay(now.day);
	const over =
		row.state !== "given" || holds
			? null
			: seen.status !== "open"
				? `the deal is ${seen.status}`
				: (row.endedBy ??
					(row.untilDay <= today
						? "its day was reached"
						: facts && holdsOn(facts, now.day) && stranger
							? `${RULES.find(({ code }) => code === stranger.code)?.name ?? stranger.code} lit`
							: "it was ended"));
	return {
		id: row.id,
		dealId: row.dealId,
		deal: dealName(organisation, deal),
		account: accountName(organisation, deal),
		owner: ownerShort(organisation, seen.owner),
		amount: seen.amountBase,
		state: row.state as RestView["state"],
		from: row.fromDay,
		until: row.untilDay,
		reason: row.reason,
		askedBy: personName(organisation, row.askedById),
		by: personName(organisation, row.byId),
		holds,
		over,
		afterClose: seen.status === "open" && seen.close !== NO_DAY && row.untilDay > formatDay(seen.close),
	};
}
