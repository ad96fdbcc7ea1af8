import { derive, keyOf } from "@/core/derive";
import type { Day } from "@/core/time/day";
import { identityOn } from "@/data/organisation/former";
import type { OrganisationState } from "@/data/organisation/state";

/**
 * Deals by their account, now or as it was at the end of a day. Which account a deal belongs to is changed by imports, which make
 * the index of deals anew, and by what makes the map of accounts anew: merging accounts, and giving a deal another one.
 */
export function dealsByAccount(organisation: OrganisationState, day?: Day): ReadonlyMap<string, readonly number[]> {
	const { deals, dealIndex, accounts } = organisation;
	const now = derive(dealIndex, "deals by account", accounts, () => gathered(deals.map(({ accountId }) => accountId)));
	if (day === undefined) return now;
	const moved = derive(dealIndex, "deals that had another account", accounts, () =>
		deals.some(({ former }) => former.some(({ field }) => field === "account")),
	);
	if (!moved) return now;
	return derive(dealIndex, "deals by account then", keyOf(accounts, day), () => gathered(deals.map((deal) => identityOn(deal, day).accountId)), 4);
}

/** The ids of the deals of an account, now. */
export const dealIdsOf = (organisation: OrganisationState, account: string): string[] =>
	(dealsByAccount(organisation).get(account) ?? []).flatMap((deal) => organisation.deals[deal]?.id ?? []);

function gathered(accountIds: readonly (string | null)[]): Map<string, number[]> {
	const found = new Map<string, number[]>();
	accountIds.forEach((accountId, i) => {
		if (accountId === null) return;
		const list = found.get(accountId);
		if (list) list.push(i);
		else found.set(accountId, [i]);
	});
	return found;
}
