import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";

/**
 * Whether an open deal is carried over into a period that isn’t its own: its close date lies before the day it is seen
 * on, and nobody has given it another, won it, lost it or let it go. Such a deal asks for a decision whatever period is
 * looked at.
 *
 * @example [isCarried({ start: 10, end: 19 }, 8, 12), isCarried({ start: 10, end: 19 }, 11, 12), isCarried({ start: 10, end: 19 }, 25, 12)] // [true, false, false]
 */
export const isCarried = ({ start, end }: Period, close: Day, seen: Day): boolean => close !== NO_DAY && close < seen && (close < start || close > end);
