import { NO_DAY } from "../time/day";
import type { Period } from "../time/period";
import { CALLS, type Call, type Called } from "./call";

/** What came of a deal that was called: how it stands, and when it was closed. */
export interface Came {
	readonly status: "open" | "won" | "lost";
	readonly closedDay: number;
}

/** Whether a call came true by the end of its period; null as long as the period runs and nothing has settled it. */
export function cameTrue({ call, to }: Called, period: Period, came: Came, seen: number): boolean | null {
	const wonInTime = came.status === "won" && came.closedDay <= period.end;
	if (wonInTime) return call === "holds" || call === "shaky" || (call === "moves" && to !== NO_DAY && to <= period.end);
	if (came.status === "lost") return call === "gone";
	if (seen <= period.end) return null;
	// The period is over, and it was not won in it.
	if (call === "moves") return to > period.end || to === NO_DAY;
	return call === "gone" ? null : false;
}

/** How calls held: how many of each, how many came true or not, and how many can't be told yet. */
export type Held = Readonly<Record<Call, { readonly called: number; readonly true: number; readonly false: number; readonly open: number }>>;

/** Counts how calls held. */
export function heldOf(calls: Iterable<{ readonly call: Call; readonly came: boolean | null }>): Held {
	const counts = Object.fromEntries(CALLS.map((call) => [call, { called: 0, true: 0, false: 0, open: 0 }])) as Record<
		Call,
		{ called: number; true: number; false: number; open: number }
	>;
	for (const { call, came } of calls) {
		const own = counts[call];
		own.called++;
		own[came === null ? "open" : came ? "true" : "false"]++;
	}
	return counts;
}
