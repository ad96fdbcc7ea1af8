import { bigint, date, timestamp } from "drizzle-orm/pg-core";

/** Instants are `timestamptz` to the millisecond; amounts are integers in minor units of the currency beside them. */
export const instant = (name: string) => timestamp(name, { withTimezone: true, precision: 3, mode: "date" });

export const minor = (name: string) => bigint(name, { mode: "number" });

export const day = (name: string) => date(name, { mode: "string" });
