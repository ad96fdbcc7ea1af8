import { sql } from "drizzle-orm";
import { bigserial, doublePrecision, index, integer, numeric, pgTable, primaryKey, text, uniqueIndex } from "drizzle-orm/pg-core";
import type { FormerField } from "@/core/formerFields";
import { accounts, contacts } from "./accounts";
import { day, instant, minor, uid } from "./columns";
import { people } from "./people";

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

/** What versions and weekly files say of a deal's state: the columns of the versioned fields. */
export const stateColumns = () => ({
	/** null: taken off the books */
	stage: text("stage").references(() => stages.name, { onUpdate: "cascade" }),
	amount: minor("amount"),
	currency: text("currency"),
	closeDate: day("close_date"),
	ownerId: text("owner_id").references(() => people.id, { onUpdate: "cascade" }),
	category: text("category"),
	nextStep: text("next_step"),
	nextStepDate: day("next_step_date"),
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
		...stateColumns(),
		byId: text("by_id"),
		importId: text("import_id"),
		/** why it was changed, in the words of whoever did */
		reason: text("reason"),
	},
	(t) => [
		uniqueIndex("deal_versions_at").on(t.dealId, t.validFrom),
		uniqueIndex("deal_versions_current").on(t.dealId).where(sql`${t.validTo} is null`),
		index("deal_versions_currency").on(t.currency),
	],
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
		/** their part in this deal; without one, the contact's own holds */
		buyingRole: text("buying_role"),
	},
	(t) => [primaryKey({ columns: [t.dealId, t.contactId] })],
);

/**
 * What a fact that isn't kept with versions was before it was changed: a deal's name, account, competitor or reason, whether somebody was
 * on a deal, their part in it (of a contact alone: their part on every deal); what an account was called, of what kind and whose it was,
 * and that it was made here; the same of a contact. A past day is read with what was so then.
 */
export const formerFacts = pgTable(
	"former_facts",
	{
		id: bigserial("id", { mode: "number" }).primaryKey(),
		/** names it in bundles: the number is this installation's own */
		uid: uid(),
		at: instant("at").notNull(),
		dealId: text("deal_id").references(() => deals.id, { onDelete: "cascade" }),
		contactId: text("contact_id").references(() => contacts.id, { onDelete: "cascade" }),
		accountId: text("account_id").references(() => accounts.id, { onDelete: "cascade" }),
		field: text("field").$type<FormerField>().notNull(),
		before: text("before"),
	},
	(t) => [index("former_facts_deal").on(t.dealId), index("former_facts_contact").on(t.contactId), index("former_facts_account").on(t.accountId)],
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
