import { createHash } from "node:crypto";
import { derive } from "@/core/derive";
import type { Buyers } from "@/core/people/buyers";
import { type Day, NO_DAY } from "@/core/time/day";
import type { Account, DealAttributes, OrganisationState } from "./state";

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

/** What something was at the end of a day. The changes stand newest first: of those after the day the oldest knows what was so before it. */
function valueOn<F extends string>({ former }: WithFormer<F>, day: Day, field: F, now: string | null): string | null {
	const change = former.findLast((one) => one.field === field && one.day > day);
	return change ? change.before : now;
}
interface WithFormer<F> {
	readonly former: readonly { readonly day: Day; readonly field: F; readonly before: string | null }[];
}

/** An account as it was at the end of a day; undefined where it was created here later. */
export function accountOn(account: Account, day: Day): Account | undefined {
	const { former } = account;
	// The newest comes first: where it isn't after the day, nothing is.
	if (!former.length || (former[0]?.day ?? day) <= day) return account;
	if (former.some(({ field, day: made }) => field === "made" && made > day)) return undefined;
	return {
		...account,
		name: valueOn(account, day, "name", account.name) ?? "",
		kind: valueOn(account, day, "kind", account.kind),
		industry: valueOn(account, day, "industry", account.industry),
		territory: valueOn(account, day, "territory", account.territory),
		ownerId: valueOn(account, day, "owner", account.ownerId),
	};
}

/**
 * Names what accounts are called, of what kind they are and whose: the same while nothing of that changes. What is made of
 * accounts beside a company is kept under it; their map is another after each write to what hangs on them.
 */
export const accountsKey = ({ accounts }: Pick<OrganisationState, "accounts">): string =>
	derive(accounts, "accounts named", "", () => {
		const hash = createHash("sha256");
		for (const { version: _, ...account } of accounts.values()) hash.update(JSON.stringify(account));
		return hash.digest("base64url");
	});

/** All accounts as they were at the end of a day, by id; the same map on all days since the last change. */
export function accountsOn({ accounts }: Pick<OrganisationState, "accounts">, day: Day): ReadonlyMap<string, Account> {
	const newest = derive(accounts, "newest change of an account", "", () =>
		[...accounts.values()].reduce((last, { former }) => Math.max(last, former[0]?.day ?? NO_DAY), NO_DAY),
	);
	if (newest <= day) return accounts;
	return derive(accounts, "accounts on a day", day, () => {
		const then = new Map<string, Account>();
		for (const [id, account] of accounts) {
			const one = accountOn(account, day);
			if (one) then.set(id, one);
		}
		return then;
	});
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
