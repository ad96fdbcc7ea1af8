import type { Ledger } from "../company";
import { lastOn } from "../history/columns";
import { amountsBase } from "../inspect";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";
import { DealList, type Measure, Touched } from "./parts";
import { exists, isOpen, membership, ownerIn, type Scope } from "./scope";

export const ENTERING = ["new", "reopened", "handed-in", "rolled-in", "pulled-in"] as const;
export const LEAVING = ["pushed-out", "moved-earlier", "handed-out", "removed", "won", "lost"] as const;
export const STEP_KINDS = [...ENTERING, "grew", "shrank", ...LEAVING] as const;
export type StepKind = (typeof STEP_KINDS)[number];

/** What a deal adds to a step: its amount at B, but for these. A deal that is gone has none there. */
const MEASURES: Partial<Record<StepKind, Measure>> = { grew: "gain", shrank: "loss", removed: "before" };

export interface Step {
	readonly kind: StepKind;
	readonly amount: number;
	readonly deals: DealList;
}

export interface Total {
	readonly amount: number;
	readonly deals: DealList;
}

export interface Bridge {
	readonly opening: Total;
	/** all kinds, in their order, empty ones too */
	readonly steps: readonly Step[];
	readonly closing: Total;
}

/**
 * The steps from the open pipeline of a period and scope on day A to that on day B (A < B).
 * Opening + entering + grew − shrank − leaving = closing, exactly, in base minor units.
 */
export function bridge(company: Ledger, dayA: Day, dayB: Day, period: Period, scope: Scope): Bridge {
	const { offsets, day, stage } = company.history;
	const count = company.deals.length;
	const open = Uint8Array.from(company.rules.stages, (s) => (s.kind === "open" ? 1 : 0));
	const amountOf = amountsBase(company, dayB);
	const isHere = membership(company, period, scope);
	const touched = new Touched();
	const opening = new DealList(touched, "before");
	const closing = new DealList(touched, "after");
	const lists = new Map(STEP_KINDS.map((kind) => [kind, new DealList(touched, MEASURES[kind] ?? "after")]));
	const [grew, shrank] = [lists.get("grew") as DealList, lists.get("shrank") as DealList];

	const settled = settledDays(company);
	for (let deal = 0; deal < count; deal++) {
		// Most deals were closed long ago and didn't change since: nothing more is read of them.
		if ((settled[deal] as number) <= dayA) continue;
		const first = offsets[deal] as number;
		const rowB = lastOn(day, first, offsets[deal + 1] as number, dayB);
		if (rowB < 0) continue;
		const openB = open[stage[rowB] as number] === 1;
		const unchanged = (day[rowB] as number) <= dayA;
		if (unchanged && !openB) continue;
		const inB = openB && isHere(rowB);
		if (unchanged) {
			if (!inB) continue;
			const amount = amountOf(rowB);
			const place = touched.add(deal, rowB, rowB, amount, amount);
			opening.put(place);
			closing.put(place);
			continue;
		}
		const rowA = lastOn(day, first, rowB, dayA);
		const inA = rowA >= 0 && open[stage[rowA] as number] === 1 && isHere(rowA);
		if (!inA && !inB && !leftUnseen(company, rowA, rowB, period, scope)) continue;

		const hereB = exists(company, rowB);
		const before = exists(company, rowA) ? amountOf(rowA) : 0;
		const after = hereB ? amountOf(rowB) : 0;
		const place = touched.add(deal, rowA, rowB, before, after);
		if (inA) opening.put(place);
		if (inB) closing.put(place);
		if (!inA) lists.get(enteringBy(company, rowA, period, scope))?.put(place);
		else if (hereB && after > before) grew.put(place);
		else if (hereB && after < before) shrank.put(place);
		if (!inB) lists.get(leavingBy(company, rowB, period, scope))?.put(place);
	}

	const total = (deals: DealList): Total => ({ amount: deals.amount, deals });
	return {
		opening: total(opening),
		steps: [...lists].map(([kind, deals]) => ({ kind, ...total(deals) })),
		closing: total(closing),
	};
}

const NEVER = 2 ** 31 - 1;
const settledBy = new WeakMap<Ledger["history"], { readonly stages: Ledger["rules"]["stages"]; readonly days: Int32Array }>();

/** For each deal the day since which it is closed or gone for good, by its last version; NEVER while it is open. Worked out once for a history. */
function settledDays({ history, rules, deals }: Ledger): Int32Array {
	const known = settledBy.get(history);
	if (known?.stages === rules.stages) return known.days;
	const days = new Int32Array(deals.length).fill(NEVER);
	for (let deal = 0; deal < deals.length; deal++) {
		const last = (history.offsets[deal + 1] as number) - 1;
		const has = last >= (history.offsets[deal] as number);
		if (!has || rules.stages[history.stage[last] as number]?.kind !== "open") days[deal] = has ? (history.day[last] as number) : -NEVER;
	}
	settledBy.set(history, { stages: rules.stages, days });
	return days;
}

/** In at neither end, yet won or lost in between: the period still saw it come and go. */
function leftUnseen(company: Ledger, rowA: number, rowB: number, period: Period, scope: Scope): boolean {
	if (!exists(company, rowB) || isOpen(company, rowB)) return false;
	if (exists(company, rowA) && !isOpen(company, rowA)) return false;
	const close = company.history.close[rowB] as number;
	return close !== NO_DAY && close >= period.start && close <= period.end && ownerIn(scope, company.history.owner[rowB] as number);
}

function leavingBy(company: Ledger, row: number, period: Period, scope: Scope): StepKind {
	if (!exists(company, row)) return "removed";
	const kind = company.rules.stages[company.history.stage[row] as number]?.kind;
	if (kind === "won" || kind === "lost") return kind;
	if (!ownerIn(scope, company.history.owner[row] as number)) return "handed-out";
	const close = company.history.close[row] as number;
	return close === NO_DAY || close > period.end ? "pushed-out" : "moved-earlier";
}

function enteringBy(company: Ledger, row: number, period: Period, scope: Scope): StepKind {
	if (!exists(company, row)) return "new";
	if (!isOpen(company, row)) return "reopened";
	if (!ownerIn(scope, company.history.owner[row] as number)) return "handed-in";
	const close = company.history.close[row] as number;
	// Open, ours and within the period would have been in at A; what is left is a close date outside it.
	return close === NO_DAY || close > period.end ? "pulled-in" : "rolled-in";
}

/** Opening + entering + grew − shrank − leaving: equal to the closing amount, always. */
export function closingBySteps(b: Bridge): number {
	const leaving = new Set<StepKind>(["shrank", ...LEAVING]);
	return b.steps.reduce((total, step) => total + (leaving.has(step.kind) ? -step.amount : step.amount), b.opening.amount);
}
