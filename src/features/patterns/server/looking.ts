import type { Looking } from "./book";

export const USUAL_LOOK: Looking = { quarters: 4, lead: 20 };
export const MOST_QUARTERS = 8;
export const MOST_LEAD = 120;

/** A whole number of an address within bounds; the usual one where it says none that can be read. */
const numberAsked = (text: string | undefined, usual: number, least: number, most: number) =>
	/^\d{1,3}$/.test(text ?? "") ? Math.min(most, Math.max(least, Number(text))) : usual;

/** How far back an address looks, and how many working days before each end. */
export const lookAsked = ({ quarters, lead }: { quarters?: string | undefined; lead?: string | undefined }): Looking => ({
	quarters: numberAsked(quarters, USUAL_LOOK.quarters, 1, MOST_QUARTERS),
	lead: numberAsked(lead, USUAL_LOOK.lead, 0, MOST_LEAD),
});
