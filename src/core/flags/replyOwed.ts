import { formatDay } from "../time/day";
import { shortDay, workingDays } from "../time/words";
import { fired, type Rule } from "./rule";

/** They spoke last, and nobody answered. */
export const replyOwed: Rule<"days"> = {
	code: "reply-owed",
	name: "reply owed",
	about: "The buyer contacted us last, and nobody answered.",
	settings: {
		days: { label: "fires after this long without an answer", unit: "working days", standard: 2, min: 0, max: 100 },
	},
	fires({ contact, rules, seen }, settings) {
		if (contact.waiting?.side !== "they") return null;
		const { since } = contact.waiting;
		const days = rules.calendar.between(since, seen);
		if (days < (settings.days ?? 2)) return null;
		return fired(3, () => ({
			evidence: { days, since: formatDay(since) },
			label: `Reply owed ${days} d`,
			reason: `they wrote or called on ${shortDay(since)}, ${workingDays(days)} ago, and nobody answered`,
			clears: "an answer to them",
			remedy: "Answer what they asked",
		}));
	},
};
