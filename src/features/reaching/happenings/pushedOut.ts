import { formatDay, NO_DAY } from "@/core/time/day";
import { quarterOf } from "@/core/time/period";
import { dealsThat } from "./dealChanges";
import { dayWords, happening, NEVER } from "./happening";

/** A deal's close date leaves the quarter it was due in. */
export const pushedOut = happening({
	kind: "pushed-out",
	label: "a deal is pushed out of the period",
	usual: NEVER,
	find: (scan) =>
		dealsThat(scan, (was, is) => {
			if (is.status !== "open" || was.close === NO_DAY || is.close === NO_DAY || is.close <= was.close) return null;
			const { end } = quarterOf(was.close, scan.context.organisation.company.rules.fiscal);
			return is.close > end ? { was: formatDay(was.close), is: formatDay(is.close) } : null;
		}),
	say: ({ deal, was, is }) => `${deal}: pushed from ${dayWords(was)} to ${dayWords(is)}, out of its period`,
});
