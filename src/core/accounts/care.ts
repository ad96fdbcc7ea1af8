import { type Day, NO_DAY } from "../time/day";

/** Why an account without a deal is worth a look: it has just begun to buy, buys less, wasn't spoken to, or was lost for a reason that has ended. */
export const CARE = ["new", "risk", "silent", "lost"] as const;
export type Care = (typeof CARE)[number];

/** How an account stands on a day. */
export interface CareOf {
	readonly isCustomer: boolean;
	/** the day of its first order; NO_DAY: none */
	readonly first: Day;
	/** section 14 says so */
	readonly atRisk: boolean;
	/** calendar days since the last contact; null: none in 365 days */
	readonly since: number | null;
	/** within so many days somebody is to be spoken to */
	readonly rhythm: number;
	/** the day on which one comes back to what was lost; NO_DAY: nothing was, or not for a reason that ends */
	readonly back: Day;
}

/** an account is new for so many calendar days after its first order */
export const NEW_FOR = 91;
/** what comes back within so many calendar days is looked at */
export const BACK_WITHIN = 28;

/** Why an account is worth a look on a day, in the order of `CARE`. Of those never spoken to in a year only customers are missed. */
export function careOf({ isCustomer, first, atRisk, since, rhythm, back }: CareOf, day: Day): Care[] {
	const is: Record<Care, boolean> = {
		new: first !== NO_DAY && day - first <= NEW_FOR,
		risk: atRisk,
		silent: since === null ? isCustomer : since > rhythm,
		lost: back !== NO_DAY && back - day <= BACK_WITHIN,
	};
	return CARE.filter((why) => is[why]);
}
