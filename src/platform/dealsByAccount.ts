import { derive } from "@/core/derive";
import type { OrganisationState } from "@/data/organisation/state";

/** Deals by their account. Which account a deal belongs to is changed by imports, which make the index of deals anew, and by merging accounts. */
export const dealsByAccount = ({ deals, dealIndex, accounts }: OrganisationState): ReadonlyMap<string, readonly number[]> =>
	derive(dealIndex, "deals by account", accounts, () => {
		const found = new Map<string, number[]>();
		deals.forEach(({ accountId }, i) => {
			if (accountId === null) return;
			const list = found.get(accountId);
			if (list) list.push(i);
			else found.set(accountId, [i]);
		});
		return found;
	});
