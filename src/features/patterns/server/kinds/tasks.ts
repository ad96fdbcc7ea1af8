import type { Company } from "@/core/company";
import { RULES } from "@/core/flags/list";
import { NONE } from "@/core/history/columns";
import { grouped as count } from "@/core/money/words";
import { type Watched, watchedSteps } from "@/core/patterns/taskHelp";
import { apart, type Share, shareOf } from "@/core/statistics/wilson";
import { surveyOn } from "@/core/survey";
import type { Day } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { runCooperatively } from "@/platform/runCooperatively";
import { type Cell, type PatternTable, text } from "../../table/view";
import { Book, type Case, patternKind } from "../book";
import { percent } from "../words";

/** Whether flags go out more often where a task names them, by flag. */
export const tasks = patternKind({
	key: "tasks",
	label: "Tasks",
	async read(context, { scope, day }) {
		const { company } = context.organisation;
		const watched = await runCooperatively(watchedSteps(company, scope, day));
		const book = new Book();
		const lines = linesOf(watched);
		const none = lines.filter((one) => one.gain !== null && !apart(one.with, one.without));
		return {
			openings: book.openings,
			view: {
				headline: headlineOf(lines),
				beside: [
					none.length ? `No clear difference: ${none.map(({ name }) => name).join(", ")}.` : "",
					"Deals with tasks differ from those without: managers choose the ones that can still be saved, or the worst. This doesn’t show what a task achieves.",
				].filter(Boolean),
				about: "flags of half a year",
				rests: [count(watched.length), "lit at weeks’ ends"],
				looked: null,
				groupings: [],
				by: null,
				currency: company.rules.rates.base,
				tables: [tableOf(book, lines, (list) => casesOf(company, day, list))],
			},
		};
	},
});

/** One line a flag, the one that clears most more often with a task first. */
function linesOf(watched: readonly Watched[]) {
	const share = (list: readonly Watched[]) => shareOf(list.filter(({ out }) => out).length, list.length);
	return RULES.map(({ code, name }) => {
		const own = watched.filter((one) => one.flag === code);
		const [has, hasNot] = [own.filter(({ withTask }) => withTask), own.filter(({ withTask }) => !withTask)];
		const [withTask, without] = [share(has), share(hasNot)];
		const gain = withTask.share === null || without.share === null ? null : withTask.share - without.share;
		return { code, name, n: own.length, has, hasNot, with: withTask, without, gain };
	})
		.filter(({ n }) => n > 0)
		.sort((a, b) => (b.gain ?? -2) - (a.gain ?? -2) || b.n - a.n);
}
type Line = ReturnType<typeof linesOf>[number];

function casesOf(company: Company, day: Day, list: readonly Watched[]): Case[] {
	const now = surveyOn(company, day);
	return list.map(({ deal, day: on, out }) => ({
		deal,
		day: on,
		owner: now.deals[deal]?.owner ?? NONE,
		amount: now.deals[deal]?.amountBase ?? null,
		came: `${shortDay(on)}: ${out ? "cleared three weeks later" : "still lit"}`,
		hit: out,
	}));
}

function verdictOf({ with: own, without, gain }: Line): Cell {
	if (gain === null) return text("too few to say");
	if (!apart(own, without)) return text("no clear difference");
	return gain > 0 ? text("cleared more often with one", undefined, "better") : text("cleared less often with one", undefined, "worse");
}

function tableOf(book: Book, lines: readonly Line[], cases: (list: readonly Watched[]) => Case[]): PatternTable {
	const cell = (share: Share, key: string, title: string, list: readonly Watched[]): Cell => ({
		kind: "share",
		share,
		opens: book.open(key, title, "were cleared three weeks later", () => cases(list)),
	});
	return {
		key: "tasks",
		title: "Cleared three weeks later, with and without a task",
		lead: "Each flag lit at each week’s end of the last half year: cleared if it no longer fires 15 working days later, or the deal is won. With a task: one that names the flag was open, or was given in the five working days before. A flag lit for many weeks counts in each of them.",
		of: "Flag",
		columns: [
			{ label: "Cleared, with a task", kind: "share" },
			{ label: "Cleared, without", kind: "share" },
			{ label: "Finding", kind: "text" },
		],
		rows: lines.map((one) => ({
			key: one.code,
			name: one.name,
			cells: [
				cell(one.with, `task:${one.code}:with`, `${one.name}, with a task`, one.has),
				cell(one.without, `task:${one.code}:without`, `${one.name}, without a task`, one.hasNot),
				verdictOf(one),
			],
		})),
		empty: "No flag was lit long enough ago to tell what happened to it.",
	};
}

function headlineOf(lines: readonly Line[]): string {
	const best = lines.find((one) => apart(one.with, one.without) && (one.gain ?? 0) > 0);
	if (best) return `Where a task targets “${best.name}”, ${percent(best.with.share)} are cleared three weeks later; without one ${percent(best.without.share)}`;
	return lines.some(({ gain }) => gain !== null)
		? "No flag clears clearly more often where a task targets it"
		: "Too few tasks to tell whether they go with flags clearing";
}
