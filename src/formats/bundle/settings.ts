import { z } from "zod";
import { ATTENTION_SETTINGS, type AttentionName, type AttentionSettings, attentionValues } from "../../core/attention/settings";
import { RULES } from "../../core/flags/list";
import type { Rule } from "../../core/flags/rule";
import type { SettingSpec } from "../../core/flags/settings";
import { exponentOf } from "../../core/money/currency";
import { parseDay } from "../../core/time/day";
import { readText } from "../text";
import type { Problem, Settings } from "./model";
import { SETTINGS_FILE } from "./spec";

const DAYS = ["sunday", "monday", "tuesday", "wednesday", "thursday", "friday", "saturday"];

/** A day of the week as 0 (Sunday) to 7 (Sunday again, as ISO 8601 counts) or by its English name. */
const weekday = z.union([
	z
		.number()
		.int()
		.min(0)
		.max(7)
		.transform((n) => n % 7),
	z.string().transform((name, ctx) => {
		const found = DAYS.findIndex((d) => name.length >= 3 && d.startsWith(name.toLowerCase()));
		if (found < 0) ctx.addIssue({ code: "custom", message: "this isn’t a day of the week" });
		return found;
	}),
]);

/** A setting within its bounds or among its choices, by its own description. */
function settingSchema(of: string, { label, unit, min, max, choices }: SettingSpec) {
	const number = z.number(`${of}, ${label}: this must be a number.`);
	if (choices) return number.refine((value) => choices.includes(value), `${of}, ${label}: one of ${choices.join(", ")}.`);
	return number.min(min, `${of}, ${label}: at least ${min} ${unit}.`).max(max, `${of}, ${label}: at most ${max} ${unit}.`);
}

/** What can be set of a rule, from its own description. */
const shapeOf = (rule: Rule) => ({
	on: z.boolean().optional(),
	...Object.fromEntries(Object.entries(rule.settings).map(([name, spec]) => [name, settingSchema(rule.name, spec).nullable().optional()])),
});

/** The settings of attention; *watch* never begins above *act*. */
export const attentionSchema = z
	.object({
		...(Object.fromEntries(Object.entries(ATTENTION_SETTINGS).map(([name, spec]) => [name, settingSchema("attention", spec).optional()])) as Record<
			AttentionName,
			z.ZodOptional<z.ZodNumber>
		>),
		unweighed: z
			.array(z.enum(RULES.map(({ code }) => code) as [string, ...string[]]))
			.readonly()
			.optional(),
	})
	.refine((set) => {
		const { act, watch } = attentionValues(set as AttentionSettings);
		return watch <= act;
	}, "attention: watch begins at or below act.");

/** The flags' settings, by code, and for single stages by their names. */
export const flagsSchema = z.object(
	Object.fromEntries(
		RULES.map((rule) => [
			rule.code,
			z
				.object({ ...shapeOf(rule), stages: z.record(z.string(), z.object(shapeOf(rule)).loose()).optional() })
				.loose()
				.optional(),
		]),
	),
);

const zoneName = z.string().refine((name) => {
	try {
		return Boolean(new Intl.DateTimeFormat("en", { timeZone: name }));
	} catch {
		return false;
	}
}, "this isn’t an IANA time zone, such as Europe/Berlin");

/** A fiscal year of whole weeks. */
export const fiscalWeeksSchema = z.object({
	pattern: z.enum(["4-4-5", "4-5-4", "5-4-4"]),
	/** 0: Sunday */
	lastDay: weekday,
	end: z.enum(["last", "nearest"]),
	month: z.number().int().min(1).max(12),
});

/** Fiscal calendars that held before, the first first. */
export const fiscalBeforeSchema = z
	.array(z.object({ until: z.iso.date(), fiscalYearStartMonth: z.number().int().min(1).max(12), fiscalWeeks: fiscalWeeksSchema.nullable().default(null) }))
	.max(100)
	.refine((list) => list.every(({ until }, i) => i === 0 || until > (list[i - 1]?.until ?? "")), "each calendar must end after the one before")
	.readonly();

export const settingsSchema = z
	.object({
		timeZone: zoneName.optional(),
		baseCurrency: z
			.string()
			.refine((code) => exponentOf(code) !== null, "this isn’t a currency code of ISO 4217")
			.optional(),
		fiscalYearStartMonth: z.number().int().min(1).max(12).optional(),
		fiscalWeeks: fiscalWeeksSchema.nullable().optional(),
		fiscalBefore: fiscalBeforeSchema.optional(),
		weekend: z
			.array(weekday)
			.refine((days) => new Set(days).size < 7, "a week needs a working day")
			.optional(),
		today: z
			.string()
			.refine((text) => parseDay(text) !== null, "this isn’t a day (YYYY-MM-DD)")
			.nullable()
			.optional(),
		activityKinds: z
			.record(
				z.string(),
				z
					.object({ stagePosition: z.number().int().min(0).optional() })
					.loose()
					.nullable(),
			)
			.transform((kinds) => Object.fromEntries(Object.entries(kinds).map(([kind, of]) => [kind, of ?? {}])) as Record<string, { stagePosition?: number }>)
			.optional(),
		flags: flagsSchema.loose().optional(),
		attention: attentionSchema.optional(),
		outcomeReasons: z.array(z.string().trim().min(1).max(200)).max(200).optional(),
		commitGoal: z.number().int().min(1).max(100).optional(),
		riskShare: z.number().int().min(1).max(100).optional(),
		careDays: z.object({ customer: z.number().int().min(1).max(365), prospect: z.number().int().min(1).max(365) }).optional(),
		reasonReturns: z.record(z.string(), z.union([z.literal("year"), z.number().int().min(1).max(120)])).optional(),
		attentionWas: z
			.array(z.object({ until: z.iso.date(), set: attentionSchema }))
			.max(1000)
			.optional(),
		contactBands: z
			.array(z.number().int().min(1).max(10_000))
			.length(3)
			.refine((days) => days.every((d, i) => i === 0 || d > (days[i - 1] as number)), "each band must be larger than the one before")
			.optional(),
	})
	.loose();

const MOST_DEEP = 20;
function shallow(value: unknown, room: number): boolean {
	if (typeof value !== "object" || value === null) return true;
	return room > 0 && Object.values(value).every((one) => shallow(one, room - 1));
}

/** Reads settings.json; what is wrong with it becomes problems, and the rest is left at its standard. */
export function readSettings(bytes: Uint8Array | undefined): { settings: Settings; problems: Problem[] } {
	if (!bytes) return { settings: {}, problems: [] };
	const fail = (column: string | null, value: string | null, reason: string): Problem => ({
		file: SETTINGS_FILE,
		line: null,
		column,
		value,
		reason,
	});
	let json: unknown;
	try {
		json = JSON.parse(readText(bytes).text);
	} catch {
		return { settings: {}, problems: [fail(null, null, "this isn’t JSON text")] };
	}
	if (!shallow(json, MOST_DEEP)) return { settings: {}, problems: [fail(null, null, `this is nested more than ${MOST_DEEP} deep`)] };
	const result = settingsSchema.safeParse(json);
	if (result.success) return { settings: result.data as Settings, problems: [] };
	return {
		settings: {},
		problems: result.error.issues.map((issue) => {
			const value = issue.path.reduce<unknown>((at, step) => (at as Record<PropertyKey, unknown> | undefined)?.[step], json);
			return fail(issue.path.join(".") || null, value === undefined ? null : JSON.stringify(value).slice(0, 200), issue.message);
		}),
	};
}
