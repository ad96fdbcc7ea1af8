import { ownerIn } from "@/core/bridge/scope";
import { grouped } from "@/core/money/words";
import { type StageTime, timeInStage } from "@/core/patterns/timeInStage";
import { logRank } from "@/core/statistics/logRank";
import { toldApart } from "@/core/statistics/toldApart";
import { LEAST } from "@/core/statistics/wilson";
import type { Day } from "@/core/time/day";
import { byCount, plural } from "@/core/words/grammar";
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
	label: "Time in stage",
	read(context, { scope, day, by: askedBy }) {
		const { company } = context.organisation;
		const by = groupingOf(askedBy, OFFERED);
		const book = new Book();
		const groupsOf = (deal: number, owner: number) => [ALL, ...(ownerIn(scope, owner) ? [OURS, ...by.partsOf(context, deal, owner)] : [])];
		const times = timeInStage(company, day, groupsOf, (group) => by.key === "rep" && group !== ALL && group !== OURS);
		const handedOn = times.reduce((sum, one) => sum + one.handedOn, 0);
		const words: Words = {
			group: (group) => (group === ALL ? "Everybody" : group === OURS ? "Total" : by.nameOf(context, group)),
			stage: (stage) => company.rules.stages[stage]?.name ?? "",
		};
		const all = new Map(times.filter(({ group }) => group === ALL).map((one) => [one.stage, one]));
		const shown = [...all.keys()].sort((a, b) => (company.rules.stages[a]?.rank ?? 0) - (company.rules.stages[b]?.rank ?? 0));
		const cell = (group: string, stage: number) =>
			cellOf(
				book,
				words,
				day,
				times.find((time) => time.group === group && time.stage === stage),
				all.get(stage),
			);
		const row = (group: string) => ({ name: words.group(group), cells: shown.map((stage) => cell(group, stage)) });
		const groups = [...new Set(times.map(({ group }) => group))]
			.filter((group) => group !== ALL && group !== OURS)
			.sort((a, b) => words.group(a).localeCompare(words.group(b)));
		const sums = !groups.length ? [] : scope === null ? [ALL] : [OURS, ALL];
		const table: PatternTable = {
			key: "stages",
			title: "Working days in each stage",
			lead: `Visits started in the last 365 days. Large figure: the median; unfinished visits count as lasting at least as long as so far. The curve falls as visits end; the pale curve is everyone’s, the dashed line marks half, and ticks are visits under way. Beside the median: how many of its first days a visit takes on average, counted up to as many as five visits of every row lasted, so that rows can be compared.${handedOn ? ` ${plural(handedOn, "visit")} changed owner and ${byCount(handedOn, "counts", "count")} in the totals alone.` : ""}`,
			of: by.label.replace("by ", ""),
			columns: shown.map((stage) => ({ label: words.stage(stage), kind: "times" })),
			rows: [...groups.map((group) => ({ key: group, ...row(group) })), ...sums.map((group) => ({ key: keyOf(group), total: true, ...row(group) }))],
			empty: "No deals entered a stage in the last year.",
		};
		return {
			openings: book.openings,
			view: {
				...headlineOf(times, all, words),
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

interface Words {
	readonly group: (group: string) => string;
	readonly stage: (stage: number) => string;
}

const keyOf = (group: string) => (group === ALL ? "all" : group === OURS ? "ours" : group);

/** The times of one group in one stage, beside everybody's. */
function cellOf(book: Book, words: Words, day: Day, one: StageTime | undefined, all: StageTime | undefined): Cell {
	if (!one) return text("·");
	const { group, stage, visits, finished, unfinished, restrictedMean, upTo, median, interval, curve } = one;
	const cases = (): Case[] =>
		visits.map((visit) => ({
			deal: visit.deal,
			day,
			owner: visit.owner,
			amount: null,
			came: `${plural(visit.length, "working day")}${visit.finished ? "" : " so far"}`,
			hit: visit.finished,
		}));
	return {
		kind: "times",
		finished,
		unfinished,
		mean: restrictedMean === null ? null : Math.round(10 * restrictedMean) / 10,
		upTo,
		median,
		interval,
		curve,
		lasting: [...new Set(visits.flatMap((visit) => (visit.finished ? [] : [visit.length])))].sort((a, b) => a - b),
		all: group === ALL ? null : (all?.curve ?? null),
		opens: book.open(`${keyOf(group)}:${stage}`, `${words.group(group)} in ${words.stage(stage)}`, "visits are finished", cases),
	};
}

function headlineOf(times: readonly StageTime[], all: ReadonlyMap<number, StageTime>, words: Words): { headline: string; beside: string[] } {
	const slow = slowest(times, all);
	if (!slow)
		return {
			headline: times.some(({ median }) => median !== null)
				? "Nobody’s deals stay clearly longer in a stage than others’"
				: times.some(({ visits }) => visits.length >= LEAST)
					? "No stage has been left by half of the deals that entered it"
					: "Too few visits to say how long stages take",
			beside: [],
		};
	const { one } = slow;
	const ratio = ((one.median ?? 0) / Math.max(1, slow.all.median ?? 1)).toFixed(1);
	return {
		headline: `${capital(words.group(one.group))}: half of the visits to ${words.stage(one.stage)} take ${one.median} working days or more; of all ${slow.all.median}`,
		beside: [`That is ${ratio} times as long, more than chance would explain.`],
	};
}

const capital = (words: string) => words.slice(0, 1).toUpperCase() + words.slice(1);

/** The group that stays longest by ratio to all, of those that differ from the visits of all others by more than chance; over all groups and stages. */
function slowest(times: readonly StageTime[], all: ReadonlyMap<number, StageTime>) {
	const rows = times.flatMap((one) => {
		const whole = all.get(one.stage);
		if (!whole?.median || one.group === ALL || one.group === OURS || one.median === null) return [];
		const own = new Set(one.visits.map(({ deal }) => deal));
		const p = logRank(
			one.visits,
			whole.visits.filter(({ deal }) => !own.has(deal)),
		);
		return [{ one, all: whole, ratio: one.median / whole.median, p }];
	});
	const verdicts = toldApart(rows.map(({ p }) => p));
	return rows.filter(({ ratio }, i) => verdicts[i] && ratio > 1).sort((a, b) => b.ratio - a.ratio || b.one.visits.length - a.one.visits.length)[0];
}
