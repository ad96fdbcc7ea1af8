import { formatDay, NO_DAY } from "../time/day";
import { shortDay, workingDays } from "../time/words";
import { plural } from "../words/grammar";
import { fired, type Rule } from "./rule";

/** The close date has passed and the deal is still open. */
export const overdue: Rule = {
	code: "overdue",
	name: "overdue",
	about: "The close date has passed and the deal is still open.",
	settings: {},
	fires({ close, seen, rules }) {
		if (close === NO_DAY || close >= seen) return null;
		const days = rules.calendar.between(close, seen);
		return fired(3, () => ({
			evidence: { closeDate: formatDay(close), days, calendarDays: seen - close },
			// Working days, as in every chip and its sentence; where a weekend alone lies between there is none to count.
			label: days > 0 ? `Overdue ${days} d` : "Overdue",
			reason: `close date was ${shortDay(close)}, ${days === 0 ? "with no working day since" : `${workingDays(days)} ago`} (${plural(seen - close, "calendar day")})`,
			clears: "a close date on or after today, or the deal closed",
			remedy: "Agree a real close date with the buyer",
		}));
	},
};
