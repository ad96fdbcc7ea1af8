import type { Ledger, LedgerBlock } from "../company";
import { BLOCK_SIZE, firstRow, lastOn } from "../history/columns";
import { blockAmounts } from "../inspect";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";
import { type Candidates, candidates, SEVERAL } from "./extent";
import { ChangeSet, DealList } from "./parts";
import { exists, isOpen, membership, ownerIn, type Scope } from "./scope";
import { STANDINGS, standingIn } from "./standing";
import { type BridgeStep, type Changing, type Entering, type Leaving, takesAway } from "./step";
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
	const [entering, leaving] = [byStanding(lists.filter(isWayIn)), byStanding(lists.filter(isWayOut))];
	const changing = lists.filter(isChange);
	const stand = standingIn(company, period, scope);
	const maybeOurs = ownersOf(company, scope);

	const { blocks } = company.history;
	// Most deals were closed long ago and didn't change since, or were never due in the period: no version of them is read.
	const met = candidates(company, dayA, period);
	for (let at = 0; at < blocks.length; at++) {
		const block = blocks[at] as LedgerBlock;
		const { offsets, day, stage } = block;
		const { own: places, last, owner } = met[at] as Candidates;
		for (let i = 0; i < places.length; i++) {
			if (maybeOurs && maybeOurs[(owner[i] as number) - SEVERAL] === 0) continue;
			const own = places[i] as number;
			const first = offsets[own] as number;
			const end = offsets[own + 1] as number;
			const rowB = (last[i] as number) <= dayB ? end - 1 : lastOn(day, first, end, dayB);
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
			if (!inA) entering[stand(block, rowA)]?.put(place);
			else if (hereB) for (const step of changing) if (step.holds(before, after)) step.deals.put(place);
			if (!inB) leaving[stand(block, rowB)]?.put(place);
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

/** A byte for what an extent says of owners, from SEVERAL on: whether deals of such may belong to a scope. */
const ownersOf = ({ people }: Pick<Ledger, "people">, scope: Scope): Uint8Array | null =>
	scope && Uint8Array.from({ length: people.length - SEVERAL }, (_, i) => (i + SEVERAL === SEVERAL || ownerIn(scope, i + SEVERAL) ? 1 : 0));

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

/** For each way of standing the deals of the one step that holds of it. */
const byStanding = (steps: readonly Listed<Entering | Leaving>[]) => STANDINGS.map((standing) => steps.find((step) => step.holds(standing))?.deals);

/** Opening + entering + grew − shrank − leaving: equal to the closing amount, always. */
export function closingBySteps(b: Bridge): number {
	return b.steps.reduce((total, step) => total + (takesAway(stepOf(step.kind)) ? -step.amount : step.amount), b.opening.amount);
}
