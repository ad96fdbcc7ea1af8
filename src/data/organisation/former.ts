import type { Buyers } from "@/core/people/buyers";
import { type Day, NO_DAY } from "@/core/time/day";
import type { DealAttributes, FormerOfDeal } from "./state";

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

/** What something of a deal was at the end of a day. The changes stand newest first: of those after the day the oldest knows what was so before it. */
function valueOn(deal: DealAttributes, day: Day, field: FormerOfDeal, now: string | null): string | null {
	const change = deal.former.findLast((one) => one.field === field && one.day > day);
	return change ? change.before : now;
}

/** A deal's competitor and reason at the end of a day. */
export const outcomeOn = (deal: DealAttributes, day: Day): Pick<DealAttributes, "competitor" | "outcomeReason"> => ({
	competitor: valueOn(deal, day, "competitor", deal.competitor),
	outcomeReason: valueOn(deal, day, "outcome_reason", deal.outcomeReason),
});

/** A deal's name and account at the end of a day. */
export const identityOn = (deal: DealAttributes, day: Day): Pick<DealAttributes, "name" | "accountId"> =>
	deal.former.length
		? { name: valueOn(deal, day, "name", deal.name) ?? "", accountId: valueOn(deal, day, "account", deal.accountId) }
		: { name: deal.name, accountId: deal.accountId };
