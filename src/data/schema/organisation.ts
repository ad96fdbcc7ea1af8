import { sql } from "drizzle-orm";
import { check, integer, jsonb, numeric, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import type { AttentionSettings } from "../../core/attention/settings";
import type { FlagSettings } from "../../core/flags/settings";
import type { ReasonReturns } from "../../core/patterns/comeBack";
import type { FiscalWeeks } from "../../core/time/fiscal";
import { day } from "./columns";

/** Upper ends of the bands of last contact in calendar days: two weeks, six weeks, a quarter. */
export const STANDARD_BANDS = [14, 42, 91];

export const STANDARD_GOAL = 90;
/** Calendar days by an account’s kind; of one without a kind those of a customer. */
export interface CareDays {
	readonly customer: number;
	readonly prospect: number;
}
export const STANDARD_CARE: CareDays = { customer: 91, prospect: 42 };
export const STANDARD_RISK_SHARE = 70;

/** Attention as it was set for all days before one, ISO. */
export interface StoredAttentionWas {
	readonly until: string;
	readonly set: AttentionSettings;
}

/** A fiscal calendar that held until a day, ISO, that day included. */
export interface StoredFiscalBefore {
	readonly until: string;
	readonly fiscalYearStartMonth: number;
	readonly fiscalWeeks: FiscalWeeks | null;
}

/** One row: the rules that are not lists. */
export const organisationSettings = pgTable(
	"organisation",
	{
		id: integer("id").primaryKey().default(1),
		name: text("name").notNull().default(""),
		timeZone: text("time_zone").notNull().default("Europe/Berlin"),
		baseCurrency: text("base_currency").notNull().default("EUR"),
		fiscalStartMonth: integer("fiscal_start_month").notNull().default(1),
		/** how fiscal years run by weeks; null: by months */
		fiscalWeeks: jsonb("fiscal_weeks").$type<FiscalWeeks>(),
		/** the fiscal calendars that held before, the first first */
		fiscalBefore: jsonb("fiscal_before").notNull().$type<readonly StoredFiscalBefore[]>().default([]),
		weekend: integer("weekend").array().notNull().default([6, 0]),
		today: day("today"),
		/** while the demo company is in: its people, and how the company was set before it came */
		demo: jsonb("demo").$type<{ people: string[]; before: Record<string, unknown> | null }>(),
		/** of the code by which the first person is made, while there is nobody; as SHA-256 */
		beginHash: text("begin_hash"),
		activityKinds: jsonb("activity_kinds").notNull().$type<Record<string, { stagePosition?: number }>>().default({}),
		flags: jsonb("flags").notNull().$type<FlagSettings>().default({}),
		attention: jsonb("attention").notNull().$type<AttentionSettings>().default({}),
		/** why deals are lost, to choose from */
		outcomeReasons: text("outcome_reasons").array().notNull().default([]),
		/** upper ends of the bands of last contact, in calendar days */
		contactBands: integer("contact_bands").array().notNull().default(STANDARD_BANDS),
		/** how attention was set for days before, the first first */
		attentionWas: jsonb("attention_was").notNull().$type<StoredAttentionWas[]>().default([]),
		/** the share of what is in commit that is to be won, in per cent */
		commitGoal: integer("commit_goal").notNull().default(STANDARD_GOAL),
		/** an account that buys less than this share of the year before is at risk, in per cent */
		riskShare: integer("risk_share").notNull().default(STANDARD_RISK_SHARE),
		/** within so many calendar days somebody of an account without a deal is to be spoken to, by the account’s kind */
		careDays: jsonb("care_days").notNull().$type<CareDays>().default(STANDARD_CARE),
		/** reasons for a loss that end one day, and when one comes back then */
		reasonReturns: jsonb("reason_returns").notNull().$type<ReasonReturns>().default({}),
	},
	(t) => [check("one_organisation", sql`${t.id} = 1`)],
);

export const holidays = pgTable("holidays", { date: day("date").primaryKey(), name: text("name") });

export const rates = pgTable(
	"rates",
	{
		currency: text("currency").notNull(),
		date: day("date").notNull(),
		rate: numeric("rate").notNull(),
	},
	(t) => [primaryKey({ columns: [t.currency, t.date] })],
);
