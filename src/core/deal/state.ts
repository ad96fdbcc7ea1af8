/** A deal's state as versions keep it; amounts in minor units of the currency beside them, days as ISO days. */
export interface DealState {
	/** null: taken off the books */
	readonly stage: string | null;
	readonly amount: number | null;
	readonly currency: string | null;
	readonly closeDate: string | null;
	readonly ownerId: string | null;
	readonly category: string | null;
	readonly nextStep: string | null;
	readonly nextStepDate: string | null;
}
export type FieldKey = keyof DealState;
export type FieldValue = string | number | null;
