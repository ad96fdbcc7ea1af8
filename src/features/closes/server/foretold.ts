import type { Scope } from "@/core/bridge/scope";
import { daysBefore } from "@/core/patterns/quarters";
import type { CloseAccount, CloseDifference, CloseOutlook } from "@/core/period/closeAccount";
import type { winsIn } from "@/core/period/pace";
import { type Day, formatDay } from "@/core/time/day";
import { monthOf, type Period } from "@/core/time/period";
import { type OutlookView, outlookOnTheWay, readOutlook } from "@/features/patterns";
import type { Context } from "@/platform/context";
import { dealName } from "@/platform/names";

/** so many working days before the end the last outlook is looked at */
const BEFORE_END = 10;
/** so many deals made the difference */
const NAMED = 5;

type Wins = ReturnType<typeof winsIn>;

/** How far the outlooks of a period’s days are, in shares of a day’s; null: all are there. */
export type OutlooksProgress = { readonly done: number; readonly steps: number } | null;

/** Whether somebody waits for what isn’t computed yet, or is shown what there is. */
export type Patience = "waits" | "looks";

/**
 * What was foretold on the first day, of each later month’s first, and ten working days before the end; and all of the
 * first. For who only looks, those of a large company come as they are computed.
 */
export async function outlooksOf(
	context: Context,
	period: Period,
	scope: Scope,
	patience: Patience,
): Promise<{ outlooks: CloseOutlook[]; first: OutlookView | null; progress: OutlooksProgress }> {
	const { fiscal, calendar } = context.organisation.company.rules;
	const days: Day[] = [period.start];
	for (let day = monthOf(period.start, fiscal).end + 1; day <= period.end; day = monthOf(day, fiscal).end + 1) days.push(day);
	const late = daysBefore(calendar, period.end, BEFORE_END);
	if (late > (days.at(-1) as Day)) days.push(late);
	const outlooks: CloseOutlook[] = [];
	let first: OutlookView | null = null;
	let [done, missing] = [0, 0];
	for (const day of days) {
		const { answer, progress } =
			patience === "waits" ? { answer: await readOutlook(context, scope, period, day), progress: null } : await outlookOnTheWay(context, scope, period, day);
		done += answer ? 1 : (progress?.done ?? 0) / Math.max(1, progress?.steps ?? 1);
		if (!answer) missing++;
		if (!answer?.available) continue;
		if (day === period.start) first = answer;
		outlooks.push({ day: formatDay(day), low: answer.low, middle: answer.middle, high: answer.high });
	}
	return { outlooks, first, progress: missing ? { done, steps: days.length } : null };
}

/** The deals that came out otherwise than foretold on the first day, by the most; and what was won that wasn’t open then. */
export function differencesFrom(
	{ organisation }: Context,
	period: Period,
	wins: Wins,
	first: OutlookView | null,
): Pick<CloseAccount, "differences" | "unforeseen"> {
	const won = new Map(wins.map((win) => [organisation.deals[win.deal]?.id ?? "", win]));
	const foretold = new Map((first?.deals ?? []).map((deal) => [deal.id, deal]));
	const differences = [...foretold.values()].map(({ id, name, amount, chance }): CloseDifference => {
		const win = won.get(id);
		return {
			id,
			name: win ? dealName(organisation, win.deal) : name,
			amount: Math.round((win?.amount ?? 0) - chance * amount),
			chance,
			wonFor: win?.amount ?? null,
			wonOn: win ? formatDay(win.closed) : null,
		};
	});
	differences.sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount) || (a.id < b.id ? -1 : 1));
	const others = wins.filter(({ deal, closed }) => !foretold.has(organisation.deals[deal]?.id ?? "") && closed >= period.start);
	return {
		differences: first ? differences.slice(0, NAMED) : [],
		unforeseen: { count: others.length, amount: others.reduce((sum, { amount }) => sum + amount, 0) },
	};
}
