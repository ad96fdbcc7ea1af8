import type { Light } from "@/core/attention/attention";
import type { Company } from "@/core/company";
import { type Inspected, inspect, inspectAgain, normsOn } from "@/core/inspect";
import type { Day } from "@/core/time/day";
import { whenPatched } from "@/data/organisation/follow";
import { processSingleton } from "@/data/processSingleton";
import { cached, cachedOf } from "./cached";

/** All deals of the organisation seen on a day, by index; null for those that weren't there. */
export type Survey = Inspected;

/** How many open deals of a survey are at each level. */
export type Levels = Readonly<Record<Light, number>>;

/** How many open deals of a survey are at each level. */
export function levelsOf(survey: Survey): Levels {
	const levels: Record<Light, number> = { act: 0, watch: 0, calm: 0 };
	for (const seen of survey.deals) if (seen?.status === "open") levels[seen.attention.level]++;
	return levels;
}

const KIND = "survey";
const DAYS_KEPT = 8;

/** A survey of a company before, and the deals that changed since it was made. */
interface Stale {
	readonly survey: Survey;
	readonly changed: ReadonlySet<number>;
}
const stale = processSingleton("stale surveys", () => new WeakMap<Company, ReadonlyMap<string, Stale>>());

whenPatched(KIND, (from, to, changed) => {
	const carried = new Map<string, Stale>();
	for (const [day, survey] of cachedOf<Survey>(from, KIND)) carried.set(day, { survey, changed });
	for (const [day, old] of stale.get(from) ?? []) {
		if (carried.size < DAYS_KEPT && !carried.has(day)) carried.set(day, { survey: old.survey, changed: new Set([...old.changed, ...changed]) });
	}
	stale.set(to, carried);
});

/** The survey of a day: kept with the company it was made of, and after a write made from the one before it. */
export function surveyOn(company: Company, day: Day): Survey {
	return cached(company, KIND, String(day), () => surveyAgain(company, day) ?? surveyAnew(company, day), DAYS_KEPT);
}

function surveyAgain(company: Company, day: Day): Survey | null {
	const before = stale.get(company)?.get(String(day));
	return before ? inspectAgain(company, before.survey, before.changed) : null;
}

function surveyAnew(company: Company, day: Day): Survey {
	const norms = normsOn(company, day);
	return { norms, deals: company.deals.map((_, deal) => inspect(company, deal, norms)) };
}
