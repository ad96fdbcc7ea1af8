import type { FlagsView } from "../../server/flagSettings";

export type Attention = FlagsView["attention"]["set"];

export type Draft = Record<string, { on?: boolean; stages?: Record<string, Record<string, unknown>>; [name: string]: unknown }>;

export interface Wish {
	readonly flags: Draft;
	readonly attention: Attention;
}

/** A draft with a setting of a rule, or of a rule in a stage; undefined takes it out again, and what is left empty with it. */
export function withSetting(draft: Draft, code: string, stage: string | null, name: string, value: unknown): Draft {
	const next = structuredClone(draft);
	const rule = next[code] ?? {};
	next[code] = rule;
	let place: Record<string, unknown> = rule;
	if (stage !== null) {
		rule.stages ??= {};
		rule.stages[stage] ??= {};
		place = rule.stages[stage] as Record<string, unknown>;
	}
	if (value === undefined) delete place[name];
	else place[name] = value;
	if (stage !== null && !Object.keys(place).length) delete rule.stages?.[stage];
	if (rule.stages && !Object.keys(rule.stages).length) delete rule.stages;
	if (!Object.keys(rule).length) delete next[code];
	return next;
}
