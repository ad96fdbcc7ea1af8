import type { Buyers } from "@/core/people/buyers";
import { type Day, NO_DAY } from "@/core/time/day";
import type { DealAttributes } from "./state";

/** Somebody of the buyer's who is on a deal now. */
export interface BuyerRow {
	readonly contact: string;
	readonly role: string | null;
}

/** What somebody's being on a deal, or their part in it, was before a day's change. */
export interface Former {
	readonly day: Day;
	readonly contact: string | null;
	readonly field: string;
	readonly before: string | null;
	/** the part that the contact has now */
	readonly role: string | null;
}

/** Who was on a deal from when on, from who is on it now and what changed, taking one change back after another. */
export function buyersThrough(now: readonly BuyerRow[], changes: readonly Former[]): Buyers[] {
	const on = new Map(now.map(({ contact, role }) => [contact, role]));
	const roles = new Map(on);
	const entry = (since: Day): Buyers => ({ since, count: on.size, signatory: [...on.values()].includes("decision_maker") });
	const entries: Buyers[] = [];
	for (const { day, contact, field, before, role } of [...changes].sort((a, b) => b.day - a.day)) {
		if (contact === null) continue;
		// Of several changes on one day the state at its end stands.
		if (entries[0]?.since !== day) entries.unshift(entry(day));
		if (field === "role") {
			roles.set(contact, before);
			if (on.has(contact)) on.set(contact, before);
		} else if (field === "on_deal") {
			if (before === "no") on.delete(contact);
			else on.set(contact, roles.get(contact) ?? role);
		}
	}
	return [entry(NO_DAY), ...entries];
}

/** A deal's competitor and reason at the end of a day. */
export function outcomeOn(deal: DealAttributes, day: Day): Pick<DealAttributes, "competitor" | "outcomeReason"> {
	// The changes stand newest first: of those after the day the oldest knows what was so before it.
	const before = (field: DealAttributes["former"][number]["field"], now: string | null) => {
		const change = deal.former.findLast((one) => one.field === field && one.day > day);
		return change ? change.before : now;
	};
	return { competitor: before("competitor", deal.competitor), outcomeReason: before("outcome_reason", deal.outcomeReason) };
}
