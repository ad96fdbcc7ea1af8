import { ownerIn } from "@/core/bridge/scope";
import type { DealSeen } from "@/core/dealSeen";
import { categoryOf } from "@/core/inspect";
import { countedOf } from "@/core/period/countByOwner";
import { type Counted, kindIn } from "@/core/period/counted";
import { targetOf } from "@/core/period/target";
import type { TriedDeal } from "@/core/period/try";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay, NO_DAY } from "@/core/time/day";
import { bounded, type Period } from "@/core/time/period";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerName } from "@/platform/names";
import type { Viewpoint } from "@/platform/viewpoint";
import { countedOn } from "./counted";
import { listTries } from "./listTries";
import type { SavedTry } from "./tryShape";

/** A deal that can be moved, with its names. */
export interface GroundDeal extends TriedDeal {
	readonly name: string;
	readonly account: string;
	readonly close: string;
}

/** What a try is made on: the open deals of a period and what is counted of it. */
export interface TryGround {
	readonly whose: string;
	readonly due: string;
	readonly real: Counted;
	readonly target: number | null;
	readonly deals: readonly GroundDeal[];
	/** flags that some deal carries, by code */
	readonly flags: readonly { readonly code: string; readonly label: string }[];
	readonly tries: readonly SavedTry[];
	readonly currency: string;
	readonly today: string;
}

/** The ground for trying out what would be; null where there is no period that begins and ends. */
export const readTryGround = query("period.tryGround", "keepTries", async (context: Context, viewpoint: Viewpoint): Promise<TryGround | null> => {
	const period = bounded(viewpoint.due.period);
	if (!period) return null;
	const { organisation } = context;
	const { company } = organisation;
	const { scope } = viewpoint.whose;
	const day = viewpoint.seen.day;
	const open = openIn(context, viewpoint, period, day);
	const codes = [...new Set(open.flatMap(({ flags }) => flags.map(({ code }) => code)))].sort();
	return {
		whose: viewpoint.whose.key,
		due: viewpoint.due.key,
		real: countedOf(countedOn(context, period, day, day), scope),
		target: targetOf(organisation.targets, period, scope, company.rules.rates, day),
		deals: open.map((seen) => groundDeal(context, seen, seen.amountBase)).sort((a, b) => b.amount - a.amount || (a.id < b.id ? -1 : 1)),
		flags: codes.map((code) => ({ code, label: code.replaceAll("-", " ") })),
		tries: await listTries(context, { whose: viewpoint.whose.key, due: viewpoint.due.key }),
		currency: company.rules.rates.base,
		today: formatDay(day),
	};
});

/** The open deals of a viewpoint that are due in a period. */
export const openIn = ({ organisation: { company } }: Context, { whose }: Viewpoint, period: Period, day: Day): DealSeen[] =>
	surveyOn(company, day).deals.flatMap((seen) =>
		seen?.status === "open" && ownerIn(whose.scope, seen.owner) && kindIn(period, "open", seen.close, NO_DAY) === "open" ? [seen] : [],
	);

/** A deal as a try moves it. */
export function groundDeal({ organisation }: Context, seen: DealSeen, amount: number): GroundDeal {
	const { company } = organisation;
	const stage = company.rules.stages[seen.stageIndex];
	return {
		id: organisation.deals[seen.deal]?.id ?? "",
		name: dealName(organisation, seen.deal),
		account: accountName(organisation, seen.deal),
		owner: ownerName(organisation, seen.owner),
		amount,
		category: categoryOf(company, seen) ?? "pipeline",
		probability: stage?.probability ?? { units: 0, scale: 0 },
		stage: stage?.name ?? "",
		level: seen.attention.level,
		flags: seen.flags.map(({ code }) => code),
		close: formatDay(seen.close),
	};
}
