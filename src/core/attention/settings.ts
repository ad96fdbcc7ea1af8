import { derived } from "../derive";
import type { SettingSpec } from "../flags/settings";
import type { Day } from "../time/day";

/** What can be set of attention: the scores from which a level holds, and the weight of a flag by its severity. */
export const ATTENTION_SETTINGS = {
	act: { label: "at act from", unit: "points", standard: 50, min: 1, max: 100 },
	watch: { label: "at watch from", unit: "points", standard: 30, min: 1, max: 100 },
	weight1: { label: "weight of a light flag", unit: "of 1", standard: 0.12, min: 0, max: 1 },
	weight2: { label: "weight of a medium flag", unit: "of 1", standard: 0.25, min: 0, max: 1 },
	weight3: { label: "weight of a heavy flag", unit: "of 1", standard: 0.45, min: 0, max: 1 },
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
export const attentionValues = derived(
	"attention values",
	(set: AttentionSettings) =>
		Object.fromEntries(Object.entries(ATTENTION_SETTINGS).map(([name, spec]) => [name, set[name as AttentionName] ?? spec.standard])) as Record<
			AttentionName,
			number
		>,
);
