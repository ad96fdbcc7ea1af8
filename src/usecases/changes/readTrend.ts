import { trend } from "../../core/bridge/trend";
import { CATEGORIES } from "../../core/history/columns";
import { type Day, formatDay } from "../../core/time/day";
import type { Context } from "../context";
import { firstKnown } from "../firstKnown";
import { demand } from "../rights";
import type { Sentence } from "../sentence";

export interface TrendView {
	/** names of the bands, and for each week's end their open amounts in that order; base minor units */
	readonly byStage: readonly string[];
	readonly byCategory: readonly string[];
	readonly points: readonly {
		readonly day: string;
		readonly count: number;
		readonly open: number;
		readonly weighted: number;
		readonly stages: readonly number[];
		readonly categories: readonly number[];
		readonly won: number;
		readonly lost: number;
	}[];
	readonly currency: string;
}

const WEEKS = 13;

/** The pipeline of the period at each week's end up to the seen day: from the earlier moment, or a quarter back when that is nearer. */
export function readTrend(context: Context, sentence: Sentence): TrendView | null {
	demand(context.actor, "readChanges");
	const { company } = context.memory;
	const { period } = sentence.due;
	if (!period) return null;
	const last = sentence.seen.day;
	const first = Math.min(sentence.against.day, last - WEEKS * 7);
	const points = trend(company, weekEnds(first, last, firstKnown(context.memory)), period, sentence.whose.scope);
	const { stages } = company.rules;
	const open = stages.flatMap((stage, i) => (stage.kind === "open" ? [i] : []));
	return {
		byStage: open.map((i) => stages[i]?.name ?? ""),
		byCategory: [...CATEGORIES.map((category) => category.replaceAll("_", " ")), "no category"],
		points: points.map((point) => ({
			day: formatDay(point.day),
			count: point.count,
			open: point.open,
			weighted: point.weighted,
			stages: open.map((i) => point.byStage[i] ?? 0),
			categories: [...point.byCategory],
			won: point.won,
			lost: point.lost,
		})),
		currency: company.rules.rates.base,
	};
}

/** The seen day and the days one, two, … weeks before it down to the first, oldest first. */
export function weekEnds(first: Day, last: Day, known: Day): Day[] {
	const days: Day[] = [];
	for (let day = last; day >= first && (day >= known || day === last); day -= 7) days.unshift(day);
	return days;
}
