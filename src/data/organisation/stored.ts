import { type Day, NO_DAY, parseDay } from "@/core/time/day";

export type Stored = Record<string, unknown>;

export const dayIn = (value: unknown): Day => (typeof value === "string" ? (parseDay(value) ?? NO_DAY) : NO_DAY);

export const text = (value: unknown): string | null => (typeof value === "string" && value ? value : null);
