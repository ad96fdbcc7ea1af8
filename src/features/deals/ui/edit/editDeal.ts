import type { DealState } from "@/core/deal/state";

/** A deal as far as an edit needs it: its state as written, and the version that was seen. */
export interface EditDeal {
	readonly id: string;
	readonly name: string;
	readonly versionId: number;
	readonly state: DealState;
}

interface Shown {
	readonly id: string;
	readonly name: string;
	readonly versionId: number;
	readonly stage: string;
	/** minor units of its own currency */
	readonly ownAmount: number | null;
	readonly ownCurrency: string;
	readonly close: string | null;
	readonly ownerId: string | null;
	readonly category: string | null;
	readonly nextStep: string | null;
	readonly nextStepDate: string | null;
}

/** What an edit needs of a deal as lists and sheets show it. */
export const editDealOf = ({ id, name, versionId, ownAmount, ownCurrency, close, ...rest }: Shown): EditDeal => ({
	id,
	name,
	versionId,
	state: {
		stage: rest.stage,
		amount: ownAmount,
		currency: ownCurrency,
		closeDate: close,
		ownerId: rest.ownerId,
		category: rest.category,
		nextStep: rest.nextStep,
		nextStepDate: rest.nextStepDate,
	},
});
