import type { StepKind } from "../bridge/bridge";
import type { StepDeal } from "../bridge/parts";
import type { RiverWeek } from "./river";

/** One thing that happened in a week, in words after its count: "4 pushed out". */
export interface WeekLine {
	readonly key: string;
	readonly words: string;
	/** base minor units, never negative for amounts that aren't */
	readonly amount: number;
	/** what it did to the open amount; 0 for moves within it */
	readonly sign: 1 | 0 | -1;
	/** each with its part of the amount */
	readonly deals: readonly Pick<StepDeal, "deal" | "amount">[];
}

const WAYS: readonly [kind: StepKind, words: string, sign: 1 | -1][] = [
	["pushed-out", "pushed out", -1],
	["moved-earlier", "moved to an earlier period", -1],
	["handed-out", "handed out", -1],
	["removed", "taken off the books", -1],
	["new", "new", 1],
	["reopened", "reopened", 1],
	["handed-in", "handed in", 1],
	["rolled-in", "rolled in", 1],
	["pulled-in", "pulled in", 1],
	["grew", "grown", 1],
	["shrank", "cut", -1],
];

/** What deals are worth after the week. */
const afterwards = (deals: readonly StepDeal[]) => deals.map(({ deal, after }) => ({ deal, amount: after }));

/** A week told line by line, what ends deals first. Every deal of the week's steps and moves is behind a line. */
export function weekLines(week: RiverWeek, stages: readonly { readonly name: string }[]): WeekLine[] {
	const lines: WeekLine[] = [];
	const step = (kind: StepKind) => week.steps.find((one) => one.kind === kind);
	const put = (line: WeekLine) => line.deals.length && lines.push(line);
	const won = step("won");
	if (won) put({ key: "won", words: "won", amount: won.amount, sign: -1, deals: [...won.deals] });
	for (const move of week.moves.filter(({ to }) => to === "lost")) {
		const from = typeof move.from === "number" ? `, from ${stages[move.from]?.name ?? ""}` : ", in the week they came";
		put({ key: `lost ${move.from}`, words: `lost${from}`, amount: move.after, sign: -1, deals: afterwards(move.deals) });
	}
	const way = ([kind, words, sign]: (typeof WAYS)[number]) => {
		const found = step(kind);
		if (found) put({ key: kind, words, amount: found.amount, sign, deals: [...found.deals] });
	};
	way(WAYS[0] as (typeof WAYS)[number]);
	put({ key: "later", words: "pushed later, still in", amount: week.later.reduce((sum, deal) => sum + deal.after, 0), sign: 0, deals: afterwards(week.later) });
	for (const move of week.moves) {
		if (typeof move.from !== "number" || typeof move.to !== "number" || move.from === move.to) continue;
		const words = `${move.to > move.from ? "moved on" : "stepped back"} from ${stages[move.from]?.name} to ${stages[move.to]?.name}`;
		put({ key: `${move.from}>${move.to}`, words, amount: move.after, sign: 0, deals: afterwards(move.deals) });
	}
	WAYS.slice(1).forEach(way);
	return lines;
}
