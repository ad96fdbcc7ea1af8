import type { DealBlock, DealFacts } from "@/core/company";
import { Activities, type ActivityColumns, NO_ACTIVITIES, packActivities } from "@/core/contact/activities";
import type { Block } from "@/core/history/columns";
import { buyersOnce } from "@/core/people/buyers";
import { type AnswerColumns, Answers, NO_ANSWERS, packAnswers } from "@/core/qualification/answers";
import type { DealAttributes } from "./state";
import { restoreLists, restoreRows, type Transposed, type TransposedLists, transpose, transposeLists } from "./transposed";

/** A block of deals as it is saved: everything in columns. */
export interface PackedBlock {
	readonly versions: Block;
	readonly deals: Transposed;
	readonly former: TransposedLists;
	readonly facts: Transposed;
	readonly lists: Readonly<Record<FactList, TransposedLists>>;
	readonly activities: PackedColumns<ActivityColumns>;
	readonly answers: PackedColumns<AnswerColumns>;
}

/** Columns of all deals in a row; deal i owns those from its offset up to the next. */
interface PackedColumns<C> {
	readonly columns: C | undefined;
	readonly offsets: Int32Array;
}

const FACT_LISTS = ["buyers", "tasks", "quotes", "rests"] as const;
type FactList = (typeof FACT_LISTS)[number];

const columnsOf = <C>(lists: readonly { readonly columns: C; readonly from: number; readonly end: number }[]): PackedColumns<C> => ({
	columns: lists[0]?.columns,
	offsets: Int32Array.from([...lists.map(({ from }) => from), lists.at(-1)?.end ?? 0]),
});

/** Packs a block with the names of its deals. */
export function packBlock({ versions, facts }: DealBlock, deals: readonly DealAttributes[]): PackedBlock {
	const lists = Object.fromEntries(FACT_LISTS.map((name) => [name, transposeLists(facts.map((deal) => deal[name]))])) as Record<FactList, TransposedLists>;
	return {
		versions,
		deals: transpose(deals.map(({ former: _, ...deal }) => deal)),
		former: transposeLists(deals.map(({ former }) => former)),
		facts: transpose(facts.map(({ createdDay, hasAccountName }) => ({ createdDay, hasAccountName }))),
		lists,
		activities: columnsOf(packActivities(facts.map(({ activities }) => activities))),
		answers: columnsOf(packAnswers(facts.map(({ answers }) => answers))),
	};
}

/** The deals of a packed block; activities and answers stay in the columns they were saved in. */
export function unpackBlock(packed: PackedBlock): { readonly versions: Block; readonly deals: DealAttributes[]; readonly facts: DealFacts[] } {
	const { versions, activities, answers } = packed;
	const former = restoreLists<DealAttributes["former"][number]>(packed.former);
	const deals = restoreRows<DealAttributes>(packed.deals).map((deal, i): DealAttributes => Object.assign(deal, { former: former[i] ?? [] }));
	const [buyers, tasks, quotes, rests] = FACT_LISTS.map((name) => restoreLists(packed.lists[name])) as [
		DealFacts["buyers"][],
		DealFacts["tasks"][],
		DealFacts["quotes"][],
		DealFacts["rests"][],
	];
	const span = ({ offsets }: PackedColumns<unknown>, i: number) => [offsets[i] as number, offsets[i + 1] as number] as const;
	const facts = restoreRows<Pick<DealFacts, "createdDay" | "hasAccountName">>(packed.facts).map(
		({ createdDay, hasAccountName }, i): DealFacts => ({
			id: (deals[i] as DealAttributes).id,
			createdDay,
			hasAccountName,
			buyers: buyersOnce(buyers[i] ?? []),
			activities: activities.columns ? new Activities(activities.columns, ...span(activities, i)) : NO_ACTIVITIES,
			answers: answers.columns ? new Answers(answers.columns, ...span(answers, i)) : NO_ANSWERS,
			tasks: tasks[i] ?? [],
			quotes: quotes[i] ?? [],
			rests: rests[i] ?? [],
		}),
	);
	return { versions, deals, facts };
}
