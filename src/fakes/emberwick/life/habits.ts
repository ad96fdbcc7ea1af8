import type { Day } from "../../../core/time/day";
import type { Almanac, Chance } from "../almanac";
import { tidy } from "../ledger";
import type { Plan } from "../plan";
import { QUESTIONS } from "../words";

/** The category a rep gives a deal that enters a stage, by its rank from 0. */
export function categoryAt(chance: Chance, { habit, ending }: Plan, rank: number): string | null {
	if (habit === "commits-early" && rank >= 2) return "commit";
	if (chance.yes(0.04)) return "left_out";
	const wins = ending === "won";
	if (rank === 4) return chance.yes(wins ? 0.85 : 0.06) ? "commit" : "best_case";
	if (rank === 3 && chance.yes(wins ? 0.2 : 0.01)) return "commit";
	if (rank === 3) return chance.yes(0.65) ? "best_case" : "pipeline";
	return "pipeline";
}

/** The amount of a deal that enters a stage: named late by some, negotiated with the offer. */
export function amountAt(chance: Chance, { family }: Plan, rank: number, before: number | null): number | null {
	const amount = rank >= 1 && before === null && chance.yes(0.8) ? tidy(family.low * 1600) : before;
	if (rank !== 3 || amount === null || !chance.yes(0.5)) return amount;
	return tidy(amount * (chance.yes(0.12) ? 0.75 + chance.unit() * 0.1 : 0.94 + chance.unit() * 0.14));
}

/** The questions that are answered or answered anew in a stage, one after another; `answered` is kept up by it. */
export function* newAnswers(chance: Chance, rank: number, answered: Map<string, string>): Generator<{ id: string; level: string }> {
	for (const { id, due, key } of QUESTIONS) {
		if (due > rank + 1) continue;
		const before = answered.get(id);
		if (before === "shown" || (before === "heard" && chance.yes(0.6)) || chance.yes(key ? 0.05 : 0.18)) continue;
		const roll = chance.unit();
		const level = roll < 0.07 ? "assumed" : roll < 0.58 ? "heard" : roll < 0.97 ? "shown" : "against";
		answered.set(id, level);
		yield { id, level };
	}
}

interface Standing {
	readonly habit: Plan["habit"];
	readonly day: Day;
	readonly close: Day | null;
	/** working days until the deal ends */
	readonly stillToGo: number;
}

/** Where a close date that no longer fits is pushed: by some at each month's end, by others once it has passed; null where it stays. */
export function pushedClose(almanac: Almanac, chance: Chance, { habit, day, close, stillToGo }: Standing): Day | null {
	if (close === null) return null;
	const { calendar } = almanac;
	const lastDays = calendar.between(day, almanac.monthEnd(day)) < 3;
	const left = calendar.between(day, close);
	const monthly = habit === "pushes-at-month-end";
	const late = left < 0 ? 0.11 : left < stillToGo * 0.5 && left < 15 ? 0.08 : 0;
	const wish = monthly ? (lastDays && left < Math.min(stillToGo, 22) ? 0.5 : 0) : late * (lastDays ? 0.1 : 1);
	if (!chance.yes(wish)) return null;
	const to = calendar.add(day, Math.max(6, Math.round(stillToGo * (monthly ? 0.3 + chance.unit() * 0.5 : 0.8 + chance.unit() * 0.5))));
	return chance.yes(0.4) ? almanac.monthEnd(to) : to;
}

/** What reps are asked for now and then: the flags that a task is against, and its title. */
export const TASKS_GIVEN = [
	[["no-next-step"], "Set the next step with a date"],
	[["stalled"], "Get a conversation with the buyer on the calendar"],
	[["under-qualified"], "Ask who signs, and meet them"],
	[["overdue", "slipped"], "Agree a real close date with the buyer"],
] as const;
