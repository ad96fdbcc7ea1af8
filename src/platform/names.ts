import { derive } from "@/core/derive";
import { NONE } from "@/core/history/columns";
import { shortNames, toldApart } from "@/core/people/shortNames";
import type { Day } from "@/core/time/day";
import { accountsOn, identityOn } from "@/data/organisation/former";
import type { Account, OrganisationState } from "@/data/organisation/state";

/** A deal's name by its index, in words where it has none; with a day what it was called at its end. */
export function dealName(organisation: OrganisationState, deal: number, day?: Day): string {
	const attributes = organisation.deals[deal];
	return (attributes && (day === undefined ? attributes : identityOn(attributes, day)).name) || "No name";
}

/** A deal's account; with a day the one it belonged to at its end, as it was then. */
export function accountOfDeal(organisation: OrganisationState, deal: number, day?: Day): Account | undefined {
	const attributes = organisation.deals[deal];
	if (!attributes) return undefined;
	return day === undefined
		? organisation.accounts.get(attributes.accountId ?? "")
		: accountsOn(organisation, day).get(identityOn(attributes, day).accountId ?? "");
}

/** The name of a deal's account, in words where it has none; with a day as at its end. */
export const accountName = (organisation: OrganisationState, deal: number, day?: Day): string => accountOfDeal(organisation, deal, day)?.name || "No account";

/** The name of a person by index, as the owner of something. */
export function ownerName(organisation: OrganisationState, owner: number): string {
	return owner === NONE ? "No owner" : (organisation.people[owner]?.name ?? "No owner");
}

/** What a person by index is called where somebody chooses among people: nobody is called as another. */
export function chosenName(organisation: OrganisationState, index: number): string {
	return derive(organisation.people, "names told apart", "", () => toldApart(organisation.people))[index] ?? "";
}

/** What the owner of something is called in short, told apart from everybody else; of somebody who isn't known, in words. */
export function ownerShort(organisation: OrganisationState, owner: number): string {
	return owner === NONE ? "No owner" : (derive(organisation.people, "short names", "", () => shortNames(organisation.people))[owner] ?? "No owner");
}

/** The name of a person by id, or null where nobody is called so. */
export function personName(organisation: OrganisationState, id: string | null): string | null {
	return id ? (organisation.people[organisation.personIndex.get(id) ?? NONE]?.name ?? null) : null;
}
