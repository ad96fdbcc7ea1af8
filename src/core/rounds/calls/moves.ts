import { NO_DAY } from "../../time/day";
import { call, isWithin } from "../call";

/** It counts where the new day lies within the period, and came true where the deal did as it was called. */
export const moves = call({
	key: "moves",
	label: "Moves",
	means: "will close on another day",
	comesTrue: "it isn’t won in the period, or the new date is met",
	asks: "day",
	counts: isWithin,
	trueIfWon: ({ end }, to) => to !== NO_DAY && to <= end,
	trueIfNot: ({ end }, to) => to > end || to === NO_DAY,
});
