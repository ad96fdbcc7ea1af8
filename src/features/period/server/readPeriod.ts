import { ownerIn } from "@/core/bridge/scope";
import { anythingAhead, noNextStep } from "@/core/flags/noNextStep";
import { valuesOf } from "@/core/flags/rule";
import type { DealSeen } from "@/core/inspect";
import { tooEarly, weeksAhead } from "@/core/period/dueSoon";
import { countedOf, type Differences, differencesOf, figuresOf, kindIn, type PeriodFigures } from "@/core/period/figures";
import { dayOfWorkingDay, paceOf, periodBefore, wonByWorkingDay, yearBefore } from "@/core/period/pace";
import { targetOf } from "@/core/period/target";
import { type Day, formatDay, isoOrNull, NO_DAY } from "@/core/time/day";
import { ALWAYS, monthOf, type Period, quarterAt, quarterIndex, quarterKey } from "@/core/time/period";
import { periodWords, spokenDay } from "@/core/time/words";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { keptFor } from "@/platform/keptFor";
import { accountName, dealName, ownerName } from "@/platform/names";
import { may } from "@/platform/rights";
import { surveyOn } from "@/platform/survey";
import type { Viewpoint } from "@/platform/viewpoint";
import type { Around } from "../table/figures";
import { type Asked, GROUPINGS, type Group, type GroupingKey, groupsBy } from "./groups";
import { type PeriodState, periodHeadline } from "./headline";
import { aroundOf, countedOn } from "./measure";
import { type PastMark, pastMarks } from "./thresholds";

export interface GroupRow {
	readonly key: string;
	readonly name: string;
	readonly whose: string | null;
	readonly filter: string | null;
	readonly figures: PeriodFigures;
	readonly around: Around;
}

export interface DealLine {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	readonly amount: number;
	readonly close: string | null;
	readonly category: string | null;
	readonly level: string;
	readonly flags: readonly string[];
	/** what is worth saying of it here */
	readonly note: string | null;
}

export interface PeriodView {
	readonly headline: string;
	readonly beside: string;
	readonly state: PeriodState;
	readonly currency: string;
	readonly figures: PeriodFigures;
	readonly around: Around;
	/** since the earlier moment; null where that lies before anything is known */
	readonly change: Differences<PeriodFigures>;
	readonly againstWords: string;
	readonly pace: {
		readonly workingDay: number;
		readonly workingDays: number;
		/** what the period before and the one a year ago had won by the same working day, as one knew then */
		readonly previous: number;
		readonly yearAgo: number;
		readonly series: readonly { readonly key: "now" | "previous" | "yearAgo"; readonly words: string; readonly amounts: readonly number[] }[];
		/** the day of each working day of this period, ISO */
		readonly days: readonly string[];
	};
	readonly by: GroupingKey;
	readonly groups: readonly GroupRow[];
	readonly dueSoon: readonly {
		readonly words: string;
		readonly count: number;
		readonly amount: number;
		readonly early: number;
		readonly deals: readonly DealLine[];
	}[];
	readonly litUp: readonly DealLine[];
	readonly wentOut: readonly DealLine[];
	readonly biggest: readonly DealLine[];
	/** this period and those after it, and the months within it */
	readonly periods: readonly { readonly key: string; readonly words: string; readonly within: boolean; readonly figures: PeriodFigures }[];
	readonly past: readonly PastMark[];
	/** the period's own days, for what lies before and after it */
	readonly from: string;
	readonly to: string;
	readonly maySetTargets: boolean;
}

const BIGGEST = 8;

/** A grouping as it stands in an address; by rep where there is none of its name. */
export const groupingAsked = (asked: string | undefined): GroupingKey => GROUPINGS.find(({ key }) => key === asked)?.key ?? "rep";

