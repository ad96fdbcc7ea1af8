import { DAYS_TAKEN, type Day, inBounds, parseDay } from "@/core/time/day";
import { ALWAYS, type Period } from "@/core/time/period";
import type { Context } from "./context";
import { Fault } from "./fault";

/** A day of a query, or the given one; a day to come is refused: nobody has seen it. */
export function dayAsked(context: Context, name: string, text: string | undefined): Day {
	if (!text) return context.now.day;
	const day = parseDay(text);
	if (day === null) throw new Fault(400, "Bad request", `${name} is ${text}; it must be an ISO day that exists.`);
	if (!inBounds(text)) throw new Fault(400, "Bad request", `${name} is ${text}; ${DAYS_TAKEN}.`);
	if (day > context.now.day) throw new Fault(400, "Bad request", `${name} is ${text}, and that day is in the future.`);
	return day;
}

/** The days a query bounds close dates by, each of which may be left out. Throws a 400 for one that isn't a day, or ends before it begins. */
export function periodAsked(from: string | undefined, to: string | undefined): Period {
	const day = (name: string, text: string) => {
		const parsed = parseDay(text);
		if (parsed === null) throw new Fault(400, "Bad request", `${name} is ${text}; it must be an ISO day that exists.`);
		return parsed;
	};
	const period = { start: from ? day("from", from) : ALWAYS.start, end: to ? day("to", to) : ALWAYS.end };
	if (period.end < period.start) throw new Fault(400, "Bad request", "to is before from.");
	return period;
}
