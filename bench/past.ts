import type { Company } from "../src/core/company";
import { type Inspected, inspect } from "../src/core/inspect";
import { normsOn } from "../src/core/norms";
import { groundSteps, outlookSteps } from "../src/core/outlook/outlook";
import { closedWithin } from "../src/core/patterns/closed";
import { lateChanges, valuePath } from "../src/core/patterns/priced";
import { pushesWithin } from "../src/core/patterns/pushes";
import { lastPeriods } from "../src/core/patterns/quarters";
import { accuracyOf, answerRecords, flagRecords, lightRecords } from "../src/core/patterns/records";
import { lightingSteps } from "../src/core/patterns/taskHelp";
import { timeInStage } from "../src/core/patterns/timeInStage";
import { severityRecords, sortingOf } from "../src/core/patterns/weights";
import { type Day, parseDay } from "../src/core/time/day";
import { monthOf, quarterOf } from "../src/core/time/period";
import { through } from "../tests/kit/steps";
import { type Line, ms } from "./measure";

const SIX_SECONDS = 6000;
const QUARTERS = 8;
const LEAD = 20;

/** What each part of looking back costs a company that nothing is known of yet, in milliseconds, as a thread does it at night: eight quarters, everyone's. */
export function pastTimes(company: Company, today: Day): Readonly<Record<string, number>> {
	const times: Record<string, number> = {};
	// What making the company left behind isn’t the past’s.
	(globalThis as { gc?: () => void }).gc?.();
	const timed = <T>(what: string, work: () => T): T => {
		const start = performance.now();
		const made = work();
		times[what] = performance.now() - start;
		return made;
	};
	const survey = timed("today’s deals inspected", (): Inspected => {
		const norms = normsOn(company, today);
		return { norms, deals: company.deals.map((_, deal) => inspect(company, deal, norms)) };
	});
	const quarter = quarterOf(today, company.rules.fiscal);
	timed("records of flags, levels and answers", () => {
		const looked = lastPeriods(company, "quarter", today, QUARTERS, LEAD);
		flagRecords(company, looked, today);
		lightRecords(company, looked);
		answerRecords(company, looked);
		accuracyOf(company, looked, "commit", null);
		severityRecords(company, looked);
		sortingOf(company, looked, company.rules.attention);
	});
	timed("outlook of the quarter, with its record", () => through(outlookSteps(company, survey, quarter, null, today, 1, "bench")));
	timed("outlook of the month, with its record", () => through(outlookSteps(company, survey, monthOf(today), null, today, 1, "bench")));
	timed("how the outlook moved", () => through(groundSteps(company, survey, quarter, null, today)));
	timed("whether tasks help", () => through(lightingSteps(company, null, today)));
	timed("time in stage", () => timeInStage(company, today, (_, owner) => [String(owner)]));
	timed("price, pushes and what was closed", () => {
		const closed = closedWithin(company, survey, null, today);
		const won = closed.filter((one) => one.won);
		valuePath(company, won, today);
		lateChanges(company, won, today);
		pushesWithin(company, today, 730);
	});
	return times;
}

const sum = (times: Readonly<Record<string, number>>) => Object.values(times).reduce((all, time) => all + time, 0);

/** The whole of it at a size that has an aim, and its parts. */
export function benchPast(company: Company): Line[] {
	const today = parseDay("2026-11-24") as Day;
	const times = pastTimes(company, today);
	const deals = company.deals.length.toLocaleString("en");
	const whole = sum(times);
	return [
		{ what: `the whole past of ${deals} deals, eight quarters, on one core`, measured: ms(whole), aim: "6 s", met: whole <= SIX_SECONDS },
		...Object.entries(times).map(([what, time]) => ({
			what: `of it: ${what}`,
			measured: `${ms(time)}, ${Math.round((100 * time) / whole)}%`,
			aim: "",
			met: null,
		})),
	];
}

/** The whole of it alone, for how it grows. */
export const pastTime = (company: Company, today: Day): number => sum(pastTimes(company, today));
