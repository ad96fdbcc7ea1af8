import { BLANK_STATE, differing } from "../deal/fields";
import type { DealState } from "../deal/state";

/** What was said of a deal at an instant (ms since the epoch): the fields a file has columns for, or what was decided of a missing deal. */
export interface Statement {
	readonly at: number;
	readonly state: Partial<DealState>;
}

export interface DealVersion {
	readonly at: number;
	readonly state: DealState;
}

/**
 * What a statement leaves unsaid stays as it was.
 *
 * @example overlay({ stage: "Terms", amount: 5 }, { amount: 7 }) // { "stage": "Terms", "amount": 7 }
 */
export const overlay = (state: DealState | null, said: Partial<DealState>): DealState => ({ ...(state ?? BLANK_STATE), ...said });

/**
 * The versions that statements make beside those that are fixed (made by hand or by a bundle): one wherever a
 * statement differs from what is in force, none where it only repeats it. It depends on what was said of which
 * instant alone, so files may come late, twice or in any order. Of two at one instant the fixed version comes first.
 */
export function versionsFrom(statements: readonly Statement[], fixed: readonly DealVersion[]): DealVersion[] {
	const made: DealVersion[] = [];
	const events = [...fixed.map((version) => ({ ...version, isFixed: true })), ...statements.map((statement) => ({ ...statement, isFixed: false }))].sort(
		(a, b) => a.at - b.at || Number(b.isFixed) - Number(a.isFixed),
	);
	let state: DealState | null = null;
	for (const event of events) {
		const next: DealState = event.isFixed ? overlay(null, event.state) : overlay(state, event.state);
		if (!event.isFixed && (state === null || differing(state, next).length)) made.push({ at: event.at, state: next });
		state = next;
	}
	return made;
}

/** What is in force at an instant among versions in any order; null before the first. */
export function inForce(versions: readonly DealVersion[], at: number): DealState | null {
	let found: DealVersion | null = null;
	for (const version of versions) if (version.at <= at && (!found || version.at > found.at)) found = version;
	return found?.state ?? null;
}
