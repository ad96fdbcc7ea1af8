import type { Company } from "@/core/company";
import type { DealSeen } from "@/core/dealSeen";
import { amountsBase, rowOf } from "@/core/inspect";
import { countedOf } from "@/core/period/countByOwner";
import { applyMoves, type Move, type Tried } from "@/core/period/try";
import { surveyOn } from "@/core/survey";
import { type Day, NO_DAY, parseDay } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { spokenDay } from "@/core/time/words";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { resolveViewpoint } from "@/platform/viewpoint";
import { countedOn } from "./counted";
import { listTries } from "./listTries";
import { demandBounded } from "./tries";
import { type GroundDeal, groundDeal, openIn } from "./tryGround";
import type { SavedTry } from "./tryShape";

/** What a try said of a deal, and what came of it since. */
export interface CameTrue {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	/** on the day the try was made; base minor units at today's rates */
	readonly before: number;
	readonly said: string;
	readonly now: string;
	readonly nowAmount: number;
	/** null: too early to tell, or nothing was said */
	readonly agrees: boolean | null;
}

export interface TryLater {
	readonly try: SavedTry;
	readonly madeWords: string;
	/** what was won of the period when it was made, as the try said, and now */
	readonly wonThen: number;
	readonly wonSaid: number;
	readonly wonNow: number;
	/** the deals it moved, and those that changed since */
	readonly deals: readonly CameTrue[];
	readonly currency: string;
}

/** A kept try beside what came of its deals, deal by deal. */
export const readTryLater = query("period.tryLater", "keepTries", async (context: Context, id: string): Promise<TryLater> => {
	const saved = (await listTries(context)).find((one) => one.id === id);
	const day = saved ? parseDay(saved.madeOn) : null;
	if (!saved || day === null) throw notFound("try", id);
	const { company } = context.organisation;
	const viewpoint = resolveViewpoint(context, { whose: saved.whose, due: saved.due });
	const period = demandBounded(viewpoint.due.period);
	const now = context.now.day;
	const amountOf = amountsBase(company, now);
	const open = openIn(context, viewpoint, period, day);
	const deals = open.map((seen) => groundDeal(context, seen, amountOf(seen.deal, rowOf(company.history, seen))));
	const won = (on: Day) => countedOf(countedOn(context, period, on, now), viewpoint.whose.scope);
	const result = applyMoves(won(day), deals, saved.moves as Move[]);
	return {
		try: saved,
		madeWords: spokenDay(day, now),
		wonThen: won(day).won.amount,
		wonSaid: result.counted.won.amount,
		wonNow: won(now).won.amount,
		deals: open.flatMap((seen, i) => {
			const [deal, tried] = [deals[i], result.deals[i]];
			return deal && tried ? (cameTrue(company, seen, surveyOn(company, now).deals[seen.deal] ?? null, deal, tried, period, amountOf) ?? []) : [];
		}),
		currency: company.rules.rates.base,
	};
});

function cameTrue(
	company: Company,
	then: DealSeen,
	now: DealSeen | null,
	deal: GroundDeal,
	tried: Tried,
	period: Period,
	amountOf: (deal: number, row: number) => number,
): CameTrue | null {
	const nowAmount = now ? amountOf(now.deal, rowOf(company.history, now)) : 0;
	const said = [tried.won && "won", tried.dropped && "dropped", tried.pushed && "pushed out", tried.priced && "at another price"].filter(Boolean).join(", ");
	const moved = now === null || now.status !== "open" || now.close !== then.close || nowAmount !== deal.amount || now.stageIndex !== then.stageIndex;
	if (!said && !moved) return null;
	const state = now === null ? "gone" : now.status === "open" ? (now.close > period.end || now.close === NO_DAY ? "pushed out" : "open") : now.status;
	const words = {
		gone: "removed",
		open: moved && now ? `open in ${company.rules.stages[now.stageIndex]?.name ?? ""}` : "open, as it was",
		"pushed out": "pushed out of the period",
		won: "won",
		lost: "lost",
	}[state];
	const expected = { won: tried.won > 0, lost: tried.dropped > 0, "pushed out": tried.pushed > 0, gone: tried.dropped > 0, open: false }[state];
	const agrees = !said || state === "open" || (tried.priced !== 0 && said === "at another price") ? null : expected;
	return { id: deal.id, name: deal.name, account: deal.account, before: deal.amount, said: said || "nothing", now: words, nowAmount, agrees };
}
