import { toldApart } from "@/core/statistics/toldApart";
import { commits } from "./commits";
import { discounts } from "./discounts";
import type { HabitGround, HabitKind, HabitRow } from "./habit";
import { pushes } from "./pushes";
import { rounds } from "./rounds";
import { stages } from "./stages";
import { tasks } from "./tasks";

const HABITS: readonly HabitKind[] = [commits, pushes, stages, discounts, rounds, tasks];

/** One figure beside all others’, and whether the two differ by more than chance, among all that were compared. */
export interface Habit extends Omit<HabitRow, "p"> {
	readonly place: string | null;
	readonly tested: boolean;
	readonly apart: boolean;
}

/** Everything that is compared of somebody, in the order in which it is told. */
export async function habitsOf(ground: HabitGround): Promise<Habit[]> {
	const rows = (await Promise.all(HABITS.map(async ({ place, rows }) => (await rows(ground)).map((row) => ({ ...row, place }))))).flat();
	const verdicts = toldApart(rows.map(({ p }) => p));
	return rows.map(({ p, ...row }, i) => ({ ...row, tested: p !== null, apart: verdicts[i] as boolean }));
}
