import type { MinutesView } from "../server/readMinutes";

type RoundTotals = NonNullable<MinutesView["before"]>;

/** What the totals are totals of. */
export const totalsHeading = ({ partial }: Pick<MinutesView, "partial">): string => (partial ? "What the deals you see come to" : "What the period comes to");

/** The minutes as Markdown. */
export function minutesMarkdown(view: MinutesView, money: (amount: number) => string): string {
	const { before, after } = view;
	const cell = (text: string) => text.replace(/\s+/g, " ").replaceAll("|", "\\|") || "–";
	const total = (words: string, of: (totals: RoundTotals) => number | null) => {
		const [a, b] = [before && of(before), after && of(after)];
		return `| ${words} | ${a === null ? "–" : money(a)} | ${b === null ? "–" : money(b)} |`;
	};
	return [
		`# ${view.name}, ${view.on}`,
		`${view.whose} deals due in ${view.period}; held by ${view.startedBy}.`,
		view.note,
		`## ${totalsHeading(view)}`,
		[
			"|  | before | after |",
			"|---|--:|--:|",
			total("target", ({ target }) => target),
			total("won", ({ won }) => won),
			total("by the reps’ word", ({ byWord }) => byWord),
			total("by the calls", ({ byCalls }) => byCalls),
			total("called shaky", ({ shaky }) => shaky),
		].join("\n"),
		"## Calls",
		[
			"| Deal | Account | Rep | Category | Amount | Call | Note | Changed |",
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
		"## Promised",
		view.promises.length
			? view.promises
					.map((one) => `- [${one.fate === "kept" || one.fate === "late" ? "x" : " "}] ${one.title} (${one.who}${one.due ? `, by ${one.due}` : ""})`)
					.join("\n")
			: "Nothing.",
	]
		.filter(Boolean)
		.join("\n\n")
		.concat("\n");
}
