/** A share in whole per cent; a dash where nothing is said. */
export const percent = (value: number | null): string => (value === null ? "–" : `${Math.round(100 * value)}%`);

/** How an answer is known, as its own screen calls it. */
export const levelWords = (level: string): string => (level === "against" ? "against us" : level);

/** What a grouping is called where nothing is said of a deal. */
export const spelt = (text: string | null | undefined, none: string): string => text?.replaceAll("_", " ") || none;
