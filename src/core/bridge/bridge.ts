import type { Ledger, LedgerBlock } from "../company";
import { derived } from "../derive";
import { BLOCK_SIZE, firstRow, lastOn } from "../history/columns";
import { blockAmounts } from "../inspect";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";
import { ChangeSet, DealList } from "./parts";
import { exists, isOpen, membership, ownerIn, type Scope } from "./scope";
import { type BridgeStep, type Changing, type Entering, type Leaving, type Standing, takesAway } from "./step";
import { STEPS, type StepKind, stepOf } from "./steps";

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
	/** lost from outside the period: a closing sets the close date to its day. In no step, told beside the bridge. */
	readonly lostOutside: Total;
}

/**
 * The steps from the open pipeline of a period and scope on day A to that on day B (A < B).
 * Opening + entering + grew − shrank − leaving = closing, exactly, in base minor units.
 */
export function bridge(company: Ledger, dayA: Day, dayB: Day, period: Period, scope: Scope): Bridge {
	// Long: one pass over all deals, spelt out for speed.
	const open = Uint8Array.from(company.rules.stages, (s) => (s.kind === "open" ? 1 : 0));
	const amountOf = blockAmounts(company, dayB);
	const isHere = membership(company, period, scope);
	const touched = new ChangeSet();
	const opening = new DealList(touched, "before");
	const closing = new DealList(touched, "after");
	const lostOutside = new DealList(touched, "after");
	const listed = (steps: readonly BridgeStep<StepKind>[]) => steps.map((step) => ({ ...step, deals: new DealList(touched, step.measure ?? "after") }));
	const lists = listed(STEPS);
	const [entering, leaving] = [lists.filter(isWayIn), lists.filter(isWayOut)];
	const changing = lists.filter(isChange);
	const stand = standings(company, period, scope);

	const { blocks } = company.history;
	for (let at = 0; at < blocks.length; at++) {
		const block = blocks[at] as LedgerBlock;
		const { offsets, day, stage } = block;
		const settled = settledDays(block, company.rules.stages);
		for (let own = 0; own < settled.length; own++) {
			// Most deals were closed long ago and didn't change since: nothing more is read of them.
			if ((settled[own] as number) <= dayA) continue;
			const first = offsets[own] as number;
			const rowB = lastOn(day, first, offsets[own + 1] as number, dayB);
			if (rowB < 0) continue;
			const openB = open[stage[rowB] as number] === 1;
			const unchanged = (day[rowB] as number) <= dayA;
			if (unchanged && !openB) continue;
			const inB = openB && isHere(block, rowB);
			const deal = at * BLOCK_SIZE + own;
			if (unchanged) {
				if (!inB) continue;
				const amount = amountOf(block, rowB);
				const place = touched.add(deal, rowB, rowB, amount, amount);
				opening.put(place);
				closing.put(place);
				continue;
			}
			const rowA = lastOn(day, first, rowB, dayA);
			const inA = rowA >= 0 && open[stage[rowA] as number] === 1 && isHere(block, rowA);
			if (!inA && !inB && !leftUnseen(company, block, rowA, rowB, period, scope)) continue;

			const hereB = exists(company, block, rowB);
			const before = exists(company, block, rowA) ? amountOf(block, rowA) : 0;
			const after = hereB ? amountOf(block, rowB) : 0;
			const place = touched.add(deal, rowA, rowB, before, after);
			if (inA) opening.put(place);
			if (inB) closing.put(place);
			if (!inA && !inB && wasLostOutside(company, block, deal, rowB, period)) {
				lostOutside.put(place);
				continue;
			}
			if (!inA) put(entering, stand(block, rowA), place);
			else if (hereB) for (const step of changing) if (step.holds(before, after)) step.deals.put(place);
			if (!inB) put(leaving, stand(block, rowB), place);
		}
	}

	const total = (deals: DealList): Total => ({ amount: deals.amount, deals });
	return {
		opening: total(opening),
		steps: lists.map(({ kind, deals }) => ({ kind, ...total(deals) })),
		closing: total(closing),
		lostOutside: total(lostOutside),
	};
}

