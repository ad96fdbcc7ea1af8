import type { MoveKey } from "@/core/outlook/moved";

/** The steps of the bridge of an outlook's mean, in words. */
export const MOVE_WORDS: Readonly<Record<MoveKey, string>> = {
	won: "won, above their chances",
	new: "came into the period",
	gone: "lost, or out of the period",
	chancesUp: "chances up",
	chancesDown: "chances down",
	amounts: "amounts",
	elsewhere: "dated elsewhere",
	fresh: "not there yet",
};
