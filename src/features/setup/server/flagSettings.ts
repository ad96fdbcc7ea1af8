import { z } from "zod";
import { ATTENTION_SETTINGS, type AttentionSettings, ownAttention } from "@/core/attention/settings";
import { RULES } from "@/core/flags/list";
import type { DataKind, FlagSettings, SettingSpec } from "@/core/flags/settings";
import { type Levels, levelsOf, type Survey, surveyOn } from "@/core/survey";
import { connection, type Tx } from "@/data/db";
import { newestEntry } from "@/data/queries/audit";
import { organisationSettings } from "@/data/schema";
import { attentionSchema, flagsSchema } from "@/formats/bundle/settings";
import { command, lookup, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { dealName, personName } from "@/platform/names";
import type { Written } from "@/platform/write";

export interface RuleView {
	readonly code: string;
	readonly name: string;
	readonly about: string;
	readonly settings: readonly (SettingSpec & { readonly name: string })[];
	/** open deals of the organisation on which it fires today */
	readonly lit: number;
	/** why it is off by itself; null where it isn't */
	readonly off: string | null;
}

export interface FlagsView {
	readonly rules: readonly RuleView[];
	readonly set: FlagSettings;
	readonly attention: {
		readonly settings: readonly (SettingSpec & { readonly name: string })[];
		readonly set: AttentionSettings;
		/** open deals of the organisation at each level today */
		readonly levels: Levels;
	};
	/** open stages in order */
	readonly stages: readonly string[];
	/** who changed them last, and when */
	readonly changed: { readonly id: number; readonly by: string; readonly at: string } | null;
}

export type { Levels };

const ABSENT: Readonly<Record<DataKind, string>> = {
	activities: "automatically off: no activities have been logged yet",
	contacts: "automatically off: no deal has a contact",
	questions: "automatically off: no questions are set up",
};

const ACTION = "flag settings changed";

/** The rules with their own descriptions, what is set of them, and how often each fires now. */
export const readFlagSettings = query("setup.flags", "readRules", async (context: Context): Promise<FlagsView> => {
	const { organisation, now } = context;
	const { rules } = organisation.company;
	const survey = surveyOn(organisation.company, now.day);
	const counts = firing(survey);
	const last = await newestEntry(connection().db, ACTION);
	return {
		rules: RULES.map((rule) => ({
			code: rule.code,
			name: rule.name,
			about: rule.about,
			settings: specsOf(rule.settings),
			lit: counts.get(rule.code)?.size ?? 0,
			off: rule.needs && rules.absent?.has(rule.needs) ? ABSENT[rule.needs] : null,
		})),
		set: rules.flags,
		attention: { settings: specsOf(ATTENTION_SETTINGS), set: rules.attention, levels: levelsOf(survey) },
		stages: rules.stages.filter((stage) => stage.kind === "open").map((stage) => stage.name),
		changed: last ? { id: last.id, by: personName(organisation, last.personId) ?? "Somebody", at: last.at.toISOString() } : null,
	};
});

const specsOf = (settings: Readonly<Record<string, SettingSpec>>) => Object.entries(settings).map(([name, spec]) => ({ name, ...spec }));

/** Deals by the code of the flags they carry. */
function firing(survey: Survey): Map<string, Set<number>> {
	const found = new Map<string, Set<number>>();
	for (const seen of survey.deals) for (const flag of seen?.flags ?? []) found.set(flag.code, (found.get(flag.code) ?? new Set()).add(seen?.deal ?? -1));
	return found;
}

export interface FlagEffect {
	readonly code: string;
	readonly name: string;
	/** on how many deals it fires now, and on how many it would */
	readonly before: number;
	readonly after: number;
	/** deals on which it goes out, and on which it lights */
	readonly out: readonly { readonly id: string; readonly name: string }[];
	readonly lights: readonly { readonly id: string; readonly name: string }[];
}

export interface SettingsEffect {
	/** the flags that would fire on other deals than now */
	readonly flags: readonly FlagEffect[];
	/** open deals at each level now and then */
	readonly before: Levels;
	readonly after: Levels;
}

/** Settings as they come from the browser; what they may be is checked against the rules. Without those of attention, these stay. */
const flagsInput = z.object({ flags: z.unknown(), attention: attentionSchema.optional() });

/** What other settings would do to the open deals of today. Nothing is written. */
export const previewFlags = lookup({
	name: "setup.previewFlags",
	right: "changeRules",
	input: flagsInput,
	run({ context, input }): SettingsEffect {
		const flags = checked(context, input.flags);
		const { company } = context.organisation;
		const attention = ownAttention(input.attention) ?? company.rules.attention;
		const before = surveyOn(company, context.now.day);
		const after = surveyOn({ ...company, rules: { ...company.rules, flags, attention } }, context.now.day);
		const [now, then] = [firing(before), firing(after)];
		const named = (list: readonly number[]) =>
			list.map((deal) => ({ id: context.organisation.deals[deal]?.id ?? "", name: dealName(context.organisation, deal) }));
		return {
			flags: RULES.flatMap(({ code, name }) => {
				const [was, is] = [now.get(code) ?? new Set<number>(), then.get(code) ?? new Set<number>()];
				const out = [...was].filter((deal) => !is.has(deal));
				const lights = [...is].filter((deal) => !was.has(deal));
				return out.length + lights.length ? [{ code, name, before: was.size, after: is.size, out: named(out), lights: named(lights) }] : [];
			}),
			before: levelsOf(before),
			after: levelsOf(after),
		};
	},
});

/** Sets the rules. Answers the entry of the audit, by which it can be undone. */
export const saveFlags = command({
	name: "setup.saveFlags",
	right: "changeRules",
	input: flagsInput,
	run: async ({ context, input, tx }) => setFlags(tx, { flags: checked(context, input.flags), attention: ownAttention(input.attention) }, "set"),
});

/**
 * Brings back what stood before the newest change.
 *
 * @throws Fault 409 when it was changed again since
 */
export const undoFlags = command({
	name: "setup.undoFlags",
	right: "changeRules",
	input: z.object({ change: z.number().int() }),
	async run({ input: { change }, tx }) {
		const newest = await newestEntry(tx, ACTION);
		if (newest?.id !== change) throw new Fault(409, "Changed since", "The settings were changed again since, so they can’t be undone.");
		const { before, attentionBefore } = newest.detail as { before: FlagSettings; attentionBefore?: AttentionSettings };
		return setFlags(tx, { flags: before, attention: attentionBefore }, "undone");
	},
});

interface Wish {
	readonly flags: FlagSettings;
	/** undefined: as it is */
	readonly attention: AttentionSettings | undefined;
}

async function setFlags(tx: Tx, { flags, attention }: Wish, how: string): Promise<Written<{ change: number }>> {
	const [org] = await tx.select({ flags: organisationSettings.flags, attention: organisationSettings.attention }).from(organisationSettings).for("update");
	const before = org?.attention ?? {};
	const after = attention ?? before;
	await tx.update(organisationSettings).set({ flags, attention: after });
	return {
		result: ([change = 0]) => ({ change }),
		touched: "settings",
		audit: { action: ACTION, detail: { before: org?.flags ?? {}, after: flags, attentionBefore: before, attentionAfter: after, how } },
	};
}

/** Settings within their bounds, for rules and stages that exist, and nothing that only repeats what holds anyway. */
function checked(context: Context, input: unknown): FlagSettings {
	const parsed = flagsSchema.strict().parse(input) as FlagSettings;
	const stages = new Set(context.organisation.company.rules.stages.map((stage) => stage.name));
	const kept: Record<string, FlagSettings[string]> = {};
	for (const rule of RULES) {
		const wish = parsed[rule.code];
		if (!wish) continue;
		const only = (set: Readonly<Record<string, unknown>>) =>
			Object.fromEntries(["on", ...Object.keys(rule.settings)].flatMap((name) => (set[name] === undefined || set[name] === null ? [] : [[name, set[name]]])));
		for (const stage of Object.keys(wish.stages ?? {}))
			if (!stages.has(stage)) throw new Fault(422, "No such stage", `${rule.name}: no stage is called ${stage}.`);
		const inStages = Object.entries(wish.stages ?? {}).flatMap(([stage, set]) => (Object.keys(only(set)).length ? [[stage, only(set)] as const] : []));
		const whole = { ...only(wish), ...(inStages.length ? { stages: Object.fromEntries(inStages) } : {}) };
		if (Object.keys(whole).length) kept[rule.code] = whole;
	}
	return kept;
}
