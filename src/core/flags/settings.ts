/** What is set of a rule; a setting that isn't named has its standard. */
export interface RuleSettings {
	readonly on?: boolean | undefined;
	readonly [setting: string]: unknown;
}

/** What the organisation has set, by code of the rule, and for single stages by their names. */
export type FlagSettings = Readonly<Record<string, RuleSettings & { readonly stages?: Readonly<Record<string, RuleSettings>> | undefined }>>;
