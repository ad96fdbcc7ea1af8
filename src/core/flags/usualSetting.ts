import { PERCENTILES, type Percentile } from "../history/usual";
import type { SettingSpec } from "./settings";

/** A setting that is one of the percentiles at which usual times are known. */
export const percentileSetting = (words: string, standard: Percentile): SettingSpec => ({
	label: words,
	unit: "of 100",
	standard,
	min: PERCENTILES[0],
	max: PERCENTILES[PERCENTILES.length - 1] as number,
	choices: PERCENTILES,
});

/**
 * A setting's value as a percentile; the standard where it is none.
 *
 * @example [percentileOf(75, 90), percentileOf(33, 90), percentileOf(null, 25)] // [75, 90, 25]
 */
export const percentileOf = (value: number | null, standard: Percentile): Percentile => PERCENTILES.find((p) => p === value) ?? standard;

const OF_WON: Readonly<Record<Percentile, string>> = { 25: "one of four", 50: "half", 75: "three of four", 90: "nine of ten" };
/** How many of the won deals a percentile speaks of: `nine of ten`. */
export const ofWon = (percentile: Percentile): string => OF_WON[percentile];
