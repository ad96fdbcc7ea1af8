import type { Company } from "@/core/company";
import type { Norms } from "@/core/flags/rule";
import { type DealSeen, inspect, normsOn } from "@/core/inspect";
import type { Day } from "@/core/time/day";

/** All deals of the organisation seen on a day, by index; null for those that weren't there. */
export interface Survey {
	readonly norms: Norms;
	readonly deals: readonly (DealSeen | null)[];
}

const kept = new WeakMap<Company, Map<Day, Survey>>();
const DAYS_KEPT = 8;

/** A survey is kept with the company it was made of, so that it never outlives a write. */
export function surveyOn(company: Company, day: Day): Survey {
	const days = kept.get(company) ?? new Map<Day, Survey>();
	kept.set(company, days);
	const known = days.get(day);
	if (known) return known;
	const norms = normsOn(company, day);
	const survey = { norms, deals: company.deals.map((_, deal) => inspect(company, deal, norms)) };
	if (days.size >= DAYS_KEPT) days.delete(days.keys().next().value as Day);
	days.set(day, survey);
	return survey;
}
