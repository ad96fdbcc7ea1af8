import { CATEGORIES, OTHER_CATEGORY_WORDS } from "../../core/history/columns";
import { BUYING_ROLES } from "../../core/people/buyingRoles";
import { choice, currency, day, type FileSpec, field, id, instant, money, needed, ref, text } from "./field";

/** Files of the people, accounts and deals of a team, with how each deal went and what was said. */
export const DEAL_SPECS: readonly FileSpec[] = [
	{
		file: "people.csv",
		required: true,
		key: ["id"],
		fields: [
			id(),
			text("name", needed),
			text("email"),
			choice("role", ["manager", "rep", "ops", "viewer"], needed),
			text("team"),
			text("parent_team"),
			day("active_from"),
			day("active_to"),
			field("also", { is: "words" }, { extra: true }),
		],
	},
	{
		file: "accounts.csv",
		required: true,
		key: ["id"],
		fields: [id(), text("name"), choice("kind", ["customer", "prospect"]), text("industry"), text("territory"), ref("owner_id", "people.csv")],
	},
	{
		file: "stages.csv",
		required: true,
		key: ["name"],
		fields: [
			field("position", { is: "whole", least: 0, most: 1000 }, needed),
			id("name"),
			choice("kind", ["open", "won", "lost"], needed),
			field("probability", { is: "decimal", least: 0, most: 1 }, needed),
			// Of won and lost stages it may be blank.
			field("usual_days", { is: "decimal", least: 0, most: 10_000 }),
		],
	},
	{
		file: "contacts.csv",
		required: false,
		key: ["id"],
		fields: [
			id(),
			ref("account_id", "accounts.csv"),
			text("name"),
			text("title"),
			text("email"),
			choice("buying_role", BUYING_ROLES),
			ref("reports_to_id", "contacts.csv"),
		],
	},
	{
		file: "deals.csv",
		required: true,
		key: ["id"],
		fields: [
			id(),
			ref("account_id", "accounts.csv"),
			text("name"),
			text("source"),
			instant("created_at", needed),
			text("competitor"),
			text("outcome_reason"),
			field("tags", { is: "words" }),
		],
	},
	{
		file: "deal_versions.csv",
		required: true,
		key: ["deal_id", "at"],
		fields: [
			ref("deal_id", "deals.csv", needed),
			instant("at", needed),
			// A row with nothing but its deal and instant: the deal was taken off the books.
			ref("stage", "stages.csv", { ...needed, blankAlone: true }),
			money(),
			currency(),
			day("close_date"),
			ref("owner_id", "people.csv"),
			field("category", { is: "choice", of: CATEGORIES, words: OTHER_CATEGORY_WORDS }),
			text("next_step"),
			day("next_step_date"),
			ref("by_id", "people.csv", { extra: true }),
			text("reason", { extra: true }),
		],
	},
	{
		file: "deal_contacts.csv",
		required: false,
		key: ["deal_id", "contact_id"],
		fields: [ref("deal_id", "deals.csv", needed), ref("contact_id", "contacts.csv", needed), choice("buying_role", BUYING_ROLES, { extra: true })],
	},
	{
		file: "activities.csv",
		required: false,
		key: ["id"],
		fields: [
			id(),
			ref("deal_id", "deals.csv"),
			ref("account_id", "accounts.csv"),
			field("contact_ids", { is: "ids" }, { refers: "contacts.csv" }),
			text("kind", needed),
			choice("direction", ["in", "out", "both", "none"], needed),
			choice("state", ["planned", "done"], needed),
			instant("at", needed),
			ref("by_id", "people.csv"),
			text("subject"),
			text("body"),
			text("message_id", { extra: true }),
			choice("dropped_from", ["in", "out", "both", "none"], { extra: true }),
		],
	},
];
