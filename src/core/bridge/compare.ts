import type { Company } from "../company";
import type { Norms } from "../flags/rule";
import { asOf, CATEGORIES, type History, NONE, nextStepOf } from "../history/columns";
import { type DealSeen, inspect } from "../inspect";
import { isoOrNull } from "../time/day";
import { exists } from "./scope";

export const COMPARED = ["stage", "amount", "currency", "closeDate", "owner", "category", "nextStep", "nextStepDate"] as const;
export type ComparedField = (typeof COMPARED)[number];
/** What each field is called on screens. */
export const FIELD_NAMES: Readonly<Record<ComparedField, string>> = {
	stage: "Stage",
	amount: "Amount",
	currency: "Currency",
	closeDate: "Close date",
	owner: "Owner",
	category: "Category",
	nextStep: "Next step",
	nextStepDate: "Next step’s day",
};
export type FieldValue = string | number | null;

export interface FieldChange {
	readonly field: ComparedField;
	/** stage by name, amount in minor units, days as ISO days, owner by index */
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

function fieldValue(company: Company, history: History, row: number, field: ComparedField): FieldValue {
	switch (field) {
		case "stage":
			return company.rules.stages[history.stage[row] as number]?.name ?? null;
		case "amount": {
			const amount = history.amount[row] as number;
			return Number.isNaN(amount) ? null : amount;
		}
		case "currency":
			return company.rules.currencies[history.currency[row] as number] ?? null;
		case "closeDate":
			return isoOrNull(history.close[row] as number);
		case "owner":
			return history.owner[row] === NONE ? null : (history.owner[row] as number);
		case "category":
			return CATEGORIES[history.category[row] as number] ?? null;
		case "nextStep":
			return nextStepOf(history, row) || null;
		case "nextStepDate":
			return isoOrNull(history.nextStepDay[row] as number);
	}
}

/** Each field that differs between two versions (rows); none when the deal wasn't there at one of them. */
export function fieldChanges(company: Company, rowA: number, rowB: number): FieldChange[] {
	if (!exists(company, rowA) || !exists(company, rowB) || rowA === rowB) return [];
	return COMPARED.flatMap((field) => {
		const before = fieldValue(company, company.history, rowA, field);
		const after = fieldValue(company, company.history, rowB, field);
		return before === after ? [] : [{ field, before, after }];
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
		fields: fieldChanges(company, asOf(company.history, deal, normsA.day), asOf(company.history, deal, normsB.day)),
		before,
		after,
		lit: has.filter((code) => !had.includes(code)),
		wentOut: had.filter((code) => !has.includes(code)),
	};
}
