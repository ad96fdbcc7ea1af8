import type { SettingSpec, Severity } from "../flags/rule";
import { keeper } from "../keep";
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

/** What can be set of attention: the scores from which a level holds, and the weight of a flag by its severity. */
export const ATTENTION_SETTINGS = {
	act: { words: "at act from", unit: "points", standard: 50, min: 1, max: 100 },
	watch: { words: "at watch from", unit: "points", standard: 30, min: 1, max: 100 },
	weight1: { words: "weight of a light flag", unit: "of 1", standard: 0.12, min: 0, max: 1 },
	weight2: { words: "weight of a medium flag", unit: "of 1", standard: 0.25, min: 0, max: 1 },
	weight3: { words: "weight of a heavy flag", unit: "of 1", standard: 0.45, min: 0, max: 1 },
} as const satisfies Readonly<Record<string, SettingSpec>>;
export type AttentionName = keyof typeof ATTENTION_SETTINGS;
/** What is set; what isn't named has its standard. Flags named as unweighed fire and are told, and weigh nothing. */
export type AttentionSettings = Readonly<Partial<Record<AttentionName, number>>> & { readonly unweighed?: readonly string[] };

/** What is set without what only repeats a standard. */
export const ownAttention = <S extends AttentionSettings | undefined>(set: S): S =>
	set &&
	(Object.fromEntries(
		Object.entries(set).filter(([name, value]) =>
			Array.isArray(value) ? value.length > 0 : value !== undefined && value !== ATTENTION_SETTINGS[name as AttentionName].standard,
		),
	) as S);

/** What was set of attention for all days before one, until it was set otherwise from that day on. */
export interface AttentionWas {
	readonly until: Day;
	readonly set: AttentionSettings;
}

/** What held of attention on a day: the first entry that holds until after it, or what is set now. */
export const attentionOn = (
	{ attention, attentionWas = [] }: { attention: AttentionSettings; attentionWas?: readonly AttentionWas[] },
	day: Day,
): AttentionSettings => attentionWas.find(({ until }) => day < until)?.set ?? attention;

/** Every setting with its value in force. */
export const attentionValues = keeper(
	(set: AttentionSettings) =>
		Object.fromEntries(Object.entries(ATTENTION_SETTINGS).map(([name, spec]) => [name, set[name as AttentionName] ?? spec.standard])) as Record<
			AttentionName,
			number
		>,
);

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

/** Order of lists: attention, then amount, both descending, then id. */
export function byAttention(a: { score: number; amountBase: number; id: string }, b: { score: number; amountBase: number; id: string }): number {
	return b.score - a.score || b.amountBase - a.amountBase || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
}
