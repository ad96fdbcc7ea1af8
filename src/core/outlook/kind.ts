import { LIGHTS } from "../attention/attention";
import type { Company, Rules } from "../company";
import type { DealSeen } from "../dealSeen";
import { CATEGORIES } from "../history/columns";
import { categoryOf } from "../inspect";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";

/** What deals are compared by: those that are due in a period by four values, all others by three. */
export interface Kind {
	readonly due: boolean;
	/** due: stage, category, whether it has stood too long in its stage, level of attention; else: place of its close date, stage, whether it is large */
	readonly values: readonly string[];
	/** by depth, from all to those that agree in all values, what such kinds have in common */
	readonly keys: readonly string[];
}

const known = new Map<string, Kind>();

/** A kind by its values: the same object for the same values. */
export function kindFrom(due: boolean, values: readonly string[]): Kind {
	const key = [due ? "due" : "elsewhere", ...values].join("|");
	const made = known.get(key);
	if (made) return made;
	const keys = Array.from({ length: values.length + 1 }, (_, depth) => [due ? "due" : "elsewhere", ...values.slice(0, depth)].join("|"));
	const kind: Kind = { due, values, keys };
	known.set(key, kind);
	return kind;
}

/** Kinds by a number: many thousand deals are told apart by few. */
const due = new Map<number, Kind>();
const elsewhere = new Map<number, Kind>();

function kept(kinds: Map<number, Kind>, key: number, make: () => Kind): Kind {
	const known = kinds.get(key) ?? make();
	kinds.set(key, known);
	return known;
}

/** The kind of a deal that is due in the period, as it was seen. A blank category counts as pipeline. */
export function dueKind(company: Company, seen: DealSeen): Kind {
	const { stageIndex, ownLevel } = seen;
	const category = categoryOf(company, seen) ?? "pipeline";
	const isAging = seen.flags.some(({ code }) => code === "aging-stage");
	const key = ((stageIndex * CATEGORIES.length + CATEGORIES.indexOf(category)) * 2 + Number(isAging)) * LIGHTS.length + LIGHTS.indexOf(ownLevel);
	return kept(due, key, () => kindFrom(true, [String(stageIndex), category, isAging ? "aging" : "moving", ownLevel]));
}

/** Where a close date lies that isn’t in the period. */
export const PLACES = ["none", "before", "next", "later"] as const;
export type Place = (typeof PLACES)[number];

/** working days from the end of a period on that count as soon after it */
const SOON = 22;

/** Where a close date lies by a period that is looked at on a day, `lead` working days before its end. */
export function placeOf({ calendar }: Pick<Rules, "calendar">, close: Day, day: Day, { start, end }: Period, lead: number): Place {
	if (close === NO_DAY) return "none";
	if (close < start) return "before";
	return close > end && calendar.between(day, close) <= lead + SOON ? "next" : "later";
}

/** The kind of a deal that is dated elsewhere. `large`: its amount is above the median of all that are open. */
export const elsewhereKind = (place: Place, stage: number, large: boolean): Kind =>
	kept(elsewhere, (stage * PLACES.length + PLACES.indexOf(place)) * 2 + Number(large), () =>
		kindFrom(false, [place, String(stage), large ? "large" : "small"]),
	);
