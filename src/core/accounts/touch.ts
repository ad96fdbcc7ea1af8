import type { Direction } from "../contact/activity";
import type { Day } from "../time/day";

/** A done activity with somebody outside, as accounts and people of theirs are told of it. */
export interface AccountTouch {
	readonly id: string;
	/** ms since the epoch, and its day */
	readonly at: number;
	readonly day: Day;
	readonly kind: string;
	readonly direction: Exclude<Direction, "none">;
	/** index of the person of ours, or NONE */
	readonly by: number;
	/** ids of people of theirs */
	readonly contacts: readonly string[];
}

/** so many calendar days back figures of accounts and people look */
export const LOOKS_BACK = 365;

/** Whether a day is one of those that figures seen on another look at: (seen − 365, seen]. */
export const isLookedAt = (day: Day, seen: Day): boolean => day > seen - LOOKS_BACK && day <= seen;

/** Of two touches the newer: the later instant, at one instant the higher id. */
export const isNewer = (one: Pick<AccountTouch, "at" | "id">, other: Pick<AccountTouch, "at" | "id">): boolean =>
	one.at > other.at || (one.at === other.at && one.id > other.id);

/** The newest of some touches; null of none. */
export function newestOf<T extends Pick<AccountTouch, "at" | "id">>(touches: Iterable<T>): T | null {
	let newest: T | null = null;
	for (const touch of touches) if (!newest || isNewer(touch, newest)) newest = touch;
	return newest;
}
