import type { Fate } from "@/core/rounds/promise";
import { plural } from "@/core/words/grammar";
import type { MinutesView } from "../server/minutesView";

type RoundTotals = NonNullable<MinutesView["before"]>;

/** What the totals are totals of. */
export const totalsHeading = ({ partial }: Pick<MinutesView, "partial">): string => (partial ? "Total of the deals you see" : "Period total");

const isWalk = ({ kind }: Pick<MinutesView, "kind">) => kind === "walk";

/** What was agreed to be done: promises of a round, tasks that a walk gave. */
export function tasksHeading({ kind, promises }: Pick<MinutesView, "kind" | "promises">): string {
	const what = isWalk({ kind }) ? "task" : "promise";
	if (promises.length) return `${plural(promises.length, what)}${isWalk({ kind }) ? " given" : ""}`;
	return isWalk({ kind }) ? "No tasks were given" : "No promises were made";
}

/** What became of a task, in the words of a round or a walk: a walk's tasks were given, not promised. */
export const fateWords = (fate: Fate, kind: string): string => (kind === "walk" && fate === "kept" ? "done in time" : fate);

/** The minutes as Markdown. */
export function minutesMarkdown(view: MinutesView, money: (amount: number) => string): string {
	const { before, after } = view;
	const cell = (text: string) => text.replace(/\s+/g, " ").replaceAll("|", "\\|") || "–";
	const total = (words: string, of: (totals: RoundTotals) => number | null) => {
		const [a, b] = [before && of(before), after && of(after)];
		return `| ${words} | ${a === null ? "–" : money(a)} | ${b === null ? "–" : money(b)} |`;
	};
	const totals = [
		"|  | before | after |",
		"|---|--:|--:|",
		total("target", ({ target }) => target),
		total("won", ({ won }) => won),
		total("by the reps", ({ byWord }) => byWord),
		total("by the calls", ({ byCalls }) => byCalls),
		total("called shaky", ({ shaky }) => shaky),
	].join("\n");
	return [
		`# ${view.name}, ${view.on}`,
		isWalk(view)
			? `A walk by ${view.startedBy} over the deals that needed attention.`
			: `${view.whose} deals due in ${view.period}; held by ${view.startedBy}.`,
		view.note,
		...(isWalk(view) ? [] : [`## ${totalsHeading(view)}`, totals]),
		`## ${isWalk(view) ? "Decisions" : "Calls"}`,
		[
			`| Deal | Account | Rep | Category | Amount | ${isWalk(view) ? "Decision" : "Call"} | Note | Changed |`,
			"|---|---|---|---|--:|---|---|---|",
			...view.deals.map((deal) =>
				[
					"",
					...[
						deal.name,
						deal.account,
						deal.owner,
						(deal.category ?? "").replace("_", " "),
						money(deal.amount),
						deal.said,
						deal.note,
						deal.changes.map(({ words }) => words).join("; "),
					].map(cell),
					"",
				]
					.join(" | ")
					.trim(),
			),
		].join("\n"),
		`## ${tasksHeading(view)}`,
		view.promises.length
			? view.promises
					.map((one) => `- [${one.fate === "kept" || one.fate === "late" ? "x" : " "}] ${one.title} (${one.who}${one.due ? `, by ${one.due}` : ""})`)
					.join("\n")
			: "",
	]
		.filter(Boolean)
		.join("\n\n")
		.concat("\n");
}
