import { byId } from "@/core/deal/order";
import type { DealSeen } from "@/core/dealSeen";
import { categoryOf } from "@/core/inspect";
import { NEEDS, type Need, needOf } from "@/core/period/lastDays";
import { surveyOn } from "@/core/survey";
import { formatDay, isoOrNull } from "@/core/time/day";
import { bounded } from "@/core/time/period";
import { carriedDeals, dueDeals } from "@/features/deals";
import type { Context } from "@/platform/context";
import { derivedFor } from "@/platform/derivedFor";
import { accountName, dealName, ownerName } from "@/platform/names";
import { resolveViewpoint, type Viewpoint } from "@/platform/viewpoint";
import type { DealLine } from "./lists";

/** so many working days before its end a period's last days begin */
const LAST = 10;
/** so many deals of a group are sent to a screen, those that need it most first */
const SHOWN = 60;

/** Deals that need the same in the last days of a period. */
export interface EndingGroup {
	readonly need: Need;
	readonly count: number;
	/** base minor units */
	readonly amount: number;
	/** all of them, in their order */
	readonly ids: readonly string[];
	readonly deals: readonly DealLine[];
}

/** What can still be done in the last days of a period. */
export interface LastDays {
	/** working days to its end */
	readonly left: number;
	readonly groups: readonly EndingGroup[];
}

type Found = { readonly seen: DealSeen; readonly need: Need; readonly words: string };

/** The open deals of a period and those without a decision or a date, by what they need; null but in the period's last ten working days. */
export const lastDaysOf = (context: Context, viewpoint: Viewpoint): LastDays | null => {
	const left = daysLeft(context, viewpoint);
	if (left === null) return null;
	const found = needing(context, viewpoint);
	const { organisation } = context;
	const groups = NEEDS.map((need): EndingGroup => {
		const own = found.filter((one) => one.need === need);
		return {
			need,
			count: own.length,
			amount: own.reduce((sum, { seen }) => sum + seen.amountBase, 0),
			ids: own.map(({ seen }) => organisation.deals[seen.deal]?.id ?? ""),
			deals: own.slice(0, SHOWN).map(({ seen, words }) => lineOf(context, seen, words)),
		};
	});
	return { left, groups };
};

/** How many deals wait for a decision in the last days of a period; none on other days. */
export const countToDecide = (context: Context, viewpoint: Viewpoint): number =>
	daysLeft(context, viewpoint) === null ? 0 : needing(context, viewpoint).filter(({ need }) => need === "date").length;

function daysLeft({ organisation }: Context, { seen: { day }, due }: Viewpoint): number | null {
	const period = bounded(due.period);
	if (!period || day < period.start || day > period.end) return null;
	const left = organisation.company.rules.calendar.between(day, period.end);
	return left <= LAST ? left : null;
}

/** Those that need it most first: by attention, then the largest. */
const needing = (context: Context, viewpoint: Viewpoint): readonly Found[] =>
	derivedFor(context, viewpoint, "last days", () => {
		const { company } = context.organisation;
		const { day } = viewpoint.seen;
		const { norms } = surveyOn(company, day);
		const undated = resolveViewpoint(context, { whose: viewpoint.whose.key, due: "none", seen: formatDay(day) });
		const order = byId(company);
		return [...dueDeals(context, viewpoint), ...carriedDeals(context, viewpoint), ...dueDeals(context, undated)]
			.map((seen): Found => ({ seen, ...needOf(company, norms, seen, day) }))
			.sort((a, b) => b.seen.attention.score - a.seen.attention.score || b.seen.amountBase - a.seen.amountBase || order(a.seen.deal, b.seen.deal));
	});

const lineOf = ({ organisation }: Context, seen: DealSeen, words: string): DealLine => ({
	id: organisation.deals[seen.deal]?.id ?? "",
	name: dealName(organisation, seen.deal),
	account: accountName(organisation, seen.deal),
	owner: ownerName(organisation, seen.owner),
	amount: seen.amountBase,
	close: isoOrNull(seen.close),
	category: categoryOf(organisation.company, seen)?.replaceAll("_", " ") ?? null,
	level: seen.attention.level,
	flags: [],
	note: words,
});
