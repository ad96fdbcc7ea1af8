import type { Severity } from "../flags/rule";
import { roundHalfAway } from "../money/decimal";
import type { Calendar } from "../time/calendar";
import { type Day, NO_DAY } from "../time/day";

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

export const SEVERITY_WEIGHT: Readonly<Record<Severity, number>> = { 1: 0.12, 2: 0.25, 3: 0.45 };
const ACT = 45;
const WATCH = 20;
/** working days from which a close date is far away: a quarter */
const FAR = 65;

/**
 * attention = 100 × risk × (½ + ½ stake) × (½ + ½ urgency). `amountBase` and `median` in minor units;
 * `close` may be NO_DAY.
 */
export function attentionOf(
	flags: readonly { readonly severity: Severity }[],
	amountBase: number,
	median: number,
	close: Day,
	seen: Day,
	calendar: Calendar,
): Attention {
	const risk = 1 - flags.reduce<number>((calm, { severity }) => calm * (1 - SEVERITY_WEIGHT[severity]), 1);
	const amount = Math.max(0, amountBase);
	const stake = amount + median > 0 ? amount / (amount + median) : 0;
	const pressing = close === NO_DAY || close < seen;
	const urgency = pressing ? 1 : Math.min(1, Math.max(0.2, 1 - calendar.between(seen, close) / FAR));
	const score = roundHalfAway(100 * risk * (0.5 + 0.5 * stake) * (0.5 + 0.5 * urgency));
	const level = score >= ACT ? "act" : score >= WATCH || flags.some(({ severity }) => severity === 3) ? "watch" : "calm";
	return { score, level, risk, stake, urgency };
}

/** Order of lists: attention, then amount, both descending, then id. */
export function byAttention(a: { score: number; amountBase: number; id: string }, b: { score: number; amountBase: number; id: string }): number {
	return b.score - a.score || b.amountBase - a.amountBase || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
}
