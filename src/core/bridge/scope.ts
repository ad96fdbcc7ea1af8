import type { Company } from "../company";
import { NONE } from "../history/columns";
import { NO_DAY } from "../time/day";
import type { Period } from "../time/period";

/** Whose deals: everyone's, unowned ones too (`null`), or those of a set of people by index. */
export type Scope = ReadonlySet<number> | null;

export function ownerIn(scope: Scope, owner: number): boolean {
	return scope === null || (owner !== NONE && scope.has(owner));
}

export function isOpen(company: Company, row: number): boolean {
	return row >= 0 && company.rules.stages[company.history.stage[row] as number]?.kind === "open";
}

/** The row says that the deal exists: it has a version, and was not taken off the books. */
export function exists(company: Company, row: number): boolean {
	return row >= 0 && company.rules.stages[company.history.stage[row] as number] !== undefined;
}

/** in(v): it exists, is open, closes within the period and belongs to the scope. */
export function isIn(company: Company, row: number, period: Period, scope: Scope): boolean {
	if (!isOpen(company, row)) return false;
	const close = company.history.close[row] as number;
	return close !== NO_DAY && close >= period.start && close <= period.end && ownerIn(scope, company.history.owner[row] as number);
}
