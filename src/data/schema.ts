import { sql } from "drizzle-orm";
import {
	bigint,
	bigserial,
	boolean,
	check,
	date,
	doublePrecision,
	index,
	integer,
	jsonb,
	numeric,
	pgTable,
	primaryKey,
	text,
	timestamp,
	uniqueIndex,
} from "drizzle-orm/pg-core";

import type { Seal } from "../core/bridge/seal";
import type { FlagSettings } from "../core/flags/settings";
import type { WeeklyPlan } from "../formats/weekly/read";

/** Instants are `timestamptz` to the millisecond; amounts are integers in minor units of the currency beside them. */
export const instant = (name: string) => timestamp(name, { withTimezone: true, precision: 3, mode: "date" });
export const minor = (name: string) => bigint(name, { mode: "number" });
export const day = (name: string) => date(name, { mode: "string" });

/** Upper ends of the bands of last contact in calendar days: two weeks, six weeks, a quarter. */
export const STANDARD_BANDS = [14, 42, 91];

/** One row: the rules that are not lists. */
export const organisation = pgTable(
	"organisation",
	{
		id: integer("id").primaryKey().default(1),
		timeZone: text("time_zone").notNull().default("Europe/Berlin"),
		baseCurrency: text("base_currency").notNull().default("EUR"),
		fiscalStartMonth: integer("fiscal_start_month").notNull().default(1),
		weekend: integer("weekend").array().notNull().default([6, 0]),
		today: day("today"),
		activityKinds: jsonb("activity_kinds").notNull().$type<Record<string, { stagePosition?: number }>>().default({}),
		flags: jsonb("flags").notNull().$type<FlagSettings>().default({}),
		/** how the columns and values of weekly exports are read */
		weeklyPlan: jsonb("weekly_plan").$type<WeeklyPlan>(),
		/** why deals are lost, to choose from */
		outcomeReasons: text("outcome_reasons").array().notNull().default([]),
		/** upper ends of the bands of last contact, in calendar days */
		contactBands: integer("contact_bands").array().notNull().default(STANDARD_BANDS),
	},
	(t) => [check("one_organisation", sql`${t.id} = 1`)],
);

export const teams = pgTable("teams", {
	name: text("name").primaryKey(),
	parent: text("parent"),
});

export const people = pgTable(
	"people",
	{
		id: text("id").primaryKey(),
		name: text("name").notNull(),
		email: text("email"),
		role: text("role").notNull(),
		team: text("team").references(() => teams.name),
		activeFrom: day("active_from"),
		activeTo: day("active_to"),
		passwordHash: text("password_hash"),
	},
	(t) => [uniqueIndex("people_email").on(sql`lower(${t.email})`), check("people_role", sql`${t.role} in ('manager', 'rep', 'ops', 'viewer')`)],
);

/** Tokens are kept as SHA-256 only: whoever reads the table can't sign in with it. */
export const sessions = pgTable("sessions", {
	tokenHash: text("token_hash").primaryKey(),
	personId: text("person_id")
		.notNull()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	createdAt: instant("created_at").notNull().defaultNow(),
	expiresAt: instant("expires_at").notNull(),
});

export const apiKeys = pgTable("api_keys", {
	id: text("id").primaryKey(),
	personId: text("person_id")
		.notNull()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	name: text("name").notNull(),
	tokenHash: text("token_hash").notNull().unique(),
	hint: text("hint").notNull(),
	createdAt: instant("created_at").notNull().defaultNow(),
	lastUsedAt: instant("last_used_at"),
	revokedAt: instant("revoked_at"),
});

export const accounts = pgTable("accounts", {
	id: text("id").primaryKey(),
	name: text("name").notNull().default(""),
	kind: text("kind"),
	industry: text("industry"),
	territory: text("territory"),
	ownerId: text("owner_id"),
});

