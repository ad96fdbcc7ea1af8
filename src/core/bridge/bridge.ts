import type { Company } from "../company";
import { asOf } from "../history/columns";
import { amountBaseOf } from "../inspect";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";
import { exists, isIn, isOpen, ownerIn, type Scope } from "./scope";

export const ENTERING = ["new", "reopened", "handed-in", "rolled-in", "pulled-in"] as const;
export const LEAVING = ["pushed-out", "moved-earlier", "handed-out", "removed", "won", "lost"] as const;
export const STEP_KINDS = [...ENTERING, "grew", "shrank", ...LEAVING] as const;
export type StepKind = (typeof STEP_KINDS)[number];

/** One deal's part in a step. Rows are −1 where there was no version; amounts are base minor units. */
export interface StepDeal {
	readonly deal: number;
	readonly rowA: number;
	readonly rowB: number;
	/** at A and at B, both at the rates of B */
	readonly before: number;
	readonly after: number;
	/** what it adds to the step, never negative for amounts that aren't */
	readonly amount: number;
}

export interface Step {
	readonly kind: StepKind;
	readonly amount: number;
	readonly deals: readonly StepDeal[];
}

export interface Total {
	readonly amount: number;
	readonly deals: readonly StepDeal[];
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
export function bridge(company: Company, dayA: Day, dayB: Day, period: Period, scope: Scope): Bridge {
	const { history } = company;
	const lists = new Map<StepKind, StepDeal[]>(STEP_KINDS.map((kind) => [kind, []]));
	const opening: StepDeal[] = [];
	const closing: StepDeal[] = [];

	for (let deal = 0; deal < company.deals.length; deal++) {
		const rowB = asOf(history, deal, dayB);
		if (rowB < 0) continue;
		const rowA = asOf(history, deal, dayA);
		const inA = isIn(company, rowA, period, scope);
		const inB = isIn(company, rowB, period, scope);
		const passedThrough = !inA && !inB && leftUnseen(company, rowA, rowB, period, scope);
		if (!inA && !inB && !passedThrough) continue;

		const before = exists(company, rowA) ? amountBaseOf(company, rowA, dayB) : 0;
		const after = exists(company, rowB) ? amountBaseOf(company, rowB, dayB) : 0;
		const put = (kind: StepKind, amount: number) => lists.get(kind)?.push({ deal, rowA, rowB, before, after, amount });

		if (inA) opening.push({ deal, rowA, rowB, before, after, amount: before });
		if (inB) closing.push({ deal, rowA, rowB, before, after, amount: after });
		if (inA) {
			const removed = !exists(company, rowB);
			if (!removed && after > before) put("grew", after - before);
			if (!removed && after < before) put("shrank", before - after);
			if (!inB) put(leavingBy(company, rowB, period, scope), removed ? before : after);
		} else {
			put(enteringBy(company, rowA, period, scope), after);
			if (!inB) put(company.rules.stages[history.stage[rowB] as number]?.kind === "won" ? "won" : "lost", after);
		}
	}

	const sum = (deals: readonly StepDeal[]) => deals.reduce((total, d) => total + d.amount, 0);
	return {
		opening: { amount: sum(opening), deals: opening },
		steps: STEP_KINDS.map((kind) => {
			const deals = lists.get(kind) ?? [];
			return { kind, amount: sum(deals), deals };
		}),
		closing: { amount: sum(closing), deals: closing },
	};
}

/** In at neither end, yet won or lost in between: the period still saw it come and go. */
function leftUnseen(company: Company, rowA: number, rowB: number, period: Period, scope: Scope): boolean {
	if (!exists(company, rowB) || isOpen(company, rowB)) return false;
	if (exists(company, rowA) && !isOpen(company, rowA)) return false;
	const close = company.history.close[rowB] as number;
	return close !== NO_DAY && close >= period.start && close <= period.end && ownerIn(scope, company.history.owner[rowB] as number);
}

function leavingBy(company: Company, row: number, period: Period, scope: Scope): StepKind {
	if (!exists(company, row)) return "removed";
	const kind = company.rules.stages[company.history.stage[row] as number]?.kind;
	if (kind === "won" || kind === "lost") return kind;
	if (!ownerIn(scope, company.history.owner[row] as number)) return "handed-out";
	const close = company.history.close[row] as number;
	return close === NO_DAY || close > period.end ? "pushed-out" : "moved-earlier";
}

function enteringBy(company: Company, row: number, period: Period, scope: Scope): StepKind {
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
