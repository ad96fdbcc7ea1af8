import { sql } from "drizzle-orm";
import { bigint, customType, date, type ExtraConfigColumn, index, text, timestamp } from "drizzle-orm/pg-core";

/** Instants are `timestamptz` to the millisecond; amounts are integers in minor units of the currency beside them. */
export const instant = (name: string) => timestamp(name, { withTimezone: true, precision: 3, mode: "date" });

/** An amount in whole minor units of its currency. */
export const minor = (name: string) => bigint(name, { mode: "number" });

/** A name of a row that stays with it from one installation to another. */
export const uid = () => text("uid").notNull().unique().default(sql`gen_random_uuid()::text`);

/** A calendar day in the company’s zone, ISO. */
export const day = (name: string) => date(name, { mode: "string" });

export const bytes = customType<{ data: Buffer }>({ dataType: () => "bytea" });

/** Finds words anywhere in a text, by its groups of three letters. */
export const wordsIndex = (name: string, column: ExtraConfigColumn) => index(name).using("gin", column.op("gin_trgm_ops"));
