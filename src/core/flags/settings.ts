export type Severity = 1 | 2 | 3;

/** Kinds of data that an organisation may have none of at all. */
export type DataKind = "activities" | "contacts" | "questions";

/** A number a rule can be set by. From its own description come the form, the check and the API. */
export interface SettingSpec {
	readonly label: string;
	readonly unit: string;
	/** an amount in minor units of the base currency, which forms show in whole ones */
	readonly money?: true;
	/** null: worked out from the data, as the words say */
	readonly standard: number | null;
	readonly min: number;
	readonly max: number;
	/** the only values it may have, where not all between min and max are */
	readonly choices?: readonly number[];
}

/** What is set of a rule; a setting that isn't named has its standard. */
export interface RuleSettings {
	readonly on?: boolean | undefined;
	readonly [setting: string]: unknown;
}

/** What the organisation has set, by code of the rule, and for single stages by their names. */
export type FlagSettings = Readonly<Record<string, RuleSettings & { readonly stages?: Readonly<Record<string, RuleSettings>> | undefined }>>;
