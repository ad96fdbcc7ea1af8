import { NO_DAY } from "@/core/time/day";
import { quarterOf } from "@/core/time/period";
import { shortDay } from "@/core/time/words";
import { dealsThat } from "./dealChanges";
import { happening, NEVER } from "./happening";

/** A deal's close date leaves the quarter it was due in. */
export const pushedOut = happening({
	kind: "pushed-out",
	words: "a deal is pushed out of the period",
	usual: NEVER,
	find: (scan) =>
		dealsThat(scan, (was, is) => {
			if (is.status !== "open" || was.close === NO_DAY || is.close === NO_DAY || is.close <= was.close) return null;
			const { end } = quarterOf(was.close, scan.context.organisation.company.rules.fiscalStart);
			return is.close > end ? `pushed from ${shortDay(was.close)} to ${shortDay(is.close)}, out of its period` : null;
		}),
});
