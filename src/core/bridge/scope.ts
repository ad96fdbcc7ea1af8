import type { Ledger, LedgerBlock } from "../company";
import { NONE } from "../history/columns";
import { NO_DAY } from "../time/day";
import type { Period } from "../time/period";

/** Whose deals: everyone's, unowned ones too (`null`), or those of a set of people by index. */
export type Scope = ReadonlySet<number> | null;

/**
 * Whether deals of an owner (index, or NONE) belong to a scope; null is everyone.
 *
 * @example [ownerIn(null, -1), ownerIn(new Set([3]), 3), ownerIn(new Set([3]), -1)] // [true, true, false]
 */
export function ownerIn(scope: Scope, owner: number): boolean {
	return scope === null || (owner !== NONE && scope.has(owner));
}

/** Whether a deal is open at a row of its block; not at −1, where it isn’t there. */
export function isOpen({ rules }: Pick<Ledger, "rules">, block: Pick<LedgerBlock, "stage">, row: number): boolean {
	return row >= 0 && rules.stages[block.stage[row] as number]?.kind === "open";
}

/** The row says that the deal exists: it has a version, and was not taken off the books. */
export function exists({ rules }: Pick<Ledger, "rules">, block: Pick<LedgerBlock, "stage">, row: number): boolean {
	return row >= 0 && rules.stages[block.stage[row] as number] !== undefined;
}

/**
 * Whether a version closes within the period and belongs to the scope, open or not. Made once for many versions: a
 * scope of people becomes a byte a person.
 */
export function membership(
	{ people }: Pick<Ledger, "people">,
	period: Period,
	scope: Scope,
): (block: Pick<LedgerBlock, "close" | "owner">, row: number) => boolean {
	const { start, end } = period;
	// A byte for each person; the one beyond the last stands for no owner.
	const inScope = scope && Uint8Array.from({ length: people.length + 1 }, (_, person) => (scope.has(person) && person < people.length ? 1 : 0));
	return (block, row) => {
		const close = block.close[row] as number;
		if (close === NO_DAY || close < start || close > end) return false;
		if (!inScope) return true;
		const owner = block.owner[row] as number;
		return owner !== NONE && inScope[owner] === 1;
	};
}
