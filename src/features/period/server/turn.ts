import { ownerIn } from "@/core/bridge/scope";
import { lastPeriods } from "@/core/patterns/quarters";
import { worksOn } from "@/core/people/person";
import { countedOf } from "@/core/period/countByOwner";
import { madeWithin } from "@/core/period/madeWithin";
import { dayOfWorkingDay, periodBefore, workingDayOf } from "@/core/period/pace";
import { targetOf } from "@/core/period/target";
import { formatDay } from "@/core/time/day";
import { formatRange, type Period, quarterOf } from "@/core/time/period";
import { periodWords } from "@/core/time/words";
import type { Context } from "@/platform/context";
import { chosenName } from "@/platform/names";
import type { Viewpoint } from "@/platform/viewpoint";
import { countedOn } from "./counted";

/** What a period begins with: said on its first days. */
export interface Turn {
	/** how the one before ended, base minor units; null where nothing is known of it */
	readonly last: { readonly key: string; readonly label: string; readonly won: number; readonly count: number; readonly target: number | null } | null;
	/** reps without a target for the period, of how many */
	readonly missing: { readonly names: readonly string[]; readonly of: number };
	/** the day by which deals are to be made so as to be won in it, from what was made and won within one in the past */
	readonly made: { readonly by: string; readonly wins: number; readonly periods: number; readonly all: boolean } | null;
}

/** so many working days a period counts as just begun */
const FIRST_DAYS = 10;
/** so many past quarters are looked at */
const BACK = 8;

/** What the period has to be told of at its beginning; null on other days. */
export function turnOf(context: Context, viewpoint: Viewpoint, period: Period): Turn | null {
	const { organisation } = context;
	const { company } = organisation;
	const { rates, calendar, fiscal } = company.rules;
	const seen = viewpoint.seen.day;
	const { scope } = viewpoint.whose;
	if (seen < period.start || seen > period.end || workingDayOf(calendar, period, seen) > FIRST_DAYS) return null;
	const target = (one: Period, people: typeof scope) => targetOf(organisation.targets, one, people, rates, seen);
	const before = periodBefore(period, fiscal);
	const { won, lost, open } = countedOf(countedOn(context, before, seen, seen), scope);
	const reps = organisation.people.flatMap((person, i) => (person.role === "rep" && ownerIn(scope, i) && worksOn(person, seen) ? [i] : []));
	const without = reps.filter((i) => target(period, new Set([i])) === null);
	return {
		last:
			won.count + lost.count + open.count
				? { key: formatRange(before), label: periodWords(before), won: won.amount, count: won.count, target: target(before, scope) }
				: null,
		missing: { names: without.map((i) => chosenName(organisation, i)), of: reps.length },
		made: madeBy(context, period, seen),
	};
}

/** Only of a whole quarter: what was made and won within other spans says nothing of it. */
function madeBy({ organisation: { company } }: Context, period: Period, seen: number): Turn["made"] {
	const { calendar, fiscal } = company.rules;
	const quarter = quarterOf(period.start, fiscal);
	if (quarter.start !== period.start || quarter.end !== period.end) return null;
	const past = lastPeriods(company, "quarter", seen, BACK, 0).map((one) => one.period);
	const { wins, periods, workingDay, all } = madeWithin(company, past, seen);
	return workingDay === null ? null : { by: formatDay(dayOfWorkingDay(calendar, period, workingDay)), wins, periods, all };
}