const NEVER = 2 ** 31 - 1;

/** For each deal of a block the day since which it is closed or gone for good, by its last version; NEVER while it is open. Worked out once for a block. */
const settledDays = derived("settled days", ({ offsets, stage, day }: LedgerBlock, stages: Ledger["rules"]["stages"]): Int32Array => {
	const days = new Int32Array(offsets.length - 1).fill(NEVER);
	for (let own = 0; own < days.length; own++) {
		const last = (offsets[own + 1] as number) - 1;
		const has = last >= (offsets[own] as number);
		if (!has || stages[stage[last] as number]?.kind !== "open") days[own] = has ? (day[last] as number) : -NEVER;
	}
	return days;
});

/** In at neither end, yet won or lost in between, with its closing in the period. */
function leftUnseen(company: Ledger, block: LedgerBlock, rowA: number, rowB: number, period: Period, scope: Scope): boolean {
	if (!exists(company, block, rowB) || isOpen(company, block, rowB)) return false;
	if (exists(company, block, rowA) && !isOpen(company, block, rowA)) return false;
	const close = block.close[rowB] as number;
	return close !== NO_DAY && close >= period.start && close <= period.end && ownerIn(scope, block.owner[rowB] as number);
}

/** Whether a deal that is closed at a version was lost, and its last open state by day-ends lay outside the period. */
export function wasLostOutside({ rules }: Pick<Ledger, "rules">, block: LedgerBlock, deal: number, row: number, period: Period): boolean {
	const { stage, day, close } = block;
	const kindAt = (at: number) => rules.stages[stage[at] as number]?.kind;
	if (kindAt(row) !== "lost") return false;
	for (let at = row - 1; at >= firstRow(block, deal); at--) {
		// Only the last version of a day counts.
		if (day[at] === day[at + 1] || kindAt(at) !== "open") continue;
		const due = close[at] as number;
		return due === NO_DAY || due < period.start || due > period.end;
	}
	return false;
}

type Listed<S extends BridgeStep> = S & { readonly deals: DealList };
const isWayIn = (step: Listed<BridgeStep<StepKind>>): step is Listed<Entering<StepKind>> => step.way === "in";
const isWayOut = (step: Listed<BridgeStep<StepKind>>): step is Listed<Leaving<StepKind>> => step.way === "out";
const isChange = (step: Listed<BridgeStep<StepKind>>): step is Listed<Changing<StepKind>> => step.way === "up" || step.way === "down";

/** Puts a deal into the one step that holds of how it stands. */
function put(steps: readonly Listed<Entering | Leaving>[], standing: Standing, place: number): void {
	for (const step of steps) {
		if (!step.holds(standing)) continue;
		step.deals.put(place);
		return;
	}
}

/** How deals stand at a version (row). The answer is one object, written anew each time: read it at once. */
function standings({ rules }: Ledger, period: Period, scope: Scope): (block: LedgerBlock, row: number) => Standing {
	const standing: Standing = { exists: false, kind: undefined, ours: false, close: "none" };
	return (block, row) => {
		standing.kind = row < 0 ? undefined : rules.stages[block.stage[row] as number]?.kind;
		standing.exists = standing.kind !== undefined;
		standing.ours = standing.exists && ownerIn(scope, block.owner[row] as number);
		const close = standing.exists ? (block.close[row] as number) : NO_DAY;
		standing.close = close === NO_DAY ? "none" : close < period.start ? "before" : close > period.end ? "after" : "within";
		return standing;
	};
}

/** Opening + entering + grew − shrank − leaving: equal to the closing amount, always. */
export function closingBySteps(b: Bridge): number {
	return b.steps.reduce((total, step) => total + (takesAway(stepOf(step.kind)) ? -step.amount : step.amount), b.opening.amount);
}
