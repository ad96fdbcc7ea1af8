import { formatDay } from "../time/day";
import { shortDay, workingDays } from "../time/words";
import { fired, type Rule } from "./rule";

/** We spoke last, and they haven't come back. */
export const goneQuiet: Rule<"days"> = {
	code: "gone-quiet",
	name: "gone quiet",
	about: "We contacted the buyer last, and they haven’t answered.",
	settings: {
		days: { label: "fires after this long without contact", unit: "working days", standard: 7, min: 1, max: 400 },
	},
	fires({ contact, rules, seen }, settings) {
		if (contact.waiting?.side !== "we") return null;
		const { since } = contact.waiting;
		const days = rules.calendar.between(since, seen);
		const limit = settings.days ?? 7;
		if (days < limit) return null;
		return fired(days >= 2 * limit ? 2 : 1, () => ({
			evidence: { days, since: formatDay(since) },
			label: `Quiet ${days} d`,
			reason: `we wrote or called on ${shortDay(since)}, ${workingDays(days)} ago, and they haven’t answered since`,
			clears: "contact from them",
			remedy: "Try another person or another channel",
		}));
	},
};
