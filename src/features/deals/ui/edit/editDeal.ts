import { BLANK_STATE } from "@/core/deal/fields";
import type { DealState } from "@/core/deal/state";
import type { DealRow } from "../../table/row";

/** A deal as far as an edit needs it: its state as written, and the version that was seen. */
export interface EditDeal {
	readonly id: string;
	readonly name: string;
	readonly versionId: number;
	readonly state: DealState;
}

/** What an edit needs of a deal as the list shows it. */
export const editDealOf = ({
	id,
	name,
	versionId,
	ownAmount,
	ownCurrency,
	close,
	more,
	stage,
	ownerId,
	category,
	nextStep,
	nextStepDate,
}: DealRow): EditDeal => ({
	id,
	name,
	versionId,
	state: { ...BLANK_STATE, ...more, stage, amount: ownAmount, currency: ownCurrency, closeDate: close, ownerId, category, nextStep, nextStepDate },
});
