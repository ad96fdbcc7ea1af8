import { formatDay } from "../time/day";
import { shortDay, workingDays } from "../time/words";
import { fired, type Rule } from "./rule";

/** Neither a step forward nor a conversation for a while. */
export const stalled: Rule<"days"> = {
	code: "stalled",
	name: "stalled",
	about: "No step forward and no contact with the buyer for some time.",
	settings: {
		days: { label: "fires from this long without progress", unit: "working days", standard: 15, min: 1, max: 400 },
	},
	fires({ rules, facts, path, contact, seen }, settings) {
		const created = facts.createdDay;
		const since = Math.max(created, path.lastForward, contact.lastTwoWay);
		const days = rules.calendar.between(since, seen);
		const limit = settings.days ?? 15;
		if (days < limit) return null;
		const last = since === contact.lastTwoWay ? "the last conversation" : since === path.lastForward ? "the last step forward" : "it was opened";
		return fired(days >= 2 * limit ? 3 : 2, () => ({
			evidence: { days, since: formatDay(since) },
			label: `Stalled ${days} d`,
			reason: `${workingDays(days)} since ${last}, on ${shortDay(since)}`,
			clears: "a conversation with the buyer or a step to a later stage",
			remedy: "Get a conversation with the buyer on the calendar",
		}));
	},
};
