import { z } from "zod";
import type { Company, Rules } from "@/core/company";
import { parseDecimal } from "@/core/money/decimal";
import { countByOwner, countedOf } from "@/core/period/countByOwner";
import { figuresOf, type PeriodFigures } from "@/core/period/figures";
import { targetOf } from "@/core/period/target";
import { surveyOn } from "@/core/survey";
import { makeCalendar } from "@/core/time/calendar";
import { type Day, formatDay, parseDay } from "@/core/time/day";
import { fiscalOf } from "@/core/time/fiscal";
import { quarterOf } from "@/core/time/period";
import { periodWords } from "@/core/time/words";
import { fiscalBeforeSchema, fiscalWeeksSchema } from "@/formats/bundle/settings";
import { lookup } from "@/platform/command";
import type { Context } from "@/platform/context";
import { isNight } from "@/platform/viewpoint";
import { FIGURES, type FigureUnit, NO_TEAM_METRICS } from "../table/figures";

/** One figure that would be another. */
export interface RulesFigure {
	readonly label: string;
	readonly unit: FigureUnit | "period";
	readonly before: number | string | null;
	readonly after: number | string | null;
}

/** What other rules would change of the running period on a day. */
export interface RulesEffectOn {
	/** `today`, or the name of a mark */
	readonly name: string;
	readonly day: string;
	readonly figures: readonly RulesFigure[];
}

const MARKS = 3;

const wish = z.object({
	/** by the name a stage has now: its chance (0 to 1) and its usual working days */
	stages: z
		.array(z.object({ name: z.string().max(200), probability: z.number().min(0).max(1), usualDays: z.number().min(0).max(10_000) }))
		.max(60)
		.optional(),
	calendar: z
		.object({
			fiscalStartMonth: z.number().int().min(1).max(12),
			fiscalWeeks: fiscalWeeksSchema.nullable().default(null),
			fiscalBefore: fiscalBeforeSchema.default([]),
			weekend: z.array(z.number().int().min(0).max(6)).max(6),
			holidays: z.array(z.object({ date: z.string().max(20) })).max(2000),
		})
		.optional(),
});

/**
 * What other chances of stages, or another weekend, fiscal year or holidays would change: the figures of the running quarter of
 * everyone, today and on the days of the last marks. Nothing is written. Amounts in base minor units.
 */
export const previewRules = lookup({
	name: "period.previewRules",
	right: "changeRules",
	input: wish,
	async run({ context, input }): Promise<{ readonly on: readonly RulesEffectOn[] }> {
		const { company, marks } = context.organisation;
		const after: Company = { ...company, rules: rulesWith(company.rules, input) };
		const named = marks.filter((mark) => !isNight(mark) && mark.day < context.now.day);
		const days = [
			{ name: "today", day: context.now.day },
			...[...new Map(named.map((mark) => [mark.day, { name: mark.name, day: mark.day }])).values()].slice(-MARKS).reverse(),
		];
		const on: RulesEffectOn[] = [];
		for (const { name, day } of days) {
			// Others have their turn between two days: each inspects every deal.
			await new Promise((resolve) => setImmediate(resolve));
			on.push({ name, day: formatDay(day), figures: differing(figuresOn(context, company, day), figuresOn(context, after, day)) });
		}
		return { on };
	},
});

function rulesWith(rules: Rules, { stages, calendar }: z.output<typeof wish>): Rules {
	const byName = new Map(stages?.map((stage) => [stage.name, stage]));
	return {
		...rules,
		stages: rules.stages.map((stage) => {
			const own = byName.get(stage.name);
			return own ? { ...stage, probability: parseDecimal(String(own.probability)) ?? stage.probability, usualDays: own.usualDays } : stage;
		}),
		...(calendar
			? {
					fiscal: fiscalOf(
						{ startMonth: calendar.fiscalStartMonth, weeks: calendar.fiscalWeeks },
						calendar.fiscalBefore.flatMap(({ until, fiscalYearStartMonth: startMonth, fiscalWeeks: weeks }) => {
							const last = parseDay(until);
							return last === null ? [] : [{ until: last, startMonth, weeks }];
						}),
					),
					calendar: makeCalendar(
						calendar.weekend,
						calendar.holidays.flatMap(({ date }) => parseDay(date) ?? []),
					),
				}
			: {}),
	};
}

/** The running quarter of everyone on a day, by some rules. */
function figuresOn({ organisation }: Context, company: Company, day: Day): RulesFigure[] {
	const { rules } = company;
	const period = quarterOf(day, rules.fiscal);
	const survey = surveyOn(company, day);
	const figures: PeriodFigures = figuresOf(
		countedOf(countByOwner(company, survey, period, day), null),
		targetOf(organisation.targets, period, null, rules.rates, day),
	);
	const one = (words: string, unit: RulesFigure["unit"], value: number | string | null): RulesFigure => ({ label: words, unit, before: value, after: value });
	return [
		one("period", "period", periodWords(period)),
		one("working days left", "count", Math.max(0, rules.calendar.between(day, period.end))),
		...FIGURES.filter(({ ofTeam }) => !ofTeam).map(({ label, unit, value }) => one(label, unit, value(figures, NO_TEAM_METRICS))),
		one(
			"flags lit",
			"count",
			survey.deals.reduce((sum, seen) => sum + (seen?.flags.length ?? 0), 0),
		),
	];
}

const differing = (before: readonly RulesFigure[], after: readonly RulesFigure[]): RulesFigure[] =>
	before.flatMap((one, i) => (one.before === after[i]?.after ? [] : [{ ...one, after: after[i]?.after ?? null }]));