export const contacts = pgTable(
	"contacts",
	{
		id: text("id").primaryKey(),
		accountId: text("account_id"),
		name: text("name").notNull().default(""),
		title: text("title"),
		email: text("email"),
		buyingRole: text("buying_role"),
		reportsToId: text("reports_to_id"),
	},
	(t) => [index("contacts_account").on(t.accountId)],
);

export const stages = pgTable("stages", {
	name: text("name").primaryKey(),
	position: integer("position").notNull().unique(),
	kind: text("kind").notNull(),
	probability: numeric("probability").notNull(),
	usualDays: doublePrecision("usual_days").notNull(),
});

export const deals = pgTable("deals", {
	id: text("id").primaryKey(),
	accountId: text("account_id").references(() => accounts.id),
	name: text("name").notNull().default(""),
	source: text("source"),
	createdAt: instant("created_at").notNull(),
	competitor: text("competitor"),
	outcomeReason: text("outcome_reason"),
	tags: text("tags").array().notNull().default([]),
});

/** A full row for each state a deal was in; `valid_to` is null for the current one, of which the database allows one a deal. */
export const dealVersions = pgTable(
	"deal_versions",
	{
		id: bigserial("id", { mode: "number" }).primaryKey(),
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id),
		validFrom: instant("valid_from").notNull(),
		validTo: instant("valid_to"),
		/** null: taken off the books */
		stage: text("stage").references(() => stages.name, { onUpdate: "cascade" }),
		amount: minor("amount"),
		currency: text("currency"),
		closeDate: day("close_date"),
		ownerId: text("owner_id").references(() => people.id, { onUpdate: "cascade" }),
		category: text("category"),
		nextStep: text("next_step"),
		nextStepDate: day("next_step_date"),
		byId: text("by_id"),
		importId: text("import_id"),
		/** why it was changed, in the words of whoever did */
		reason: text("reason"),
	},
	(t) => [uniqueIndex("deal_versions_at").on(t.dealId, t.validFrom), uniqueIndex("deal_versions_current").on(t.dealId).where(sql`${t.validTo} is null`)],
);

export const dealContacts = pgTable(
	"deal_contacts",
	{
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id),
		contactId: text("contact_id")
			.notNull()
			.references(() => contacts.id),
	},
	(t) => [primaryKey({ columns: [t.dealId, t.contactId] })],
);

export const activities = pgTable(
	"activities",
	{
		id: text("id").primaryKey(),
		dealId: text("deal_id").references(() => deals.id),
		accountId: text("account_id").references(() => accounts.id),
		contactIds: text("contact_ids").array().notNull().default([]),
		kind: text("kind").notNull(),
		direction: text("direction").notNull(),
		state: text("state").notNull(),
		at: instant("at").notNull(),
		byId: text("by_id"),
		subject: text("subject"),
		body: text("body"),
	},
	(t) => [index("activities_deal").on(t.dealId), index("activities_account").on(t.accountId)],
);

export const questions = pgTable("questions", {
	id: text("id").primaryKey(),
	ordinal: integer("ordinal").notNull(),
	area: text("area").notNull(),
	prompt: text("prompt").notNull(),
	help: text("help"),
	weight: doublePrecision("weight").notNull(),
	dueStagePosition: integer("due_stage_position").notNull(),
	key: boolean("key").notNull().default(false),
});

/** The questions as they stood from an instant on. Empty until the first change; then the first edition is the one before it. */
export const questionEditions = pgTable(
	"question_editions",
	{
		at: instant("at").notNull(),
		questionId: text("question_id")
			.notNull()
			.references(() => questions.id),
		place: integer("place").notNull(),
		area: text("area").notNull(),
		prompt: text("prompt").notNull(),
		help: text("help"),
		weight: doublePrecision("weight").notNull(),
		dueStagePosition: integer("due_stage_position").notNull(),
		key: boolean("key").notNull().default(false),
	},
	(t) => [primaryKey({ columns: [t.at, t.questionId] })],
);