/** Where a period stands: its figures, its pace, by whom, what is due and what decides it. Null where there is no period that begins and ends. */
export const readPeriod = query(
	"period.read",
	"readPeriod",
	async (context: Context, viewpoint: Viewpoint, by: GroupingKey = "rep"): Promise<PeriodView | null> => {
		const { period } = viewpoint.due;
		if (!period || period.start === ALWAYS.start || period.end === ALWAYS.end) return null;
		const { organisation } = context;
		const { company } = organisation;
		const { rules } = company;
		const { scope } = viewpoint.whose;
		const [seen, against] = [viewpoint.seen.day, viewpoint.against.day];
		const survey = surveyOn(company, seen);
		const of = (one: Period, day: Day) =>
			figuresOf(countedOf(countedOn(context, one, day, seen), scope), targetOf(organisation.targets, one, scope, rules.rates, seen));
		const figures = of(period, seen);
		const asked: Asked = { period, scope, seen, survey, byOwner: countedOn(context, period, seen, seen) };
		const around = await aroundOf(context, period, scope, seen);
		const everyone = new Set(organisation.people.flatMap((_, i) => (ownerIn(scope, i) ? [i] : [])));
		const whole = around({ people: everyone, holds: (_, owner) => ownerIn(scope, owner) });
		const pace = keptFor(context, viewpoint, "pace", () => paceView(context, viewpoint, period));
		const state: PeriodState = seen > period.end ? "over" : seen < period.start ? "to come" : "running";
		const { finding, beside } = periodHeadline({ figures, period, state, currency: rules.rates.base, pace: pace.told });
		const lists = keptFor(context, viewpoint, "period lists", () => listsOf(context, viewpoint, period));
		return {
			headline: finding,
			beside,
			state,
			currency: rules.rates.base,
			figures,
			around: whole,
			change: differencesOf(figures, of(period, against)),
			againstWords: spokenDay(against, seen),
			pace: pace.view,
			by,
			groups: groupsBy(context, by, asked).map((group) => rowOf(group, around(group))),
			...lists,
			periods: periodsBeside(period, rules.fiscalStart).map(({ within, ...one }) => ({
				key: keyOf(one, rules.fiscalStart),
				words: periodWords(one),
				within,
				figures: of(one, seen),
			})),
			past: await pastMarks(viewpoint, figures, whole),
			from: formatDay(period.start),
			to: formatDay(period.end),
			maySetTargets: may(context.actor, "setTargets"),
		};
	},
);

const rowOf = ({ key, name, whose, filter, counted, target }: Group, around: Around): GroupRow => ({
	key,
	name,
	whose,
	filter,
	figures: figuresOf(counted, target),
	around,
});

/** A period's name in an address. */
function keyOf(period: Period, fiscalStart: number): string {
	const quarter = quarterAt(quarterIndex(period.start, fiscalStart), fiscalStart);
	if (quarter.start === period.start && quarter.end === period.end) return quarterKey(period, fiscalStart);
	const month = monthOf(period.start);
	if (month.start === period.start && month.end === period.end) return formatDay(period.start).slice(0, 7);
	return `${formatDay(period.start)}..${formatDay(period.end)}`;
}

const AFTER = 3;

/** The period, the three after it, and the months within it. */
export function periodsBeside(period: Period, fiscalStart: number): (Period & { within: boolean })[] {
	const quarter = quarterIndex(period.start, fiscalStart);
	const isQuarter = quarterAt(quarter, fiscalStart).start === period.start && quarterAt(quarter, fiscalStart).end === period.end;
	const isMonth = monthOf(period.start).start === period.start && monthOf(period.start).end === period.end;
	const next = (one: Period): Period =>
		isMonth
			? monthOf(one.end + 1)
			: isQuarter
				? quarterAt(quarterIndex(one.end + 1, fiscalStart), fiscalStart)
				: { start: one.end + 1, end: one.end + 1 + (period.end - period.start) };
	const row = [{ ...period, within: false }];
	for (let i = 0; i < AFTER; i++) row.push({ ...next(row[i] as Period), within: false });
	if (!isQuarter) return row;
	const months = [];
	for (let start = period.start; start <= period.end; start = monthOf(start).end + 1) months.push({ ...monthOf(start), within: true });
	return [...row, ...months];
}

function paceView(context: Context, viewpoint: Viewpoint, period: Period) {
	const { company } = context.organisation;
	const { calendar, fiscalStart } = company.rules;
	const { scope } = viewpoint.whose;
	const seen = viewpoint.seen.day;
	const pace = paceOf(company, period, scope, seen);
	const [before, year] = [periodBefore(period, fiscalStart), yearBefore(period)];
	const earlier = (one: Period) => wonByWorkingDay(company, one, scope, Math.min(one.end, seen), seen).amounts;
	return {
		told: {
			workingDay: pace.workingDay,
			workingDays: pace.workingDays,
			previous: pace.previous.won.amount,
			yearAgo: pace.yearAgo.won.amount,
			previousWords: periodWords(before),
		},
		view: {
			workingDay: pace.workingDay,
			workingDays: pace.workingDays,
			previous: pace.previous.won.amount,
			yearAgo: pace.yearAgo.won.amount,
			series: [
				{ key: "now" as const, words: periodWords(period), amounts: seen < period.start ? [] : wonByWorkingDay(company, period, scope, seen, seen).amounts },
				{ key: "previous" as const, words: periodWords(before), amounts: earlier(before) },
				{ key: "yearAgo" as const, words: periodWords(year), amounts: earlier(year) },
			],
			days: Array.from({ length: pace.workingDays + 1 }, (_, k) => formatDay(dayOfWorkingDay(calendar, period, k))),
		},
	};
}

