import { ownerIn } from "@/core/bridge/scope";
import { grouped } from "@/core/money/words";
import { type StageTime, timeInStage } from "@/core/patterns/timeInStage";
import { LEAST } from "@/core/statistics/wilson";
import { plural } from "@/core/words/grammar";
import { type Cell, type PatternTable, text } from "../../table/view";
import { Book, type Case, patternKind } from "../book";
import { DEAL_GROUPINGS, groupingOf, offered } from "../groups";

const OFFERED = [DEAL_GROUPINGS.rep, DEAL_GROUPINGS.family, DEAL_GROUPINGS.kind];
/** everybody's visits, and those of the people looked at */
const ALL = "\u0000all";
const OURS = "\u0000ours";

/** How long deals stay in each stage by group: mean of the finished visits, median of all of them, against everybody's. */
export const stages = patternKind({
	key: "stages",
	words: "Time in stage",
	read(context, { scope, day, by: askedBy }) {
		const { company } = context.organisation;
		const by = groupingOf(askedBy, OFFERED);
		const book = new Book();
		const times = timeInStage(company, day, (deal, owner) => [ALL, ...(ownerIn(scope, owner) ? [OURS, ...by.of(context, deal, owner)] : [])]);
		const all = new Map(times.filter(({ group }) => group === ALL).map((one) => [one.stage, one]));
		const shown = [...all.keys()].sort((a, b) => (company.rules.stages[a]?.rank ?? 0) - (company.rules.stages[b]?.rank ?? 0));
		const nameOf = (group: string) => (group === ALL ? "Everybody" : group === OURS ? "Total" : by.nameOf(context, group));
		const sums = scope === null ? [ALL] : [OURS, ALL];
		const stageName = (stage: number) => company.rules.stages[stage]?.name ?? "";
		const cellOf = (group: string, stage: number): Cell => {
			const one = times.find((time) => time.group === group && time.stage === stage);
			if (!one) return text("·");
			const title = `${nameOf(group)} in ${stageName(stage)}`;
			const cases = (): Case[] =>
				one.visits.map(({ deal, length, finished, owner }) => ({
					deal,
					day,
					owner,
					amount: null,
					came: `${plural(length, "working day")}${finished ? "" : " so far"}`,
					hit: finished,
				}));
			const { finished, unfinished, mean, median, interval, curve } = one;
			return {
				kind: "times",
				finished,
				unfinished,
				mean,
				median,
				interval,
				curve,
				lasting: [...new Set(one.visits.flatMap((visit) => (visit.finished ? [] : [visit.length])))],
				all: group === ALL ? null : (all.get(stage)?.curve ?? null),
				opens: book.open(`${group === ALL ? "all" : group === OURS ? "ours" : group}:${stage}`, title, "visits are finished", cases),
			};
		};
		const groups = [...new Set(times.map(({ group }) => group))]
			.filter((group) => group !== ALL && group !== OURS)
			.sort((a, b) => nameOf(a).localeCompare(nameOf(b)));
		const slow = slowest(times, all);
		const table: PatternTable = {
			key: "stages",
			title: "Working days in each stage",
			lead: "Visits started in the last 365 days. Large figure: the median; unfinished visits count as lasting at least as long as so far. The curve falls as visits end; the pale curve is everyone’s, the dashed line marks half, and ticks are visits under way.",
			of: by.words.replace("by ", ""),
			columns: shown.map((stage) => ({ words: stageName(stage), kind: "times" })),
			rows: [
				...groups.map((group) => ({ key: group, name: nameOf(group), cells: shown.map((stage) => cellOf(group, stage)) })),
				...(groups.length
					? sums.map((group) => ({ key: group === ALL ? "all" : "ours", name: nameOf(group), total: true, cells: shown.map((stage) => cellOf(group, stage)) }))
					: []),
			],
			empty: "No deals entered a stage in the last year.",
		};
		return {
			openings: book.openings,
			view: {
				headline: slow
					? `${capital(nameOf(slow.one.group))}: half of the visits to ${stageName(slow.one.stage)} take ${slow.one.median} working days or more; of all ${slow.all.median}`
					: times.some(({ median }) => median !== null)
						? "Nobody’s deals stay clearly longer in a stage than others’"
						: times.some(({ visits }) => visits.length >= LEAST)
							? "No stage has been left by half of the deals that entered it"
							: "Too few visits to say how long stages take",
				beside: slow
					? [`That is ${((slow.one.median ?? 0) / Math.max(1, slow.all.median ?? 1)).toFixed(1)} times as long, more than chance would explain.`]
					: [],
				about: "visits to stages within a year",
				rests: [grouped(times.reduce((sum, one) => sum + (one.group === OURS ? one.visits.length : 0), 0)), "visits"],
				looked: null,
				groupings: offered(OFFERED),
				by: by.key,
				currency: company.rules.rates.base,
				tables: [table],
			},
		};
	},
});

const capital = (words: string) => words.slice(0, 1).toUpperCase() + words.slice(1);

/** The group that stays longest by ratio to all, where even the lower end of its interval lies above everybody's median. */
function slowest(times: readonly StageTime[], all: ReadonlyMap<number, StageTime>) {
	return times
		.flatMap((one) => {
			const whole = all.get(one.stage);
			if (!whole?.median || one.group === ALL || one.group === OURS || one.median === null || one.interval.low === null || one.interval.low <= whole.median)
				return [];
			return [{ one, all: whole, ratio: one.median / whole.median }];
		})
		.sort((a, b) => b.ratio - a.ratio || b.one.visits.length - a.one.visits.length)[0];
}
