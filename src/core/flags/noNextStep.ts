import { isAhead, type TaskFacts } from "../tasks/task";
import { type Day, isoOrNull, NO_DAY } from "../time/day";
import { shortDay } from "../time/words";
import { fired, type Rule } from "./rule";

/** Whether anything lies ahead of a deal: a planned activity, an open task due today or later, or a dated next step. */
export const anythingAhead = (tasks: readonly TaskFacts[], planned: boolean, nextStepDay: Day, seen: Day): boolean =>
	planned || (nextStepDay !== NO_DAY && nextStepDay >= seen) || tasks.some((task) => isAhead(task, seen));

/** Nothing is planned from here on: no activity, no task, no dated next step. */
export const noNextStep: Rule<"big"> = {
	code: "no-next-step",
	name: "no next step",
	about: "No planned activity, no open task that is due today or later, and no next step with a date from today on. An overdue task doesn’t count.",
	norms: ["bigAmount"],
	settings: {
		big: {
			label: "severe from this amount (left blank: the 80th percentile of open deals)",
			unit: "minor units of the base currency",
			money: true,
			standard: null,
			min: 0,
			max: Number.MAX_SAFE_INTEGER,
		},
	},
	fires({ facts, seen, contact, nextStepDay, amountBase, norms }, settings) {
		if (anythingAhead(facts.tasks, contact.planned, nextStepDay, seen)) return null;
		const big = settings.big ?? norms.bigAmount;
		const past = () => (nextStepDay === NO_DAY ? "nothing is planned" : `the last step was due on ${shortDay(nextStepDay)} and nothing is planned after it`);
		return fired(amountBase >= big ? 3 : 2, () => ({
			evidence: { lastStepDate: isoOrNull(nextStepDay), amountBase, big },
			label: "No next step",
			reason: amountBase >= big ? `${past()}, on one of the largest deals` : past(),
			clears: "a planned activity, a task due today or later, or a next-step date from today on",
			remedy: "Set the next step with a date",
		}));
	},
};
