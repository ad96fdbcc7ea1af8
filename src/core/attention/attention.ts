import type { Severity } from "../flags/settings";
import { roundHalfAway } from "../money/decimal";
import type { Calendar } from "../time/calendar";
import { type Day, NO_DAY } from "../time/day";
import { type AttentionSettings, attentionValues } from "./settings";

export const LIGHTS = ["calm", "watch", "act"] as const;
export type Light = (typeof LIGHTS)[number];

/** How much a deal needs the manager now, with its parts. */
export interface Attention {
	/** 0 to 100 */
	readonly score: number;
	readonly level: Light;
	/** each 0 to 1 */
	readonly risk: number;
	readonly stake: number;
	readonly urgency: number;
}

/** working days from which a close date is far away: a quarter */
const FAR = 65;

/**
 * attention = 100 × risk × (½ + ½ stake) × (½ + ½ urgency). `amountBase` and `median` in minor units;
 * `close` may be NO_DAY. A deal with a flag of severity 3 is at least at *watch*.
 */
export function attentionOf(
	fired: readonly { readonly code: string; readonly severity: Severity }[],
	amountBase: number,
	median: number,
	close: Day,
	seen: Day,
	calendar: Calendar,
	set: AttentionSettings,
): Attention {
	const values = attentionValues(set);
	const { unweighed } = set;
	const flags = unweighed?.length ? fired.filter(({ code }) => !unweighed.includes(code)) : fired;
	let calm = 1;
	for (const { severity } of flags) calm *= 1 - values[`weight${severity}`];
	const risk = 1 - calm;
	const amount = Math.max(0, amountBase);
	const stake = amount + median > 0 ? amount / (amount + median) : 0;
	const pressing = close === NO_DAY || close < seen;
	const urgency = pressing ? 1 : Math.min(1, Math.max(0.2, 1 - calendar.between(seen, close) / FAR));
	const score = roundHalfAway(100 * risk * (0.5 + 0.5 * stake) * (0.5 + 0.5 * urgency));
	const level = score >= values.act ? "act" : score >= values.watch || flags.some(({ severity }) => severity === 3) ? "watch" : "calm";
	return { score, level, risk, stake, urgency };
}

/**
 * Order of lists: attention, then amount, both descending, then id.
 *
 * @example byAttention({ score: 40, amountBase: 10, id: "a" }, { score: 40, amountBase: 90, id: "b" }) > 0 // true
 */
export function byAttention(a: { score: number; amountBase: number; id: string }, b: { score: number; amountBase: number; id: string }): number {
	return b.score - a.score || b.amountBase - a.amountBase || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
}
