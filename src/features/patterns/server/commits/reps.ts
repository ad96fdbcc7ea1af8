import type { Scope } from "@/core/bridge/scope";
import { type Category, NONE } from "@/core/history/columns";
import { categoryOf } from "@/core/inspect";
import type { Due } from "@/core/patterns/due";
import type { lastPeriods } from "@/core/patterns/quarters";
import { type Accuracy, accuracyOf } from "@/core/patterns/records";
import { pOfShares, rowsApart } from "@/core/statistics/toldApart";
import { type Share, shareOf, shareOfRows } from "@/core/statistics/wilson";
import { periodWords, shortDay } from "@/core/time/words";
import type { Context } from "@/platform/context";
import { chosenName } from "@/platform/names";
import { type Cell, type PatternTable, type Row, text } from "../../table/view";
import { type Book, type Case, dueCases } from "../book";
import { comparedWords } from "../words";
import { amountCell, goalCell, todayCell } from "./cells";

const NOBODY: Accuracy = { count: shareOfRows([]), amount: { k: null, n: null, share: null, largest: null }, people: [] };

/** What the tables of commits are made from. */
export interface CommitGround {
	readonly context: Context;
	readonly book: Book;
	readonly scope: Scope;
	readonly list: ReturnType<typeof lastPeriods>;
	readonly due: readonly Due[];
	/** the period that runs, in words */
	readonly dueNow: string;
	readonly commit: Accuracy;
	readonly best: Accuracy;
	/** what is in commit today, by owner */
	readonly today: ReadonlyMap<number, readonly Case[]>;
}

/** One rep’s record, with what is in commit today; `apart` where its share and the others’ differ by more than chance. */
export interface RepLine {
	readonly owner: number;
	readonly name: string;
	readonly commit: Pick<Accuracy, "count" | "amount">;
	readonly best: Pick<Accuracy, "count" | "amount">;
	readonly today: readonly Case[];
	/** all but this rep’s commits, by count */
	readonly others: Share;
	readonly apart: boolean;
}

/** Whether a rep’s commits hold less often than the others’, by more than chance. */
export const isWeak = ({ apart, commit, others }: RepLine): boolean => apart && (commit.count.share ?? 1) < (others.share ?? 0);

/** The share of all commits that held, without one rep’s own. */
const othersThan = ({ count }: Accuracy, own: Share) => shareOf(count.k - own.k, count.n - own.n);

/** Each rep with a record or a commit today, the one whose commits held most first. */
export function repLines({ context: { organisation }, commit, best, today }: CommitGround): RepLine[] {
	const owners = [...new Set([...[...commit.people, ...best.people].map(({ owner }) => owner), ...today.keys()])];
	const counts = owners.map((owner) => {
		const own = commit.people.find((one) => one.owner === owner) ?? NOBODY;
		return { owner, own, others: othersThan(commit, own.count) };
	});
	const verdicts = rowsApart(counts.map(({ own, others }) => [own.count, others]));
	return counts
		.map(
			({ owner, own, others }, i): RepLine => ({
				owner,
				name: owner === NONE ? "No owner" : chosenName(organisation, owner),
				commit: own,
				best: best.people.find((one) => one.owner === owner) ?? NOBODY,
				today: today.get(owner) ?? [],
				others,
				apart: verdicts[i] as boolean,
			}),
		)
		.sort((a, b) => (b.commit.count.share ?? -1) - (a.commit.count.share ?? -1) || b.commit.count.n - a.commit.count.n || a.owner - b.owner);
}

/** In commit by count, by amount and against the goal; and in best case. */
function shareCells(
	{ context, book, due }: CommitGround,
	key: string,
	title: string,
	own: Pick<Accuracy, "count" | "amount">,
	beside: Share,
	holds: (one: Due) => boolean,
): Cell[] {
	const { company, commitGoal } = context.organisation;
	const opens = (part: string, words: string, category: Category) =>
		book.open(`${key}:${part}`, `${title}: in ${words}`, "were won in time", () =>
			dueCases(
				context,
				due.filter((one) => categoryOf(company, one.seen) === category && holds(one)),
				"won",
			),
		);
	return [
		{ kind: "share", share: own.count, opens: opens("commit", "commit", "commit") },
		amountCell(context, own.amount),
		goalCell(own.count, commitGoal / 100),
		{ kind: "share", share: beside, opens: opens("best", "best case", "best_case") },
	];
}

const SHARES = [
	{ label: "In commit, won in time", kind: "share" },
	{ label: "By amount", kind: "text" },
	{ label: "Goal", kind: "text" },
	{ label: "In best case, won in time", kind: "share" },
] as const;

function verdictOf(line: RepLine): Cell {
	if (isWeak(line)) return text("true less often than others’", undefined, "worse");
	if (line.apart) return text("true more often than others’", undefined, "better");
	return text(pOfShares(line.commit.count, line.others) === null ? "too few to say" : "can’t be told from others’");
}

/** Whose commits held, by rep, with a total. */
export function repsTable(ground: CommitGround, lines: readonly RepLine[]): PatternTable {
	const { context, book, commit, best, today, dueNow } = ground;
	const { people, commitGoal } = context.organisation;
	return {
		key: "reps",
		title: "By rep",
		lead: `Of the deals in commit on the day looked at, the share won by the quarter’s end; by amount; against the goal of ${commitGoal}%. ${comparedWords(
			"rep",
			lines.map(({ commit, others }) => [commit.count, others]),
		)}`,
		of: "Rep",
		columns: [...SHARES, { label: `In commit, due ${dueNow}`, kind: "money" }, { label: "Finding", kind: "text" }],
		rows: [
			...lines.map(
				(one): Row => ({
					key: people[one.owner]?.id ?? "none",
					name: one.name,
					cells: [
						...shareCells(ground, `rep:${one.owner}`, one.name, one.commit, one.best.count, ({ seen }) => seen.owner === one.owner),
						todayCell(book, `rep:${one.owner}:today`, `${one.name}: in commit, due ${dueNow}`, one.today),
						verdictOf(one),
					],
				}),
			),
			{
				key: "all",
				name: "Total",
				total: true,
				cells: [
					...shareCells(ground, "all", "Total", commit, best.count, () => true),
					todayCell(book, "all:today", `In commit, due ${dueNow}`, [...today.values()].flat()),
					text(""),
				],
			},
		],
		empty: "No deals were in commit.",
	};
}

/** The same shares by quarter. */
export function quartersTable(ground: CommitGround): PatternTable {
	const { company } = ground.context.organisation;
	return {
		key: "quarters",
		title: "By quarter",
		of: "Quarter",
		columns: SHARES,
		rows: ground.list.map((one) => {
			const words = periodWords(one.period);
			const { start } = one.period;
			const own = accuracyOf(company, [one], "commit", ground.scope);
			const best = accuracyOf(company, [one], "best_case", ground.scope);
			return {
				key: String(start),
				name: words,
				tiny: `seen ${shortDay(one.day)}`,
				cells: shareCells(ground, `quarter:${start}`, words, own, best.count, ({ period }) => period.start === start),
			};
		}),
		empty: "No quarter has ended yet.",
	};
}
