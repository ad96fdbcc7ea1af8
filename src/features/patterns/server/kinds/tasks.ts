import type { Company } from "@/core/company";
import { NONE } from "@/core/history/columns";
import { grouped as count } from "@/core/money/words";
import type { Fate, Lighting } from "@/core/patterns/taskHelp";
import { shareOfRows } from "@/core/statistics/wilson";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { type Cell, type PatternTable, text } from "../../table/view";
import { Book, type Case, patternKind } from "../book";
import { type FlagHelp, helpOf } from "../findings/taskHelp";
import { idsOf } from "../scopes";

/** Whether flags go out more often where a task names them, by flag. */
export const tasks = patternKind({
	key: "tasks",
	label: "Tasks",
	async read(context, { scope, day }) {
		const { company } = context.organisation;
		const lines = (await helpOf(context, { day: formatDay(day), scope: idsOf(context.organisation, scope) })).sort(
			(a, b) => (b.difference ?? -2) - (a.difference ?? -2) || b.lightings.length - a.lightings.length,
		);
		const book = new Book();
		const unclear = lines.filter((one) => verdictOf(one) === "unclear");
		return {
			openings: book.openings,
			view: {
				headline: headlineOf(lines),
				beside: [
					unclear.length ? `No clear difference: ${unclear.map(({ name }) => name).join(", ")}.` : "",
					"Deals with tasks differ from those without: managers choose the ones that can still be saved, or the worst. This doesn’t show what a task achieves.",
				].filter(Boolean),
				about: "flags of half a year",
				rests: [count(lines.reduce((sum, { lightings }) => sum + lightings.length, 0)), "times that a flag lit"],
				looked: null,
				groupings: [],
				by: null,
				currency: company.rules.rates.base,
				tables: [tableOf(book, lines, (list) => casesOf(company, day, list))],
			},
		};
	},
});

const FATE_WORDS: Readonly<Record<Fate, string>> = { out: "cleared", won: "won", gone: "lost or removed", lit: "still lit" };

function casesOf(company: Company, day: Day, list: readonly Lighting[]): Case[] {
	const now = surveyOn(company, day);
	return list.map(({ deal, day: on, fate }) => ({
		deal,
		day: on,
		owner: now.deals[deal]?.owner ?? NONE,
		amount: now.deals[deal]?.amountBase ?? null,
		came: `${shortDay(on)}: ${FATE_WORDS[fate]}${fate === "lit" ? "" : " three weeks later"}`,
		hit: fate === "out" || fate === "won",
	}));
}

const VERDICTS = {
	few: text("too few to say"),
	unclear: text("no clear difference"),
	helps: text("cleared more often with one", undefined, "better"),
	hinders: text("cleared less often with one", undefined, "worse"),
};

/** What the difference of a flag says, by its interval. */
export function verdictOf({ difference, low, high }: Pick<FlagHelp, "difference" | "low" | "high">): keyof typeof VERDICTS {
	if (difference === null || low === null || high === null) return "few";
	return low > 0 ? "helps" : high < 0 ? "hinders" : "unclear";
}

const points = (value: number) => `${value > 0 ? "+" : value < 0 ? "−" : ""}${Math.abs(Math.round(100 * value))}`;

/** `+12 points (3 to 21)`. */
const differenceWords = ({ difference, low, high }: FlagHelp) =>
	difference === null || low === null || high === null ? "–" : `${points(difference)} points (${points(low)} to ${points(high)})`;

function tableOf(book: Book, lines: readonly FlagHelp[], cases: (list: readonly Lighting[]) => Case[]): PatternTable {
	const arm = ({ code, name, lightings }: FlagHelp, withTask: boolean): Cell => {
		const own = lightings.filter((one) => one.withTask === withTask && one.fate !== "gone");
		const [key, words] = withTask ? ["with", "with a task"] : ["without", "without a task"];
		return {
			kind: "share",
			share: shareOfRows(own.map(({ deal, fate }) => ({ deal, hit: fate !== "lit" }))),
			opens: book.open(`task:${code}:${key}`, `${name}, ${words}`, "were cleared three weeks later", () => cases(own)),
		};
	};
	const gone = ({ lightings }: FlagHelp) => {
		const of = (withTask: boolean) => lightings.filter((one) => one.withTask === withTask && one.fate === "gone").length;
		return text(`${of(true)} with, ${of(false)} without`);
	};
	return {
		key: "tasks",
		title: "Cleared three weeks later, with and without a task",
		lead: "Each time a flag lit within half a year: cleared if it no longer fires 15 working days later, or the deal is won. With a task: at the first week’s end at which one that names the flag was open, or was given in the five working days before. The difference compares flags lit for as long: the first week, the second and third, and later; its interval counts a deal once. Deals that were lost or removed stand apart.",
		of: "Flag",
		columns: [
			{ label: "Cleared, with a task", kind: "share" },
			{ label: "Cleared, without", kind: "share" },
			{ label: "Difference", kind: "text" },
			{ label: "Lost or removed", kind: "text" },
			{ label: "Finding", kind: "text" },
		],
		rows: lines.map((one) => ({
			key: one.code,
			name: one.name,
			cells: [arm(one, true), arm(one, false), text(differenceWords(one)), gone(one), VERDICTS[verdictOf(one)]],
		})),
		empty: "No flag lit long enough ago to tell what happened to it.",
	};
}

function headlineOf(lines: readonly FlagHelp[]): string {
	const best = lines.find((one) => verdictOf(one) === "helps");
	if (best)
		return `Where a task targets “${best.name}”, ${points(best.difference ?? 0)} points more are cleared three weeks later than without one`.replace("+", "");
	return lines.some(({ difference }) => difference !== null)
		? "No flag clears clearly more often where a task targets it"
		: "Too few tasks to tell whether they go with flags clearing";
}