export const answers = pgTable(
	"answers",
	{
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id),
		questionId: text("question_id")
			.notNull()
			.references(() => questions.id),
		level: text("level").notNull(),
		note: text("note"),
		at: instant("at").notNull(),
		byId: text("by_id"),
		/** what shows it: `activity:` or `contact:` and an id, or a link */
		shownBy: text("shown_by"),
	},
	(t) => [primaryKey({ columns: [t.dealId, t.questionId, t.at] })],
);

export const quotes = pgTable(
	"quotes",
	{
		id: text("id").primaryKey(),
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id),
		number: text("number"),
		sentOn: day("sent_on"),
		validUntil: day("valid_until"),
		answeredOn: day("answered_on"),
		answer: text("answer"),
		amount: minor("amount"),
		currency: text("currency"),
	},
	(t) => [index("quotes_deal").on(t.dealId)],
);

export const notes = pgTable(
	"notes",
	{
		id: text("id").primaryKey(),
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id),
		at: instant("at").notNull(),
		byId: text("by_id"),
		body: text("body").notNull(),
		/** ids of the people it calls on */
		mentions: text("mentions").array().notNull().default([]),
	},
	(t) => [index("notes_deal").on(t.dealId), index("notes_mentions").using("gin", t.mentions)],
);

export const closePlanSteps = pgTable(
	"close_plan_steps",
	{
		id: text("id").primaryKey(),
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id),
		title: text("title").notNull(),
		dueOn: day("due_on"),
		/** who does it: `ours` or `theirs` */
		side: text("side").notNull(),
		doneOn: day("done_on"),
	},
	(t) => [index("close_plan_steps_deal").on(t.dealId), check("close_plan_side", sql`${t.side} in ('ours', 'theirs')`)],
);

/** A way of looking at the deals that somebody keeps: the query of the address, and whom it is shared with. */
export const views = pgTable("views", {
	id: text("id").primaryKey(),
	ownerId: text("owner_id")
		.notNull()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	name: text("name").notNull(),
	query: text("query").notNull(),
	/** the team that sees it too, with the teams below; null while private */
	sharedWith: text("shared_with"),
	createdAt: instant("created_at").notNull().defaultNow(),
});

/** Where a person keeps a view in their own list, and whether Deals opens with it. */
export const viewPlaces = pgTable(
	"view_places",
	{
		personId: text("person_id")
			.notNull()
			.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
		viewId: text("view_id")
			.notNull()
			.references(() => views.id, { onDelete: "cascade" }),
		position: integer("position").notNull().default(0),
		opening: boolean("opening").notNull().default(false),
	},
	(t) => [primaryKey({ columns: [t.personId, t.viewId] })],
);

/** Rows that have no id of their own are told apart by an ordinal among the equal rest of their key. */
export const dealLines = pgTable(
	"deal_lines",
	{
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id),
		ordinal: integer("ordinal").notNull(),
		product: text("product"),
		family: text("family"),
		quantity: numeric("quantity"),
		listPrice: minor("list_price"),
		unitPrice: minor("unit_price"),
		currency: text("currency"),
	},
	(t) => [primaryKey({ columns: [t.dealId, t.ordinal] })],
);

export const orders = pgTable(
	"orders",
	{
		accountId: text("account_id")
			.notNull()
			.references(() => accounts.id),
		ordinal: integer("ordinal").notNull(),
		date: day("date").notNull(),
		product: text("product"),
		amount: minor("amount"),
		currency: text("currency"),
	},
	(t) => [primaryKey({ columns: [t.accountId, t.ordinal] })],
);

export const tasks = pgTable(
	"tasks",
	{
		id: text("id").primaryKey(),
		dealId: text("deal_id").references(() => deals.id),
		title: text("title").notNull(),
		assigneeId: text("assignee_id").references(() => people.id, { onUpdate: "cascade" }),
		dueOn: day("due_on"),
		createdAt: instant("created_at").notNull(),
		doneAt: instant("done_at"),
		state: text("state").notNull(),
		flags: text("flags").array().notNull().default([]),
		createdById: text("created_by_id"),
		note: text("note"),
	},
	(t) => [index("tasks_deal").on(t.dealId), index("tasks_assignee").on(t.assigneeId)],
);

