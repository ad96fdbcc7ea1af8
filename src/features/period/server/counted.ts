import type { Company } from "@/core/company";
import { type CountedByOwner, countByOwner, countedAgain, countedWithout, relitBetween } from "@/core/period/countByOwner";
import type { Day } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { whenPatched } from "@/data/organisation/follow";
import { processSingleton } from "@/data/processSingleton";
import { cached, cachedOf } from "@/platform/cached";
import type { Context } from "@/platform/context";
import { type Survey, surveyOn } from "@/platform/survey";

const KIND = "period";
const KEPT = 60;
/** After a write only what was looked at last is worth carrying on. */
const CARRIED = 24;

interface Counting {
	readonly counted: CountedByOwner;
	readonly survey: Survey;
	readonly period: Period;
	readonly ratesOn: Day;
}
/** Counts of a company before without the deals that changed since, with the survey they were made of. */
interface Rest extends Counting {
	readonly changed: ReadonlySet<number>;
}
const stale = processSingleton("stale counts", () => new WeakMap<Company, ReadonlyMap<string, Rest>>());

whenPatched(KIND, (from, to, changed) => {
	const carried = new Map<string, Rest>();
	const carry = (key: string, { counted, survey, period, ratesOn, changed: before }: Rest) => {
		if (carried.size >= CARRIED || carried.has(key)) return;
		const fresh = [...changed].filter((deal) => !before.has(deal));
		const rest = countedWithout(from, survey, period, ratesOn, counted, fresh);
		carried.set(key, { counted: rest, survey, period, ratesOn, changed: new Set([...before, ...changed]) });
	};
	for (const [key, counting] of cachedOf<Counting>(from, KIND)) carry(key, { ...counting, changed: new Set() });
	for (const [key, rest] of stale.get(from) ?? []) carry(key, rest);
	stale.set(to, carried);
});

/** What a period holds by owner, as seen on a day at the rates of another; kept with the company, and after a write made from the one before it. */
export function countedOn({ organisation: { company } }: Context, period: Period, day: Day, ratesOn: Day): CountedByOwner {
	const key = `${period.start} ${period.end} ${day} ${ratesOn}`;
	const make = (): Counting => {
		const survey = surveyOn(company, day);
		const rest = stale.get(company)?.get(key);
		const counted = rest
			? countedAgain(company, { earlier: rest.survey, survey, relit: relitSince(rest.survey, survey) }, period, ratesOn, rest.counted, rest.changed)
			: countByOwner(company, survey, period, ratesOn);
		return { counted, survey, period, ratesOn };
	};
	return cached(company, KIND, key, make, KEPT).counted;
}

/** Kept with the later survey: all counts of a day ask the same. */
function relitSince(earlier: Survey, survey: Survey): readonly number[] {
	const kept = cached(survey, "relit", "", () => ({ earlier, deals: relitBetween(earlier, survey) }));
	return kept.earlier === earlier ? kept.deals : relitBetween(earlier, survey);
}
