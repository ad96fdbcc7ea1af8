import { ownerIn } from "@/core/bridge/scope";
import type { DealSeen } from "@/core/dealSeen";
import { countedOf } from "@/core/period/countByOwner";
import { type Differences, differencesOf, figuresOf, type PeriodFigures } from "@/core/period/figures";
import { targetOf } from "@/core/period/target";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay } from "@/core/time/day";
import { bounded, type Period } from "@/core/time/period";
import { periodWords, spokenDay } from "@/core/time/words";
import { carriedDeals } from "@/features/deals";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { derivedFor } from "@/platform/derivedFor";
import { may } from "@/platform/rights";
import type { Viewpoint } from "@/platform/viewpoint";
import type { TeamMetrics } from "../table/figures";
import { GROUPINGS, type GroupingKey } from "../table/groupings";
import { keyOf, periodsBeside } from "./beside";
import { countedOn } from "./counted";
import { type Asked, type Group, groupsBy } from "./groups";
import { type PeriodState, periodHeadline } from "./headline";
import { type LastDays, lastDaysOf } from "./lastDays";
import { type DealLine, type DealList, type DueWeek, listsOf } from "./lists";
import { teamMetricsOf } from "./measure";
import { paceView } from "./paceView";
import { type PastMark, pastMarks } from "./thresholds";
import { type Turn, turnOf } from "./turn";

export interface GroupRow {
	readonly key: string;
	readonly name: string;
	readonly whose: string | null;
	readonly filter: string | null;
	readonly figures: PeriodFigures;
	readonly teamMetrics: TeamMetrics;
}

export interface PeriodView {
	readonly headline: string;
	readonly beside: string;
	readonly state: PeriodState;
	readonly currency: string;
	readonly figures: PeriodFigures;
	readonly teamMetrics: TeamMetrics;
	/** since the earlier moment; null where that lies before anything is known */
	readonly change: Differences<PeriodFigures>;
	readonly againstWords: string;
	readonly pace: {
		readonly workingDay: number;
		readonly workingDays: number;
		/** what the period before and the one a year ago had won by the same working day, as one knew then */
		readonly previous: number;
		readonly yearAgo: number;
		readonly series: readonly { readonly key: "now" | "previous" | "yearAgo"; readonly label: string; readonly amounts: readonly number[] }[];
		/** the day of each working day of this period, ISO */
		readonly days: readonly string[];
	};
	readonly by: GroupingKey;
	readonly groups: readonly GroupRow[];
	readonly dueSoon: readonly DueWeek[];
	readonly litUp: DealList;
	readonly wentOut: DealList;
	readonly biggest: readonly DealLine[];
	/** this period and those after it, and the months within it */
	readonly periods: readonly { readonly key: string; readonly label: string; readonly within: boolean; readonly figures: PeriodFigures }[];
	readonly past: readonly PastMark[];
	/** open deals of these people that are overdue and not the period’s, and how many of them are at *act*; base minor units */
	readonly carried: { readonly count: number; readonly amount: number; readonly act: number };
	/** null on other days than its last ten */
	readonly lastDays: LastDays | null;
	/** null on other days than its first */
	readonly turn: Turn | null;
	/** the period's own days, for what lies before and after it */
	readonly from: string;
	readonly to: string;
	readonly maySetTargets: boolean;
}

/** A grouping as it stands in an address; by rep where there is none of its name. */
export const groupingAsked = (asked: string | undefined): GroupingKey => GROUPINGS.find(({ key }) => key === asked)?.key ?? "rep";

/** Where a period stands: its figures, its pace, by whom, what is due and what decides it. Null where there is no period that begins and ends. */
export const readPeriod = query(
	"period.read",
	"readPeriod",
	async (context: Context, viewpoint: Viewpoint, by: GroupingKey = "rep"): Promise<PeriodView | null> => {
		const period = bounded(viewpoint.due.period);
		if (!period) return null;
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
		const metrics = await teamMetricsOf(context, period, scope, seen);
		const everyone = new Set(organisation.people.flatMap((_, i) => (ownerIn(scope, i) ? [i] : [])));
		const whole = metrics({ people: everyone, holds: (_, owner) => ownerIn(scope, owner) });
		const pace = derivedFor(context, viewpoint, "pace", () => paceView(context, viewpoint, period));
		const state: PeriodState = seen > period.end ? "over" : seen < period.start ? "to come" : "running";
		const { finding, beside } = periodHeadline({ figures, period, state, currency: rules.rates.base, pace: pace.told });
		const lists = derivedFor(context, viewpoint, "period lists", () => listsOf(context, viewpoint, period));
		return {
			headline: finding,
			beside,
			state,
			currency: rules.rates.base,
			figures,
			teamMetrics: whole,
			change: differencesOf(figures, of(period, against)),
			againstWords: spokenDay(against, seen),
			pace: pace.view,
			by,
			groups: groupsBy(context, by, asked).map((group) => rowOf(group, metrics(group))),
			...lists,
			periods: periodsBeside(period, rules.fiscal).map(({ within, ...one }) => ({
				key: keyOf(one),
				label: periodWords(one),
				within,
				figures: of(one, seen),
			})),
			past: await pastMarks(viewpoint, figures, whole),
			carried: carriedOf(carriedDeals(context, viewpoint)),
			lastDays: lastDaysOf(context, viewpoint),
			turn: derivedFor(context, viewpoint, "turn", () => turnOf(context, viewpoint, period)),
			from: formatDay(period.start),
			to: formatDay(period.end),
			maySetTargets: may(context.actor, "setTargets"),
		};
	},
);

const carriedOf = (deals: readonly DealSeen[]): PeriodView["carried"] => ({
	count: deals.length,
	amount: deals.reduce((sum, { amountBase }) => sum + amountBase, 0),
	act: deals.filter(({ attention }) => attention.level === "act").length,
});

const rowOf = ({ key, name, whose, filter, counted, target }: Group, metrics: TeamMetrics): GroupRow => ({
	key,
	name,
	whose,
	filter,
	figures: figuresOf(counted, target),
	teamMetrics: metrics,
});
