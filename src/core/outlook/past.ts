import type { Company } from "../company";
import type { DealSeen } from "../dealSeen";
import { categoryOf } from "../inspect";
import type { Due } from "../patterns/due";
import type { Looked } from "../patterns/quarters";
import type { Kind } from "./chance";

const MANY_PUSHES = 2;

/** What a deal is compared by. */
export const kindOf = (company: Company, seen: DealSeen): Kind => [
	seen.stageIndex,
	categoryOf(company, seen) ?? "",
	seen.ownLevel,
	Math.min(MANY_PUSHES, seen.trail.pushes),
];

/** A past period with all that is needed of it. */
export interface Past extends Looked {
	readonly due: readonly (Due & { readonly kind: Kind })[];
	/** Σ amounts of the won comparables: when won, and on the day looked at */
	readonly whenWon: number;
	readonly whenSeen: number;
	readonly rest: number;
	/** won of the scope in the period, as seen on the day looked at and at its end */
	readonly wonBefore: number;
	readonly wonAfter: number;
}
