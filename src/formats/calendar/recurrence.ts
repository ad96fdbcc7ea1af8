import * as rrule from "rrule";

/** The package has its names where it is bundled, and under one where Node loads it. */
const { RRule } = ("RRule" in rrule ? rrule : (rrule as { default: typeof rrule }).default) as typeof rrule;

const HOUR = 3_600_000;
const OFTEN = new Set([RRule.YEARLY, RRule.MONTHLY, RRule.WEEKLY, RRule.DAILY, RRule.HOURLY]);
/** How long each kind of step is that is always as long, ms. */
const STEP = new Map([
	[RRule.HOURLY, HOUR],
	[RRule.DAILY, 24 * HOUR],
	[RRule.WEEKLY, 168 * HOUR],
]);

/** days of half a century, or hours of two years */
const MOST_COUNTED = 20_000;

/** What comes again by a rule of RFC 5545. Times are what clocks of one zone show, as ms since the epoch in UTC. */
export interface Recurring {
	/** without its name */
	readonly rule: string;
	readonly start: number;
	/** stands for the rule’s own UNTIL, which is an instant */
	readonly until?: number | null;
}

/** Whether a text is a rule that can be reckoned with: hourly at most. */
export function isRecurrence(rule: string): boolean {
	try {
		const { freq } = RRule.parseString(rule);
		return freq !== undefined && OFTEN.has(freq);
	} catch {
		return false;
	}
}

/** The first time after one; null when there is none in some twelve years. */
export function nextTimeOf(what: Recurring, after: number): number | null {
	const near = ruleNear(what, after);
	const found = near?.rule.after(new Date(after + near.later));
	return near && found ? found.getTime() - near.later : null;
}

/** All times from one to another, both among them. */
export function timesBetween(what: Recurring, from: number, to: number): number[] {
	const near = ruleNear(what, from);
	return near?.rule.between(new Date(from + near.later), new Date(to + near.later), true).map((time) => time.getTime() - near.later) ?? [];
}

/** The rule, moved by so much (ms) that it is quickly asked what lies at or after a time; null for one that ended so long ago that it isn’t worth counting. */
function ruleNear({ rule, start, until }: Recurring, time: number) {
	const { until: own, ...options } = RRule.parseString(rule);
	const { freq, interval, count } = options;
	// Before a counted time the package goes through all that came before it; before others it need not.
	const step = (freq === undefined ? 0 : (STEP.get(freq) ?? 0)) * (interval ?? 1);
	const steps = step && time > start ? Math.floor((time - start) / step) : 0;
	if (count && steps > MOST_COUNTED) return null;
	const begun = count ? start : start + steps * step;
	const later = toTheEnd(begun);
	const ends = until === undefined ? own?.getTime() : until;
	return { rule: new RRule({ ...options, ...(ends == null ? {} : { until: new Date(ends + later) }), dtstart: new Date(begun + later) }), later };
}

/**
 * How much later, in ms, the calendar is the same day for day, close to the year 9999: the package looks on until then for a
 * thirtieth of February, which takes it half a minute from ours. Calendars without a skipped leap day are the same each 28 years.
 */
function toTheEnd(time: number): number {
	const year = new Date(time).getUTCFullYear();
	const from = Date.UTC(year, 0, 1);
	const alike = (other: number) => other % 4 === year % 4 && new Date(Date.UTC(other, 0, 1)).getUTCDay() === new Date(from).getUTCDay();
	let other = 9987;
	while (other > 9959 && !alike(other)) other--;
	return Date.UTC(other, 0, 1) - from;
}
