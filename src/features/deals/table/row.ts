import type { DealState } from "@/core/deal/state";
import type { Severity } from "@/core/flags/settings";
import type { StageKind } from "@/core/history/stage";

/** A value of a deal as a table shows it: amounts in base minor units, days ISO. */
export type Cell = string | number | null;

/** One line of the list of deals. Amounts in base minor units, days ISO. */
export interface DealRow {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly accountId: string | null;
	readonly owner: string;
	/** told apart from everybody else's */
	readonly ownerShort: string;
	readonly ownerId: string | null;
	/** false when nobody who works here owns it */
	readonly ownerActive: boolean;
	readonly stage: string;
	readonly rank: number;
	readonly stageAge: number;
	readonly usual: number;
	readonly usualLimit: number;
	/** how many of the won deals took no more than the limit, in words */
	readonly usualMost: string;
	readonly usualMeasured: boolean;
	readonly amount: number;
	readonly amountBlank: boolean;
	readonly weighted: number;
	/** what the amount changed by since the earlier moment; null when the deal is new since */
	readonly change: number | null;
	readonly close: string | null;
	/** the day it was won or lost; null while it is open */
	readonly status: StageKind;
	readonly closedOn: string | null;
	/** close dates of the trail with the day each was set, oldest first */
	readonly trail: readonly (readonly [close: string, set: string])[];
	readonly pushes: number;
	readonly category: string | null;
	readonly strength: number;
	readonly coverage: number;
	readonly expected: number;
	readonly gaps: number;
	readonly flags: readonly { readonly code: string; readonly label: string; readonly severity: Severity; readonly reason: string }[];
	/** codes of flags that lit since the earlier moment, and of those that went out */
	readonly newlyLit: readonly string[];
	readonly wentOut: readonly string[];
	readonly score: number;
	readonly level: string;
	/** the day until which it is left alone; null where it isn't */
	readonly restsTill: string | null;
	readonly nextStep: string | null;
	readonly nextStepDate: string | null;
	readonly lastTouch: string | null;
	/** who waits, and since when */
	readonly waiting: "they" | "we" | null;
	readonly dealAge: number;
	readonly created: string;
	/** chance of being won, 0 to 1, of its stage */
	readonly probability: number;
	/** working days to the close date; null without one */
	readonly runway: number | null;
	readonly ownAmount: number | null;
	readonly ownCurrency: string;
	/** the version seen; an edit names it */
	readonly versionId: number;
	readonly source: string | null;
	readonly competitor: string | null;
	readonly customer: string | null;
	readonly territory: string | null;
	readonly industry: string | null;
	readonly products: readonly string[];
	readonly families: readonly string[];
	readonly tags: readonly string[];
	/** versioned fields that the row doesn’t carry otherwise; absent where there are none */
	readonly more?: Partial<DealState>;
	/** figures of columns of their own, by the column's key */
	readonly figures: Readonly<Record<string, Cell>>;
}
