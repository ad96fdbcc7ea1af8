import { bridge } from "@/core/bridge/bridge";
import type { Scope } from "@/core/bridge/scope";
import { closedWithin } from "@/core/patterns/closed";
import { LATE, lateChanges } from "@/core/patterns/priced";
import { daysBefore } from "@/core/patterns/quarters";
import type { CloseAccount, CloseBeside, CloseGave, CloseGroup, ClosePoint } from "@/core/period/closeAccount";
import { commitCame, committedOn } from "@/core/period/committed";
import { countedOf } from "@/core/period/countByOwner";
import { periodBefore, sumOf, winsIn, yearBefore } from "@/core/period/pace";
import { targetOf } from "@/core/period/target";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { countedOn, type GroupingKey, groupsBy } from "@/features/period";
import { readFollowThrough } from "@/features/tasks";
import type { Context } from "@/platform/context";
import { differencesFrom, type OutlooksProgress, outlooksOf, type Patience } from "./foretold";
import { repWords } from "./repWords";
import { LAST_DAYS, wentOf } from "./went";

/** so many days lie between two points of how the period stood */
const WEEK = 7;

/** How a period ended for some people, as it is known now: seen on its last day, at that day's rates. */
export const accountOf = async (context: Context, period: Period, scope: Scope): Promise<CloseAccount> =>
	(await accountSoFar(context, period, scope, "waits")).account;

/** The same with how far its outlooks are, for who only looks. */
export async function accountSoFar(
	context: Context,
	period: Period,
	scope: Scope,
	patience: Patience = "looks",
): Promise<{ account: CloseAccount; progress: OutlooksProgress }> {
	const { organisation } = context;
	const { company } = organisation;
	const { rates, calendar, fiscal } = company.rules;
	const end = period.end;
	const byOwner = countedOn(context, period, end, end);
	const { won, lost, open } = countedOf(byOwner, scope);
	const survey = surveyOn(company, end);
	const groups = (by: GroupingKey) => groupsBy(context, by, { period, scope, seen: end, survey, byOwner }).map(groupOf).filter(isAny);
	const moved = bridge(company, period.start - 1, end, period, scope);
	const went = await wentOf(context, moved, period);
	const committed = committedOn(company, period, scope, period.start, end, end);
	const { outlooks, first, progress } = await outlooksOf(context, period, scope, patience);
	const lastFrom = daysBefore(calendar, end, LAST_DAYS - 1);
	const wins = winsIn(company, period, scope, end, end);
	const beside = (one: Period): CloseBeside => ({
		from: formatDay(one.start),
		to: formatDay(one.end),
		won: sumOf(winsIn(company, one, scope, Math.min(one.end, end), end)),
		target: targetOf(organisation.targets, one, scope, rates, end),
	});
	const { set, onTime, late, outcomes } = readFollowThrough(context, scope, period, end);
	const account: CloseAccount = {
		from: formatDay(period.start),
		to: formatDay(end),
		currency: rates.base,
		target: targetOf(organisation.targets, period, scope, rates, end),
		won: { ...won },
		lost: { ...lost },
		open: { ...open },
		reps: groups("rep"),
		teams: groups("team"),
		families: groups("family"),
		went: went.steps,
		committed: commitCame(committed),
		points: pointsOf(context, period, scope),
		outlooks,
		words: await repWords(context, period, scope, committed, went.pushed),
		lastDays: {
			from: formatDay(lastFrom),
			won: sumOf(wins.filter(({ closed }) => closed >= lastFrom)),
			pushed: went.pushedSince(lastFrom),
		},
		gaveWay: gaveWay(context, period, scope),
		tasks: { given: set, done: onTime + late, out: outcomes.out, lit: outcomes.lit },
		...differencesFrom(context, period, wins, first),
		before: beside(periodBefore(period, fiscal)),
		yearAgo: beside(yearBefore(period)),
	};
	return { account, progress };
}

const groupOf = ({ key, name, target, counted: { won, lost, open } }: ReturnType<typeof groupsBy>[number]): CloseGroup => ({
	key,
	name,
	target,
	won: { ...won },
	lost: { ...lost },
	open: { ...open },
});
const isAny = ({ target, won, lost, open }: CloseGroup) => target !== null || won.count + lost.count + open.count > 0;

/** What was won and what stood in commit by the end of each week of the period, of its first day and of its last. */
function pointsOf({ organisation: { company } }: Context, period: Period, scope: Scope): ClosePoint[] {
	const days: Day[] = [];
	for (let day = period.start; day < period.end; day += WEEK) days.push(day);
	return [...days, period.end].map((day) => ({
		day: formatDay(day),
		won: sumOf(winsIn(company, period, scope, day, period.end)).amount,
		commit: committedOn(company, period, scope, day, period.end, period.end).reduce((sum, { said }) => sum + said, 0),
	}));
}

/** What wins gave away in the ten working days before them: those of the last ten working days, and all others of the period. */
function gaveWay({ organisation: { company } }: Context, period: Period, scope: Scope): CloseAccount["gaveWay"] {
	const from = daysBefore(company.rules.calendar, period.end, LATE - 1);
	const won = closedWithin(company, surveyOn(company, period.end), scope, period.end).filter((one) => one.won && one.day >= period.start);
	const changes = lateChanges(company, won, period.end);
	const of = (list: typeof changes): CloseGave => ({
		n: list.length,
		before: list.reduce((sum, { before }) => sum + before, 0),
		after: list.reduce((sum, { after }) => sum + after, 0),
	});
	return { late: of(changes.filter(({ closed }) => closed.day >= from)), others: of(changes.filter(({ closed }) => closed.day < from)) };
}
