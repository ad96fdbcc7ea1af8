import type { Day } from "../time/day";

export const LEVELS = ["unknown", "against", "assumed", "heard", "shown"] as const;
export type Level = (typeof LEVELS)[number];

export interface Answer {
	/** slot of the question */
	readonly question: number;
	readonly level: Level;
	readonly at: number;
	readonly day: Day;
}
