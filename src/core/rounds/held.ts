import type { Period } from "../time/period";
import { CALLS, type Call, type Called, callKind } from "./calls";

/** What came of a deal that was called: how it stands, and when it was closed. */
export interface Came {
	readonly status: "open" | "won" | "lost";
	readonly closedDay: number;
}

/**
 * Whether a call came true by the end of its period; null as long as the period runs and nothing has settled it.
 *
 * @example cameTrue({ call: "holds", to: 0 }, { start: 1, end: 9 }, { status: "won", closedDay: 9 }, 9) // true
 */
export function cameTrue({ call, to }: Called, period: Period, came: Came, seen: number): boolean | null {
	const kind = callKind(call);
	if (came.status === "won" && came.closedDay <= period.end) return kind.trueIfWon(period, to);
	if (came.status === "lost") return kind.trueIfLost;
	// The period is over, and it was not won in it.
	return seen <= period.end ? null : kind.trueIfNot(period, to);
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
