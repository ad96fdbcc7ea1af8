import { ownerIn, type Scope } from "@/core/bridge/scope";
import type { Company } from "@/core/company";
import type { DealSeen } from "@/core/dealSeen";
import { amountsBase, categoryOf, rowOf } from "@/core/inspect";
import { toNumber } from "@/core/money/decimal";
import { drawTotals } from "@/core/outlook/draw";
import { stretchOf } from "@/core/outlook/moments";
import { type Ground, groundSteps } from "@/core/outlook/outlook";
import { type Past, wonIn } from "@/core/outlook/past";
import { foretellPast, missesOf } from "@/core/outlook/record";
import { daysBefore } from "@/core/patterns/quarters";
import { percentileOf } from "@/core/statistics/percentile";
import { surveyOn } from "@/core/survey";
import type { Day } from "@/core/time/day";
import { type Period, quarterOf } from "@/core/time/period";
import { through } from "../../tests/kit/steps";
import { crps, intervalScore } from "./scores";

/** working days before a quarter's end on which it is foretold */
export const DISTANCES = [5, 10, 20, 40] as const;
export type Distance = (typeof DISTANCES)[number];
/** quarters foretold of each company, the last ones that are over */
const QUARTERS = 6;
const MEANT = 0.8;

/** What other rules than the outlook say of a total, each a single number. */
export const RULES = ["stage × amount", "sum of commit", "share of open", "last year"] as const;

/** A quarter of some people foretold on a day from the quarters before it, and what came. Amounts in base minor units. */
export interface Forecast {
	readonly distance: Distance;
	readonly everyone: boolean;
	readonly low: number;
	readonly high: number;
	readonly came: number;
	readonly crps: number;
	readonly interval: number;
	/** how far each rule was off; null where it has nothing to go by */
	readonly off: Readonly<Record<(typeof RULES)[number], number | null>>;
	/** of everyone's alone: the deals that were due, with their chance, their stage's, and what came */
	readonly deals: readonly { readonly chance: number; readonly stage: number; readonly won: boolean }[];
}

/** Everything foretold of a company: its last quarters, at each distance, for everyone and for some teams. */
export function foretellAll(company: Company, scopes: readonly Scope[], today: Day): Forecast[] {
	const { calendar, fiscal } = company.rules;
	const quarters: Period[] = [];
	for (let { start } = quarterOf(today, fiscal); quarters.length < QUARTERS; ) {
		const before = quarterOf(start - 1, fiscal);
		quarters.unshift(before);
		start = before.start;
	}
	return quarters.flatMap((quarter) =>
		DISTANCES.flatMap((distance) => {
			const day = daysBefore(calendar, quarter.end, distance);
			return scopes.flatMap((scope, i) => foretell(company, quarter, day, scope, distance, `${i}`) ?? []);
		}),
	);
}

function foretell(company: Company, quarter: Period, day: Day, scope: Scope, distance: Distance, seed: string): Forecast | null {
	const survey = surveyOn(company, day);
	const ground = through(groundSteps(company, survey, quarter, scope, day));
	const came = wonIn(company, quarter, scope, quarter.end, day);
	// Where there was nothing to foretell nothing is learnt of how well it was done.
	if (!ground || (!ground.deals.length && came === 0)) return null;
	const { past, samples, courses, learnt, won, deals } = ground;
	const stretch = stretchOf(missesOf(foretellPast(company, past, samples, courses, scope, day)));
	const draws = through(drawTotals(won, deals, learnt, ground, stretch, `calibrate ${seed} ${day}`));
	const [low, high] = [percentileOf(draws, 0.1), percentileOf(draws, 0.9)] as [number, number];
	return {
		distance,
		everyone: scope === null,
		low,
		high,
		came,
		crps: crps(draws, came),
		interval: intervalScore(low, high, came, MEANT),
		off: offOf(company, ground, quarter, day, scope, came),
		deals: scope === null ? dueDeals(company, ground, quarter) : [],
	};
}

/** The deals that were due, each with its chance and whether it was won in the quarter. */
function dueDeals(company: Company, { deals }: Ground, quarter: Period): Forecast["deals"] {
	const after = surveyOn(company, quarter.end).deals;
	return deals.flatMap(({ deal, due, chance, kind }) => {
		if (!due) return [];
		const end = after[deal];
		const won = end?.status === "won" && end.closedDay >= quarter.start && end.closedDay <= quarter.end;
		return [{ chance, stage: probabilityOf(company, Number(kind.values[0])), won }];
	});
}

function probabilityOf({ rules }: Company, stage: number): number {
	const probability = rules.stages[stage]?.probability;
	return probability ? toNumber(probability) : 0;
}

function offOf(company: Company, { won, past }: Ground, quarter: Period, day: Day, scope: Scope, came: number): Forecast["off"] {
	const amountOf = amountsBase(company, day);
	const due = surveyOn(company, day).deals.filter(
		(one): one is DealSeen => one?.status === "open" && ownerIn(scope, one.owner) && one.close >= quarter.start && one.close <= quarter.end,
	);
	const sum = (part: (one: DealSeen) => number) => due.reduce((all, one) => all + amountOf(one.deal, rowOf(company.history, one)) * part(one), 0);
	const share = shareWon(company, past, scope, day);
	const yearAgo = past.at(-4);
	return {
		"stage × amount": Math.abs(won + sum((one) => probabilityOf(company, one.stageIndex)) - came),
		"sum of commit": Math.abs(won + sum((one) => Number(categoryOf(company, one) === "commit")) - came),
		"share of open": share === null ? null : Math.abs(won + share * sum(() => 1) - came),
		"last year": yearAgo ? Math.abs(wonIn(company, yearAgo.period, scope, yearAgo.period.end, day) - came) : null,
	};
}

/** What of the open amounts of past quarters was still won after the day as far before their end; null where nothing was open. */
function shareWon(company: Company, past: readonly Past[], scope: Scope, ratesOn: Day): number | null {
	let [open, later] = [0, 0];
	for (const { period, day, deals } of past) {
		for (const { kind, owner, amount } of deals) if (kind.due && ownerIn(scope, owner)) open += amount;
		later += wonIn(company, period, scope, period.end, ratesOn) - wonIn(company, period, scope, day, ratesOn);
	}
	return open > 0 ? later / open : null;
}
