import type { Company } from "../company";
import type { DealSeen } from "../dealSeen";
import { blockOf, NONE } from "../history/columns";
import { rowOf } from "../inspect";
import { isOpenOn, taskOn } from "../tasks/task";
import { type Day, NO_DAY } from "../time/day";
import { shortDay } from "../time/words";

/** What a round will ask about a deal, by kind; in the order in which it is put right. */
export const ASKS = ["date passed", "overdue task", "no next step", "missing answer", "stale answer", "flag"] as const;
export type AskKind = (typeof ASKS)[number];

export interface Ask {
	readonly kind: AskKind;
	readonly words: string;
	/** the code of the flag, the id of the task or of the question that it is about; else null */
	readonly of: string | null;
}

/** A promise that was given in a round, by the id of its task. */
export type Promised = ReadonlySet<string>;

/** Flags that are asked for by a kind of their own. */
const ASKED_OTHERWISE = new Set(["overdue", "no-next-step", "stale-answers", "under-qualified"]);

/**
 * What a round will ask about an open deal, most pressing first: a close date that has passed, tasks and promises that are
 * late, no next step ahead, questions due by its stage that nobody has answered or whose answer is old, and its flags.
 */
export function asksOf(company: Company, seen: DealSeen, day: Day, promised: Promised): Ask[] {
	if (seen.status !== "open") return [];
	const { history, deals } = company;
	const asks: Ask[] = [];
	if (seen.close === NO_DAY) asks.push({ kind: "date passed", words: "It has no close date.", of: null });
	else if (seen.close < day) asks.push({ kind: "date passed", words: `Its close date, ${shortDay(seen.close)}, has passed.`, of: null });
	for (const task of deals[seen.deal]?.tasks ?? []) {
		const then = taskOn(task, day);
		if (!isOpenOn(then, day) || then.due === NO_DAY || then.due >= day) continue;
		asks.push({ kind: "overdue task", words: `${promised.has(task.id) ? "A promise" : "A task"} was due on ${shortDay(then.due)}.`, of: task.id });
	}
	const next = blockOf(history, seen.deal).nextStepDay[rowOf(history, seen)] as number;
	if (next === NO_DAY || next < day)
		asks.push({ kind: "no next step", words: next === NO_DAY ? "It has no next step with a day." : `Its next step was due on ${shortDay(next)}.`, of: null });
	const { questions, standings } = seen.qualification;
	const said = (which: "gap" | "stale") =>
		questions.flatMap((question, i) => {
			const standing = standings[i];
			return standing?.[which] && (which === "gap" || !standing.gap) ? [question] : [];
		});
	for (const { id, prompt } of said("gap")) asks.push({ kind: "missing answer", words: prompt, of: id });
	for (const { id, prompt } of said("stale")) asks.push({ kind: "stale answer", words: prompt, of: id });
	for (const { code, label, reason } of seen.flags) if (!ASKED_OTHERWISE.has(code)) asks.push({ kind: "flag", words: `${label}: ${reason}`, of: code });
	return asks;
}

/** How far somebody has prepared: of their deals those about which nothing is left to ask, or that they have said they are ready for. */
export interface Prepared {
	readonly owner: number;
	readonly deals: number;
	readonly ready: number;
	readonly asks: number;
}

/**
 * Who has prepared, and how far, by owner in the order of their indexes.
 *
 * @example preparedOf([{ owner: 1, asks: 3, ready: true }, { owner: 1, asks: 2, ready: false }]) // [{ "owner": 1, "deals": 2, "ready": 1, "asks": 2 }]
 */
export function preparedOf(deals: readonly { readonly owner: number; readonly asks: number; readonly ready: boolean }[]): Prepared[] {
	const byOwner = new Map<number, { deals: number; ready: number; asks: number }>();
	for (const { owner, asks, ready } of deals) {
		if (owner === NONE) continue;
		const own = byOwner.get(owner) ?? { deals: 0, ready: 0, asks: 0 };
		own.deals++;
		own.asks += ready ? 0 : asks;
		if (ready || asks === 0) own.ready++;
		byOwner.set(owner, own);
	}
	return [...byOwner].map(([owner, own]) => ({ owner, ...own })).sort((a, b) => a.owner - b.owner);
}