export const targets = pgTable(
	"targets",
	{
		personId: text("person_id")
			.notNull()
			.references(() => people.id, { onUpdate: "cascade" }),
		periodStart: day("period_start").notNull(),
		periodEnd: day("period_end").notNull(),
		amount: minor("amount").notNull(),
		currency: text("currency").notNull(),
	},
	(t) => [primaryKey({ columns: [t.personId, t.periodStart, t.periodEnd] })],
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

export const marks = pgTable(
	"marks",
	{
		at: instant("at").notNull(),
		name: text("name").notNull(),
		byId: text("by_id"),
		/** what was open at that instant, and the newest version that was known then; null for marks that came with a bundle */
		seal: jsonb("seal").$type<Seal & { readonly newest: number }>(),
	},
	(t) => [primaryKey({ columns: [t.at, t.name] })],
);

/** Columns of a bundle that the program doesn't know, kept so that an export gives them back. */
export const importExtras = pgTable(
	"import_extras",
	{
		file: text("file").notNull(),
		rowKey: text("row_key").notNull(),
		fields: jsonb("fields").notNull().$type<Record<string, string>>(),
	},
	(t) => [primaryKey({ columns: [t.file, t.rowKey] })],
);

export interface StoredProblem {
	file: string;
	line: number | null;
	column: string | null;
	value: string | null;
	reason: string;
}

export const imports = pgTable("imports", {
	id: text("id").primaryKey(),
	byId: text("by_id"),
	name: text("name").notNull(),
	dryRun: boolean("dry_run").notNull().default(false),
	state: text("state").notNull(),
	step: text("step").notNull().default(""),
	done: integer("done").notNull().default(0),
	total: integer("total").notNull().default(0),
	startedAt: instant("started_at").notNull().defaultNow(),
	beatAt: instant("beat_at").notNull().defaultNow(),
	endedAt: instant("ended_at"),
	counts: jsonb("counts").notNull().$type<Record<string, number>>().default({}),
	changed: jsonb("changed").notNull().$type<Record<string, number>>().default({}),
	unknownColumns: jsonb("unknown_columns").notNull().$type<Record<string, string[]>>().default({}),
	problems: jsonb("problems").notNull().$type<StoredProblem[]>().default([]),
	problemCount: integer("problem_count").notNull().default(0),
});

export const audit = pgTable("audit", {
	id: bigserial("id", { mode: "number" }).primaryKey(),
	at: instant("at").notNull().defaultNow(),
	personId: text("person_id"),
	action: text("action").notNull(),
	subject: text("subject"),
	detail: jsonb("detail").notNull().$type<Record<string, unknown>>().default({}),
});

/** One row, raised by every write within its transaction: its lock makes the order of the tail the order of commits. */
export const revision = pgTable(
	"revision",
	{ id: integer("id").primaryKey().default(1), number: bigint("number", { mode: "number" }).notNull().default(0) },
	(t) => [check("one_revision", sql`${t.id} = 1`)],
);

export type TailPart = "marks" | "settings";

/** What changed at each revision: a deal, one part of the rest, or (null) anything at all. */
export const tail = pgTable(
	"tail",
	{
		id: bigserial("id", { mode: "number" }).primaryKey(),
		revision: bigint("revision", { mode: "number" }).notNull(),
		dealId: text("deal_id"),
		part: text("part").$type<TailPart>(),
	},
	(t) => [index("tail_revision").on(t.revision)],
);

/** Kept by the limiter of sign-in attempts; in its form. */
export const signInAttempts = pgTable("sign_in_attempts", {
	key: text("key").primaryKey(),
	points: integer("points").notNull().default(0),
	expire: bigint("expire", { mode: "number" }),
});
