import { type Day, NO_DAY, parseDay } from "@/core/time/day";

export type Stored = Record<string, unknown>;

/** A stored ISO day as a day; NO_DAY where there is none. */
export const dayIn = (value: unknown): Day => (typeof value === "string" ? (parseDay(value) ?? NO_DAY) : NO_DAY);

/** A stored text; null where it is blank. */
export const text = (value: unknown): string | null => (typeof value === "string" && value ? value : null);
