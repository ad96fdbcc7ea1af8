import { derive, keyOf } from "@/core/derive";
import { addUpByOwner, type CountedByOwner, countByOwner, packCounts } from "@/core/period/countByOwner";
import { type SeenBlock, surveyOn } from "@/core/survey";
import type { Day } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import type { Context } from "@/platform/context";

const KEPT = 60;

/** What a period holds by owner, as seen on a day at the rates of another: block by block, and added up. */
export function countedOn({ organisation: { company } }: Pick<Context, "organisation">, period: Period, day: Day, ratesOn: Day): CountedByOwner {
	const key = keyOf(period.start, period.end, day, ratesOn);
	return derive(
		company,
		"period counted",
		key,
		() => {
			const survey = surveyOn(company, day);
			const inBlock = (seen: SeenBlock) =>
				derive(seen, "period counted in a block", keyOf(key, company.rules), () => packCounts(countByOwner(company, seen, period, ratesOn)), KEPT);
			return addUpByOwner(survey.blocks.map(inBlock), company.people.length);
		},
		KEPT,
	);
}
