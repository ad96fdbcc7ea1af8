import { v7 } from "uuid";

/** What is written at the same time may be committed later than what was looked at: so far back is looked again, in ms. */
const OVERLAP = 15 * 60_000;
/** The same for rows that are numbered one after the other. */
const OVERLAP_ROWS = 1000;

/** The id from which on rows of a kind that were made lately have theirs: ids grow with the time at which they were made. */
export const overlapCursor = (kind: string): string => `${kind}-${v7({ msecs: Date.now() - OVERLAP, seq: 0, random: new Uint8Array(16) })}`;

/** The number from which on rows may have been committed lately, by the newest there is. */
export const overlapRowCursor = (newest: number): number => Math.max(0, newest - OVERLAP_ROWS);
