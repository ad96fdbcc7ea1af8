import type { Company } from "../company";
import { FIELDS } from "../deal/fields";
import type { FieldKey, FieldValue } from "../deal/state";
import type { DealSeen } from "../dealSeen";
import type { Norms } from "../flags/rule";
import { asOf, blockOf } from "../history/columns";
import { inspect } from "../inspect";
import { exists } from "./scope";

export interface FieldChange {
	readonly field: FieldKey;
	/** as the field's `at` gives it: stage by name, amount in minor units, days ISO, owner by index */
	readonly before: FieldValue;
	readonly after: FieldValue;
}

/** What differs in one deal between two moments. */
export interface DealChange {
	readonly deal: number;
	readonly fields: readonly FieldChange[];
	readonly before: DealSeen | null;
	readonly after: DealSeen | null;
	/** codes of flags that fire only at the later moment, and only at the earlier */
	readonly lit: readonly string[];
	readonly wentOut: readonly string[];
}

/** Each field that differs between two versions (rows) of a deal; none when the deal wasn't there at one of them. */
export function fieldChanges(company: Company, deal: number, rowA: number, rowB: number): FieldChange[] {
	const block = blockOf(company.history, deal);
	if (!exists(company, block, rowA) || !exists(company, block, rowB) || rowA === rowB) return [];
	return FIELDS.flatMap(({ key, at }) => {
		const [before, after] = [at(company, block, rowA), at(company, block, rowB)];
		return before === after ? [] : [{ field: key, before, after }];
	});
}

/** One deal between the days of two norms, A before B: fields, attention, strength and flags. */
export function compareDeal(company: Company, deal: number, normsA: Norms, normsB: Norms): DealChange {
	const before = inspect(company, deal, normsA);
	const after = inspect(company, deal, normsB);
	const codes = (seen: DealSeen | null) => (seen?.flags ?? []).map((flag) => flag.code);
	const [had, has] = [codes(before), codes(after)];
	return {
		deal,
		fields: fieldChanges(company, deal, asOf(company.history, deal, normsA.day), asOf(company.history, deal, normsB.day)),
		before,
		after,
		lit: has.filter((code) => !had.includes(code)),
		wentOut: had.filter((code) => !has.includes(code)),
	};
}
