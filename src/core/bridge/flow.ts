import type { Company } from "../company";
import { byId } from "../deal/order";
import { asOf, type Block, blockOf } from "../history/columns";
import { amountBaseOf } from "../inspect";
import type { Day } from "../time/day";
import type { Period } from "../time/period";
import { exists, membership, ownerIn, type Scope } from "./scope";

/** A place a deal can stand in: an open stage by name, or one of these. */
export type Place = string;
export const OUTSIDE_PLACES = { absent: "not yet there", outside: "outside the period", won: "won", lost: "lost" } as const;

export interface FlowCell {
	readonly from: Place;
	readonly to: Place;
	readonly count: number;
	/** base minor units at B, or at A for deals that are gone at B */
	readonly amount: number;
	readonly deals: readonly number[];
}

/**
 * The grid from place at A to place at B. A deal is counted when it is in the period and scope at one
 * end, or closed between them in scope; those outside at both ends are left out.
 */
export function stageFlow(company: Company, dayA: Day, dayB: Day, period: Period, scope: Scope): FlowCell[] {
	const isHere = membership(company, period, scope);
	const cells = new Map<string, { from: Place; to: Place; amount: number; deals: number[] }>();
	for (let deal = 0; deal < company.deals.length; deal++) {
		const rowB = asOf(company.history, deal, dayB);
		if (rowB < 0) continue;
		const rowA = asOf(company.history, deal, dayA);
		const block = blockOf(company.history, deal);
		const from = placeOf(company, block, rowA, isHere, scope);
		const to = placeOf(company, block, rowB, isHere, scope);
		if (!isStage(from) && !isStage(to)) continue;
		const key = `${from}\n${to}`;
		const cell = cells.get(key) ?? { from, to, amount: 0, deals: [] };
		cell.amount += amountBaseOf(company, block, exists(company, block, rowB) ? rowB : rowA, dayB);
		cell.deals.push(deal);
		cells.set(key, cell);
	}
	const order = byId(company);
	return [...cells.values()]
		.map((cell) => ({ ...cell, count: cell.deals.length, deals: cell.deals.sort(order) }))
		.sort((a, b) => order(a.deals[0] as number, b.deals[0] as number));
}

const isStage = (place: Place) => !(Object.values(OUTSIDE_PLACES) as string[]).includes(place);

function placeOf(company: Company, block: Block, row: number, isHere: ReturnType<typeof membership>, scope: Scope): Place {
	if (!exists(company, block, row)) return OUTSIDE_PLACES.absent;
	const stage = company.rules.stages[block.stage[row] as number];
	if (!stage || !ownerIn(scope, block.owner[row] as number)) return OUTSIDE_PLACES.outside;
	if (stage.kind !== "open") return stage.kind === "won" ? OUTSIDE_PLACES.won : OUTSIDE_PLACES.lost;
	return isHere(block, row) ? stage.name : OUTSIDE_PLACES.outside;
}
