import { type Day, parseDay } from "@/core/time/day";
import type { OrganisationState } from "@/data/organisation/state";

export interface Now {
	/** ms since the epoch */
	readonly instant: number;
	/** the organisation's day */
	readonly day: Day;
	/** the day is held by the environment or by the organisation, and doesn't pass */
	readonly held: boolean;
}

/**
 * The one clock. PORCH_LAMP_TODAY holds the day, and so does the organisation's own setting (that of the
 * demo company); the time of day always passes.
 */
export function clock(organisation: OrganisationState): Now {
	const real = Date.now();
	const { zone } = organisation.company.rules;
	const fixed = process.env.PORCH_LAMP_TODAY ? parseDay(process.env.PORCH_LAMP_TODAY) : null;
	const day = fixed ?? organisation.heldToday;
	if (day === null) return { instant: real, day: zone.dayOf(real), held: false };
	const today = zone.dayOf(real);
	const ofDay = real - zone.instantAt(today, 0);
	return { instant: zone.instantAt(day, Math.min(ofDay, 86_399_999)), day, held: true };
}
