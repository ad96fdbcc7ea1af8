import { sql } from "drizzle-orm";
import { bigint, boolean, check, index, integer, jsonb, pgTable, primaryKey, text, uniqueIndex } from "drizzle-orm/pg-core";
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
		/** the secret of one-time codes, sealed; null where they aren't switched on. `lastCode` is the step of the last one that was used */
		codeSecret: text("code_secret"),
		lastCode: bigint("last_code", { mode: "number" }),
		/** who they are at the company’s sign-in: its issuer and the subject there */
		subject: text("subject").unique(),
	},
	(t) => [uniqueIndex("people_email").on(sql`lower(${t.email})`), check("people_role", sql`${t.role} in ('manager', 'rep', 'ops', 'viewer')`)],
);

/** Tokens are kept as SHA-256 only: whoever reads the table can't sign in with it. */
export const sessions = pgTable("sessions", {
	tokenHash: text("token_hash").primaryKey(),
	/** names it to the person whose it is */
	id: text("id").notNull().default(sql`gen_random_uuid()::text`),
	personId: text("person_id")
		.notNull()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	createdAt: instant("created_at").notNull().defaultNow(),
	expiresAt: instant("expires_at").notNull(),
	lastSeenAt: instant("last_seen_at").notNull().defaultNow(),
	/** the browser and the address it was opened from, as they said */
	agent: text("agent").notNull().default(""),
	source: text("source").notNull().default(""),
	/** opened by the company’s sign-in: its own session, and the sealed token that says so */
	providerSid: text("provider_sid"),
	idToken: text("id_token"),
});

/** A group that the company’s sign-in names, and what its people are here. */
export interface GroupRole {
	readonly group: string;
	readonly role: string;
	readonly team: string | null;
}

/** The company’s own sign-in (OpenID Connect); one row at most. */
export const signInProvider = pgTable(
	"sign_in_provider",
	{
		id: integer("id").primaryKey().default(1),
		on: boolean("on").notNull().default(true),
		/** as people call it */
		name: text("name").notNull(),
		issuer: text("issuer").notNull(),
		clientId: text("client_id").notNull(),
		/** sealed */
		clientSecret: text("client_secret"),
		/** the claim that names somebody’s groups; a path of names parted by points */
		claim: text("claim").notNull().default("groups"),
		/** of several that fit the first holds; none: people are let in who are here already */
		groups: jsonb("groups").$type<readonly GroupRole[]>().notNull().default([]),
		/** others than the emergency person sign in with passwords, too */
		passwords: boolean("passwords").notNull().default(true),
		/** who set it up last: in their name its people are made */
		setById: text("set_by_id").references(() => people.id, { onDelete: "set null", onUpdate: "cascade" }),
		emergencyId: text("emergency_id").references(() => people.id, { onDelete: "set null", onUpdate: "cascade" }),
	},
	(t) => [check("one_sign_in_provider", sql`${t.id} = 1`)],
);

/** What the company’s directory calls somebody (SCIM 2.0), beside what is known of them here. */
export const directoryPeople = pgTable(
	"directory_people",
	{
		personId: text("person_id")
			.primaryKey()
			.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
		userName: text("user_name").notNull(),
		externalId: text("external_id"),
		givenName: text("given_name"),
		familyName: text("family_name"),
		/** taken out of the directory: it is told of them no more */
		goneAt: instant("gone_at"),
	},
	(t) => [uniqueIndex("directory_people_user").on(sql`lower(${t.userName})`).where(sql`${t.goneAt} is null`)],
);

/** A group of the company’s directory; what its members are here, the company sign-in’s list says. */
export const directoryGroups = pgTable("directory_groups", {
	id: text("id").primaryKey(),
	displayName: text("display_name").notNull(),
	externalId: text("external_id"),
});

export const directoryMembers = pgTable(
	"directory_members",
	{
		groupId: text("group_id")
			.notNull()
			.references(() => directoryGroups.id, { onDelete: "cascade" }),
		personId: text("person_id")
			.notNull()
			.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	},
	(t) => [primaryKey({ columns: [t.groupId, t.personId] }), index("directory_members_person").on(t.personId)],
);

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
	/** may it write; and in which areas (capabilities) it may do anything: none named is all */
	write: boolean("write").notNull().default(true),
	areas: text("areas").array().notNull().default([]),
	expiresAt: instant("expires_at"),
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
		/** the product family it is for; empty: for all that a person wins */
		family: text("family").notNull().default(""),
	},
	(t) => [primaryKey({ columns: [t.personId, t.periodStart, t.periodEnd, t.family] })],
);

/** What was handed over of somebody, or ended with them, so that it can be undone whole. */
export const handovers = pgTable("handovers", {
	id: text("id").primaryKey(),
	personId: text("person_id")
		.notNull()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	byId: text("by_id").notNull(),
	at: instant("at").notNull(),
	record: jsonb("record").notNull().$type<HandedOver>(),
	undoneAt: instant("undone_at"),
});

/** What stood before, and what names each change that was made. */
export interface HandedOver {
	/** the last day that was set before; undefined where none was set now */
	readonly lastDay?: string | null;
	readonly deals: readonly { readonly id: string; readonly versionId: number }[];
	/** the changes of tasks, by their ids */
	readonly changes: readonly number[];
	readonly plans: readonly Readonly<Record<string, unknown>>[];
	readonly targets: readonly { personId: string; start: string; end: string; family: string; amount: number | null; currency: string }[];
	/** what was put in the place of the targets: they are undone only while that stands */
	readonly targetsAfter: HandedOver["targets"];
	/** the ways in that were ended at once; sessions and links aren't opened again */
	readonly ways: {
		readonly keys: readonly string[];
		readonly webhooks: readonly string[];
		readonly calendar: { tokenHash: string; madeAt: string } | null;
	} | null;
}

/** What a manager means to talk about with one of theirs: theirs who lead alone to read, carried on until it is struck off. */
export const talkPoints = pgTable(
	"talk_points",
	{
		id: text("id").primaryKey(),
		personId: text("person_id")
			.notNull()
			.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
		byId: text("by_id").notNull(),
		at: instant("at").notNull(),
		body: text("body").notNull(),
		struckAt: instant("struck_at"),
	},
	(t) => [index("talk_points_person").on(t.personId)],
);

/** On which days somebody last looked at their desk: on the newest, and on the one before, since when they are told what happened. */
export const deskLooks = pgTable("desk_looks", {
	personId: text("person_id")
		.primaryKey()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	day: day("day").notNull(),
	before: day("before"),
});

/** What somebody is done with on their desk, as it was said then: said otherwise it is there again. */
export const deskAsides = pgTable(
	"desk_asides",
	{
		personId: text("person_id")
			.notNull()
			.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
		item: text("item").notNull(),
		said: text("said").notNull(),
		at: instant("at").notNull(),
	},
	(t) => [primaryKey({ columns: [t.personId, t.item] })],
);
