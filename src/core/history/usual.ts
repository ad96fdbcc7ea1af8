import type { Company } from "../company";
import { keeper } from "../keep";
import { percentile } from "../statistics/percentile";
import type { Day } from "../time/day";
import { type Spans, wonBetween, wonSpans } from "./won";

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

/** What was measured on won deals, by day. */
const measured = keeper((_: Spans) => new Map<Day, UsualTimes>());

/** What won deals needed, over those won in the 365 days up to the seen day. Kept with the wins it was measured on. */
export function usualTimes(company: Company, seen: Day): UsualTimes {
	const days = measured(wonSpans(company));
	const times = days.get(seen) ?? measureTimes(company, seen);
	days.set(seen, times);
	return times;
}

function measureTimes(company: Company, seen: Day): UsualTimes {
	const { stages, calendar } = company.rules;
	const lengths = stages.map((): number[] => []);
	const remaining = stages.map((): number[] => []);
	const ages: number[] = [];

	for (const { deal, closed, path } of wonBetween(company, seen - WINDOW, seen)) {
		ages.push(calendar.between(company.deals[deal]?.createdDay as Day, closed));
		const entered = new Set<number>();
		for (const visit of path.visits) {
			if (visit.finished) lengths[visit.stage]?.push(visit.length);
			if (entered.has(visit.stage)) continue;
			entered.add(visit.stage);
			remaining[visit.stage]?.push(calendar.between(visit.from, closed));
		}
	}

	const measure = (values: readonly number[], p: number, configured: number): Usual =>
		values.length >= ENOUGH
			? { days: percentile(values, p), measured: true, sample: values.length }
			: { days: configured, measured: false, sample: values.length };
	const atEach = (values: readonly number[], configured: number) =>
		Object.fromEntries(PERCENTILES.map((p) => [p, measure(values, p / 100, configured * SPREAD[p])])) as Record<Percentile, Usual>;
	const configuredFrom = (rank: number) => stages.reduce((sum, s) => sum + (s.kind === "open" && s.rank >= rank ? s.usualDays : 0), 0);

	return {
		stages: stages.map((stage, i) => ({
			visit: atEach(lengths[i] ?? [], stage.usualDays),
			remaining: atEach(remaining[i] ?? [], stage.kind === "open" ? configuredFrom(stage.rank) : 0),
		})),
		cycle: measure(ages, 0.9, 2 * configuredFrom(0)),
	};
}
