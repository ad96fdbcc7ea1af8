import { boolean, index, integer, jsonb, pgTable, primaryKey, serial, text } from "drizzle-orm/pg-core";
import { day, instant, minor, uid } from "./columns";
import { deals } from "./deals";
import { people } from "./people";

/** What a period comes to at a moment of a round, in base minor units. */
export interface RoundTotals {
	readonly target: number | null;
	readonly won: number;
	readonly byWord: number;
	readonly byCalls: number;
	readonly shaky: number;
}

/** The same as it is kept: with each person's part, by their id (empty: deals of nobody), so that a reader who sees some people only is told theirs. */
export interface KeptTotals extends RoundTotals {
	readonly people?: Readonly<Record<string, RoundTotals>>;
}

/** Reviews: a round over somebody's deals, or a manager's own walk. */
export const rounds = pgTable(
	"rounds",
	{
		id: text("id").primaryKey(),
		/** `round` or `walk` */
		kind: text("kind").notNull(),
		name: text("name").notNull(),
		/** whose deals and of which period, as the address says them */
		whose: text("whose").notNull(),
		due: text("due").notNull(),
		/** `attention`, `amount` or `hand` */
		sorted: text("sorted").notNull(),
		startedById: text("started_by_id")
			.notNull()
			.references(() => people.id, { onUpdate: "cascade" }),
		startedAt: instant("started_at").notNull(),
		/** null while it runs */
		endedAt: instant("ended_at"),
		endedById: text("ended_by_id"),
		/** the deal it is at, for everybody who takes part */
		atDeal: text("at_deal"),
		note: text("note").notNull().default(""),
		before: jsonb("before").notNull().$type<KeptTotals>(),
		after: jsonb("after").$type<KeptTotals>(),
		planId: text("plan_id"),
		/** when it began and ended by the server's own clock, which the audit keeps to even while the day is held */
		beganReally: instant("began_really").notNull().defaultNow(),
		endedReally: instant("ended_really"),
	},
	(t) => [index("rounds_started").on(t.startedAt)],
);

/** The deals of a round in their order. */
export const roundDeals = pgTable(
	"round_deals",
	{
		roundId: text("round_id")
			.notNull()
			.references(() => rounds.id, { onDelete: "cascade" }),
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id, { onDelete: "cascade", onUpdate: "cascade" }),
		place: integer("place").notNull(),
		/** what was noted of it in this round */
		note: text("note").notNull().default(""),
	},
	(t) => [primaryKey({ columns: [t.roundId, t.dealId] }), index("round_deals_deal").on(t.dealId)],
);

/** Every call of a round; the newest of a deal is the one that holds. */
export const roundCalls = pgTable(
	"round_calls",
	{
		id: serial("id").primaryKey(),
		/** names it in bundles: the number is this installation's own */
		uid: uid(),
		roundId: text("round_id")
			.notNull()
			.references(() => rounds.id, { onDelete: "cascade" }),
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id, { onDelete: "cascade", onUpdate: "cascade" }),
		at: instant("at").notNull(),
		byId: text("by_id")
			.notNull()
			.references(() => people.id, { onUpdate: "cascade" }),
		/** a call of a round, or what a walk decided; null: it was taken back */
		call: text("call"),
		/** the new day of one that moves */
		toDay: day("to_day"),
		why: text("why"),
		competitor: text("competitor"),
		/** how it was left: `deal`: changed at once, `task`: for the rep, `none` */
		left: text("left").notNull().default("none"),
		/** what the rep said of it then */
		category: text("category"),
		amountBase: minor("amount_base").notNull().default(0),
		closeDay: day("close_day"),
		ownerId: text("owner_id"),
	},
	(t) => [index("round_calls_round").on(t.roundId), index("round_calls_deal").on(t.dealId)],
);

/** Rounds that come again: on a day of the week, over some people's deals. */
export const roundPlans = pgTable("round_plans", {
	id: text("id").primaryKey(),
	name: text("name").notNull(),
	whose: text("whose").notNull(),
	/** 1 is Monday */
	weekday: integer("weekday").notNull(),
	sorted: text("sorted").notNull().default("attention"),
	calmToo: boolean("calm_too").notNull().default(false),
	byId: text("by_id")
		.notNull()
		.references(() => people.id, { onUpdate: "cascade" }),
	version: integer("version").notNull().default(1),
});

/** Deals that their rep has said to be ready for the next round. */
export const roundReady = pgTable(
	"round_ready",
	{
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id, { onDelete: "cascade", onUpdate: "cascade" }),
		personId: text("person_id")
			.notNull()
			.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
		at: instant("at").notNull(),
	},
	(t) => [primaryKey({ columns: [t.dealId, t.personId] })],
);

/** Lit deals that are left alone till a day; asked for by reps, given by managers. */
export const rests = pgTable(
	"rests",
	{
		id: text("id").primaryKey(),
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id, { onDelete: "cascade", onUpdate: "cascade" }),
		/** `asked`, `given` or `refused` */
		state: text("state").notNull(),
		fromDay: day("from_day").notNull(),
		untilDay: day("until_day").notNull(),
		reason: text("reason").notNull(),
		/** codes of the flags that were lit when it was given */
		flags: text("flags").array().notNull().default([]),
		askedById: text("asked_by_id"),
		/** who gave or refused it */
		byId: text("by_id"),
		at: instant("at").notNull(),
		/** the first day on which it no longer held, where it ended before its time, and by what */
		endedOn: day("ended_on"),
		endedBy: text("ended_by"),
	},
	(t) => [index("rests_deal").on(t.dealId)],
);
