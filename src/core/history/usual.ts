import type { Company, Rules } from "../company";
import { derive, derived, toldApart } from "../derive";
import { Histogram } from "../statistics/histogram";
import type { Day } from "../time/day";
import { eachWonBetween, type Spans, type StageDays, type Wins, wonSpans } from "./won";

/** A figure measured on won deals, or configured where there are too few of them. */
export interface Usual {
	readonly days: number;
	readonly measured: boolean;
	/** how many visits or deals it rests on */
	readonly sample: number;
}

/** The percentiles at which usual times are known. What a screen calls *usual* is the 50th. */
export const PERCENTILES = [25, 50, 75, 90] as const;
export type Percentile = (typeof PERCENTILES)[number];
export type ByPercentile = Readonly<Record<Percentile, Usual>>;

/** Configured days are those of the middle; so many times as long at each percentile. */
const SPREAD: Readonly<Record<Percentile, number>> = { 25: 0.6, 50: 1, 75: 1.5, 90: 2 };

export interface UsualStage {
	/** working days of a finished visit */
	readonly visit: ByPercentile;
	/** working days from first entering the stage to won */
	readonly remaining: ByPercentile;
}

export interface UsualTimes {
	/** by index of stage; closed stages hold zeros */
	readonly stages: readonly UsualStage[];
	/** 90th percentile of deal age at won */
	readonly cycle: Usual;
}

const WINDOW = 365;
const ENOUGH = 8;

/** What won deals needed on one day: how often each length of a visit, remaining time and deal age occurs. */
interface Tally {
	day: Day;
	readonly visits: readonly Histogram[];
	readonly remaining: readonly Histogram[];
	readonly ages: Histogram;
}

/** Some wins: the block of each among all, and its place among those of its block, by turns. */
type Places = number[];

/** The wins by when they count, and the tally of the day that was measured last, from which its neighbours are counted on. */
interface Measured {
	/** by day the wins that come into the window on it, and those that leave it */
	readonly come: ReadonlyMap<Day, Places>;
	readonly go: ReadonlyMap<Day, Places>;
	tally: Tally | null;
}

const measured = derived("wins measured", (spans: Spans, _rules: Rules): Measured => {
	const come = new Map<Day, Places>();
	const go = new Map<Day, Places>();
	const put = (days: Map<Day, Places>, day: Day, block: number, at: number) =>
		days
			.set(day, days.get(day) ?? [])
			.get(day)
			?.push(block, at);
	spans.forEach(({ closed, until }, block) => {
		closed.forEach((day, at) => {
			put(come, day, block, at);
			put(go, Math.min(day + WINDOW, until[at] as number), block, at);
		});
	});
	return { come, go, tally: null };
});

/** What won deals needed, over those won in the 365 days up to the seen day. Kept with the wins it was measured on. */
export function usualTimes(company: Company, seen: Day): UsualTimes {
	const all = measured(wonSpans(company), company.rules);
	const make = () => timesOf(company, tallyOn(company, all, seen));
	return derive(all, "usual times", seen, () => sameTimes(company.rules, make()), DAYS_KEPT);
}

const sameTimes = (rules: Rules, times: UsualTimes) => toldApart(rules, "usual times told apart", JSON.stringify(times), times, DAYS_KEPT);

const DAYS_KEPT = 2000;

/** Farther apart it is quicker to count anew. */
const NEAR = 200;

/** The tally of a day: counted on from that of a day near by, or anew. */
function tallyOn(company: Company, all: Measured, seen: Day): Tally {
	const { come, go } = all;
	const spans = wonSpans(company);
	const near = all.tally !== null && Math.abs(all.tally.day - seen) <= NEAR;
	const tally = near ? (all.tally as Tally) : startTally(company, seen);
	all.tally = tally;
	const take = (places: Places = [], times: 1 | -1) => {
		for (let i = 0; i < places.length; i += 2) count(tally, spans[places[i] as number] as Wins, places[i + 1] as number, times);
	};
	while (tally.day < seen) {
		tally.day++;
		take(come.get(tally.day), 1);
		take(go.get(tally.day), -1);
	}
	while (tally.day > seen) {
		take(come.get(tally.day), -1);
		take(go.get(tally.day), 1);
		tally.day--;
	}
	return tally;
}

function startTally(company: Company, seen: Day): Tally {
	const { stages } = company.rules;
	const tally: Tally = { day: seen, visits: stages.map(() => new Histogram()), remaining: stages.map(() => new Histogram()), ages: new Histogram() };
	eachWonBetween(company, seen - WINDOW, seen, (wins, at) => count(tally, wins, at, 1));
	return tally;
}

/** Takes a win into a tally, or (−1) out of it. */
function count({ visits, remaining, ages }: Tally, wins: Wins, at: number, times: 1 | -1): void {
	ages.add(wins.age[at] as number, times);
	countStages(visits, wins.visits, at, times);
	countStages(remaining, wins.left, at, times);
}

function countStages(histograms: readonly Histogram[], { ends, stage, days }: StageDays, at: number, times: 1 | -1): void {
	const end = ends[at] as number;
	for (let i = at ? (ends[at - 1] as number) : 0; i < end; i++) histograms[stage[i] as number]?.add(days[i] as number, times);
}

function timesOf({ rules: { stages } }: Company, { visits, remaining, ages }: Tally): UsualTimes {
	const measure = (values: Histogram | undefined, p: number, configured: number): Usual =>
		values && values.size >= ENOUGH
			? { days: values.quantile(p), measured: true, sample: values.size }
			: { days: configured, measured: false, sample: values?.size ?? 0 };
	const atEach = (values: Histogram | undefined, configured: number) =>
		Object.fromEntries(PERCENTILES.map((p) => [p, measure(values, p / 100, configured * SPREAD[p])])) as Record<Percentile, Usual>;
	const configuredFrom = (rank: number) => stages.reduce((sum, s) => sum + (s.kind === "open" && s.rank >= rank ? s.usualDays : 0), 0);
	return {
		stages: stages.map((stage, i) => ({
			visit: atEach(visits[i], stage.usualDays),
			remaining: atEach(remaining[i], stage.kind === "open" ? configuredFrom(stage.rank) : 0),
		})),
		cycle: measure(ages, 0.9, 2 * configuredFrom(0)),
	};
}
