import { v7 } from "uuid";

/**
 * An id for something made here, with what it is in front. Ids grow with time, so rows that are made one after the other
 * lie side by side in the database's indexes.
 *
 * @example newId("task") // "task-01935f6e-…"
 */
export const newId = (kind?: string): string => (kind ? `${kind}-${v7()}` : v7());
