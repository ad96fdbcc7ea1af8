import type { tasks } from "@/data/schema";

/** A task as its table has it. */
export type StoredTask = typeof tasks.$inferSelect;
