import { sql } from "drizzle-orm";
import { bigint, check, integer, pgTable, primaryKey, text, uniqueIndex } from "drizzle-orm/pg-core";
import { day, instant, minor } from "./columns";

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
		/** other names and addresses that files call them by */
		also: text("also").array().notNull().default([]),
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

/** Kept by the limiter of sign-in attempts; in its form. */
export const signInAttempts = pgTable("sign_in_attempts", {
	key: text("key").primaryKey(),
	points: integer("points").notNull().default(0),
	expire: bigint("expire", { mode: "number" }),
});

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
