import type { StepDeal } from "../bridge/parts";
import { takesAway } from "../bridge/step";
import { CHANGES, type StepKind, stepOf, WAYS_IN, WAYS_OUT } from "../bridge/steps";
import type { RiverWeek } from "./river";

/** One thing that happened in a week, in words after its count: "4 pushed out". */
export interface WeekLine {
	readonly key: string;
	readonly label: string;
	/** base minor units, never negative for amounts that aren't */
	readonly amount: number;
	/** what it did to the open amount; 0 for moves within it */
	readonly sign: 1 | 0 | -1;
	/** each with its part of the amount */
	readonly deals: readonly Pick<StepDeal, "deal" | "amount">[];
}

/** Wins and losses are told first, and pushes before what stayed in; then all else in this order. */
const TOLD_APART: readonly StepKind[] = ["won", "lost", "pushed-out"];
const OTHERS = [...WAYS_OUT, ...WAYS_IN, ...CHANGES].map((step) => step.kind).filter((kind) => !TOLD_APART.includes(kind));

/** What deals are worth after the week. */
const afterwards = (deals: readonly StepDeal[]) => deals.map(({ deal, after }) => ({ deal, amount: after }));

/** A week told line by line, what ends deals first. Every deal of the week's steps and moves is behind a line. */
export function weekLines(week: RiverWeek, stages: readonly { readonly name: string }[]): WeekLine[] {
	const lines: WeekLine[] = [];
	const step = (kind: StepKind) => week.steps.find((one) => one.kind === kind);
	const put = (line: WeekLine) => line.deals.length && lines.push(line);
	const won = step("won");
	if (won) put({ key: "won", label: "won", amount: won.amount, sign: -1, deals: [...won.deals] });
	for (const move of week.moves.filter(({ to }) => to === "lost")) {
		const from = typeof move.from === "number" ? `, from ${stages[move.from]?.name ?? ""}` : ", in the week they came";
		put({ key: `lost ${move.from}`, label: `lost${from}`, amount: move.after, sign: -1, deals: afterwards(move.deals) });
	}
	const way = (kind: StepKind) => {
		const [found, { words, ...of }] = [step(kind), stepOf(kind)];
		if (found) put({ key: kind, label: words.week ?? words.told, amount: found.amount, sign: takesAway(of) ? -1 : 1, deals: [...found.deals] });
	};
	way("pushed-out");
	put({ key: "later", label: "pushed later, still in", amount: week.later.reduce((sum, deal) => sum + deal.after, 0), sign: 0, deals: afterwards(week.later) });
	for (const move of week.moves) {
		if (typeof move.from !== "number" || typeof move.to !== "number" || move.from === move.to) continue;
		const words = `${move.to > move.from ? "moved on" : "stepped back"} from ${stages[move.from]?.name} to ${stages[move.to]?.name}`;
		put({ key: `${move.from}>${move.to}`, label: words, amount: move.after, sign: 0, deals: afterwards(move.deals) });
	}
	OTHERS.forEach(way);
	return lines;
}
