import { config } from "@/config/config";
import { type Day, parseDay } from "@/core/time/day";
import { makeZone, type Zone } from "@/core/time/zone";
import type { Sql } from "@/data/db";
import type { OrganisationState } from "@/data/organisation/state";
import { organisationSettings } from "@/data/schema";

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
export function clock({ company, heldToday }: OrganisationState): Now {
	return now(company.rules.zone, heldToday);
}

function now(zone: Zone, heldToday: Day | null): Now {
	const real = Date.now();
	const { PORCH_LAMP_TODAY: given } = config();
	const fixed = given ? parseDay(given) : null;
	const day = fixed ?? heldToday;
	if (day === null) return { instant: real, day: zone.dayOf(real), held: false };
	const today = zone.dayOf(real);
	const ofDay = real - zone.instantAt(today, 0);
	return { instant: zone.instantAt(day, Math.min(ofDay, 86_399_999)), day, held: true };
}

/** The same instant for who hasn't the organisation in memory: by its settings as they stand in the database. */
export async function instantNow(db: Sql): Promise<number> {
	const [row] = await db.select({ zone: organisationSettings.timeZone, today: organisationSettings.today }).from(organisationSettings);
	return now(makeZone(row?.zone ?? "Europe/Berlin"), row?.today ? parseDay(row.today) : null).instant;
}
