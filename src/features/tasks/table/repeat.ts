import { parseDay } from "@/core/time/day";
import { byCount } from "@/core/words/grammar";

/** How often a task comes again: chosen, never typed. */
export interface Repeat {
	readonly every: "day" | "week" | "month";
	readonly interval: number;
	/** of a week: MO to SU */
	readonly days: readonly Weekday[];
	/** ISO day after which none comes; null: until the deal closes */
	readonly until: string | null;
}

export const WEEKDAYS = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"] as const;
export type Weekday = (typeof WEEKDAYS)[number];
export const WEEKDAY_WORDS: Readonly<Record<Weekday, string>> = {
	MO: "Monday",
	TU: "Tuesday",
	WE: "Wednesday",
	TH: "Thursday",
	FR: "Friday",
	SA: "Saturday",
	SU: "Sunday",
};

const FREQUENCIES = { day: "DAILY", week: "WEEKLY", month: "MONTHLY" } as const;
/** The rules of RFC 5545 that the choices can make; others aren't kept. */
export const REPEAT_RULE = /^FREQ=(DAILY|WEEKLY|MONTHLY);INTERVAL=([1-9]\d?)(;BYDAY=(MO|TU|WE|TH|FR|SA|SU)(,(MO|TU|WE|TH|FR|SA|SU))*)?(;UNTIL=\d{8})?$/;

/** The rule as RFC 5545 writes it. */
export function ruleOf({ every, interval, days, until }: Repeat): string {
	const parts = [`FREQ=${FREQUENCIES[every]}`, `INTERVAL=${interval}`];
	if (every === "week" && days.length) parts.push(`BYDAY=${WEEKDAYS.filter((day) => days.includes(day)).join(",")}`);
	if (until) parts.push(`UNTIL=${until.replaceAll("-", "")}`);
	return parts.join(";");
}

/** What was chosen, read back from a rule; null for one that can't be chosen. */
export function repeatOf(rule: string): Repeat | null {
	const found = REPEAT_RULE.exec(rule);
	if (!found) return null;
	const part = (name: string) => new RegExp(`${name}=([^;]*)`).exec(rule)?.[1] ?? null;
	const until = part("UNTIL")?.replace(/(\d{4})(\d\d)(\d\d)/, "$1-$2-$3") ?? null;
	if (until !== null && parseDay(until) === null) return null;
	return {
		every: ({ DAILY: "day", WEEKLY: "week", MONTHLY: "month" } as const)[found[1] as "DAILY"],
		interval: Number(found[2]),
		days: (part("BYDAY")?.split(",") ?? []) as Weekday[],
		until,
	};
}

/** `every second week on Monday and Thursday, until 18 Dec` in words. */
export function repeatWords(rule: string): string {
	const repeat = repeatOf(rule);
	if (!repeat) return rule;
	const { every, interval, days, until } = repeat;
	const often = byCount(interval, `every ${every}`, `every ${interval} ${every}s`);
	const on = days.length ? ` on ${days.map((day) => WEEKDAY_WORDS[day]).join(" and ")}` : "";
	return `${often}${on}${until ? `, until ${until}` : ", until the deal closes"}`;
}
