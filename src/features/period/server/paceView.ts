import { dayOfWorkingDay, paceOf, periodBefore, wonByWorkingDay, yearBefore } from "@/core/period/pace";
import { formatDay } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { periodWords } from "@/core/time/words";
import type { Context } from "@/platform/context";
import type { Viewpoint } from "@/platform/viewpoint";

/** The pace of a period as its page shows it, and what its headline tells of it. */
export function paceView(context: Context, viewpoint: Viewpoint, period: Period) {
	const { company } = context.organisation;
	const { calendar, fiscal } = company.rules;
	const { scope } = viewpoint.whose;
	const seen = viewpoint.seen.day;
	const pace = paceOf(company, period, scope, seen);
	const [before, year] = [periodBefore(period, fiscal), yearBefore(period)];
	const earlier = (one: Period) => wonByWorkingDay(company, one, scope, Math.min(one.end, seen), seen).amounts;
	return {
		told: {
			workingDay: pace.workingDay,
			workingDays: pace.workingDays,
			previous: pace.previous.won.amount,
			yearAgo: pace.yearAgo.won.amount,
			previousWords: periodWords(before),
		},
		view: {
			workingDay: pace.workingDay,
			workingDays: pace.workingDays,
			previous: pace.previous.won.amount,
			yearAgo: pace.yearAgo.won.amount,
			series: [
				{ key: "now" as const, label: periodWords(period), amounts: seen < period.start ? [] : wonByWorkingDay(company, period, scope, seen, seen).amounts },
				{ key: "previous" as const, label: periodWords(before), amounts: earlier(before) },
				{ key: "yearAgo" as const, label: periodWords(year), amounts: earlier(year) },
			],
			days: Array.from({ length: pace.workingDays + 1 }, (_, k) => formatDay(dayOfWorkingDay(calendar, period, k))),
		},
	};
}