/** The deals of a period that are worth looking at: due soon, newly lit and gone out, the biggest. */
function listsOf(context: Context, viewpoint: Viewpoint, period: Period) {
	const { organisation } = context;
	const { company } = organisation;
	const { scope } = viewpoint.whose;
	const [seen, against] = [viewpoint.seen.day, viewpoint.against.day];
	const survey = surveyOn(company, seen);
	const earlier = surveyOn(company, against);
	const line = (one: DealSeen, note: string | null): DealLine => ({
		id: organisation.deals[one.deal]?.id ?? "",
		name: dealName(organisation, one.deal),
		account: accountName(organisation, one.deal),
		owner: ownerName(organisation, one.owner),
		amount: one.amountBase,
		close: isoOrNull(one.close),
		category: CATEGORY_WORDS(company.history.category[one.row] as number),
		level: one.attention.level,
		flags: one.flags.map(({ label }) => label),
		note,
	});
	const ours = survey.deals.flatMap((one) => (one && ownerIn(scope, one.owner) ? [one] : []));
	const open = ours.filter((one) => one.status === "open");
	const due = open.filter((one) => kindIn(period, "open", one.close, NO_DAY) === "open");
	const isLit = (one: DealSeen | null | undefined) => one?.status === "open" && one.attention.level !== "calm";
	const bigFirst = (a: DealSeen, b: DealSeen) => b.amountBase - a.amountBase || a.deal - b.deal;
	const soon = weeksAhead(seen).map((week, i) => {
		const deals = open.filter(({ close }) => close >= week.start && close <= week.end).sort((a, b) => a.close - b.close || bigFirst(a, b));
		const lines = deals.map((one) => {
			const early = tooEarly(company, survey.norms, one, seen);
			const stage = company.rules.stages[one.stageIndex]?.name ?? "";
			return line(one, early && `${stage} is early for it: ${early.needed} working days usually remain, ${early.left} are left`);
		});
		return {
			words: i === 0 ? "this week" : "next week",
			count: deals.length,
			amount: deals.reduce((sum, one) => sum + one.amountBase, 0),
			early: lines.filter(({ note }) => note !== null).length,
			deals: lines,
		};
	});
	const wasLit = (one: DealSeen) => isLit(earlier.deals[one.deal]);
	const biggest = [...due].sort(bigFirst).slice(0, BIGGEST);
	return {
		dueSoon: soon,
		litUp: due
			.filter((one) => isLit(one) && !wasLit(one))
			.sort(bigFirst)
			.map((one) => line(one, null)),
		wentOut: ours
			.filter(
				(one) =>
					wasLit(one) &&
					!isLit(one) &&
					kindIn(period, one.status, one.close, one.path.closedDay) !== null &&
					kindIn(period, one.status, one.close, one.path.closedDay) !== "later",
			)
			.sort(bigFirst)
			.map((one) => line(one, one.status === "open" ? null : one.status)),
		biggest: biggest.map((one) => line(one, isIdle(context, one, survey.norms.bigAmount, seen) ? "nobody is doing anything" : null)),
	};
}

const CATEGORY_WORDS = (index: number) => ["commit", "best case", "pipeline", "left out"][index] ?? null;

/** Of the size from which the rule of the next step is severe, and nothing lies ahead of it. */
function isIdle({ organisation: { company } }: Context, one: DealSeen, bigAmount: number, seen: Day): boolean {
	const big = valuesOf(noNextStep, company.rules.flags, company.rules.stages[one.stageIndex]?.name ?? null).big ?? bigAmount;
	if (one.amountBase < big) return false;
	return !anythingAhead(company.deals[one.deal]?.tasks ?? [], one.contact.planned, company.history.nextStepDay[one.row] as number, seen);
}
