import type { Company } from "../company";
import { flagsOnDay } from "../flagsOnDay";
import type { Day } from "../time/day";

/** so many days are looked back */
const LOOKED_BACK = 1500;

/**
 * The day each flag of a deal lit: the first day-end since which it has fired without a break up to the seen
 * day, by code, under today's settings. Walks back day by day; whether a rule fires never depends on the
 * amounts of other deals, so the norms of those days needn't be whole. What has fired for four years is told as from then.
 */
export function litSince(company: Company, deal: number, seen: Day, codes: readonly string[]): Map<string, Day> {
	const since = new Map<string, Day>();
	let pending = [...codes];
	for (let day = seen; pending.length; day--) {
		if (seen - day >= LOOKED_BACK) {
			for (const code of pending) since.set(code, day);
			break;
		}
		const burning = flagsOnDay(company, deal, day - 1).codes;
		for (const code of pending) if (!burning.has(code)) since.set(code, day);
		pending = pending.filter((code) => burning.has(code));
	}
	return since;
}
