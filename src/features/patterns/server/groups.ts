import { NONE } from "@/core/history/columns";
import type { Context } from "@/platform/context";
import { chosenName } from "@/platform/names";
import type { Grouping } from "../table/view";
import { spelt } from "./words";

/** A way to group deals: into which groups a deal of an owner falls, and how a group is called. */
export interface DealGrouping extends Grouping {
	readonly partsOf: (context: Context, deal: number, owner: number) => readonly string[];
	readonly nameOf: (context: Context, group: string) => string;
}

const plain = (_: Context, group: string) => spelt(group, "none named");

const rep: DealGrouping = {
	key: "rep",
	label: "by rep",
	// What nobody owns is a group too, so that all of them add up to the whole.
	partsOf: ({ organisation }, _, owner) => [organisation.people[owner]?.id ?? ""],
	nameOf: ({ organisation }, id) => chosenName(organisation, organisation.personIndex.get(id) ?? NONE) || "No owner",
};
const family: DealGrouping = {
	key: "family",
	label: "by product family",
	partsOf: ({ organisation }, deal) => organisation.deals[deal]?.families ?? [],
	nameOf: plain,
};
const kind: DealGrouping = {
	key: "kind",
	label: "by kind of customer",
	partsOf: ({ organisation }, deal) => [organisation.accounts.get(organisation.deals[deal]?.accountId ?? "")?.kind ?? ""],
	nameOf: (_, group) => spelt(group, "no kind given"),
};
const account: DealGrouping = {
	key: "account",
	label: "by account",
	partsOf: ({ organisation }, deal) => [organisation.deals[deal]?.accountId ?? ""],
	nameOf: ({ organisation }, id) => organisation.accounts.get(id)?.name || "No account",
};
const product: DealGrouping = {
	key: "product",
	label: "by product",
	partsOf: ({ organisation }, deal) => organisation.deals[deal]?.products ?? [],
	nameOf: plain,
};

export const DEAL_GROUPINGS = { rep, family, kind, account, product };

/** The grouping that an address asks for, among those that a view offers; the first where it names none of them. */
export const groupingOf = (asked: string | undefined, offered: readonly DealGrouping[]): DealGrouping =>
	offered.find(({ key }) => key === asked) ?? (offered[0] as DealGrouping);

/** Members by group, in the order in which they come. */
export function grouped<T, K>(list: Iterable<T>, groupsOf: (one: T) => readonly K[]): Map<K, T[]> {
	const found = new Map<K, T[]>();
	for (const one of list) {
		for (const group of new Set(groupsOf(one))) {
			const own = found.get(group) ?? [];
			found.set(group, own);
			own.push(one);
		}
	}
	return found;
}

/** What a screen is told of the groupings that it offers. */
export const offered = (list: readonly DealGrouping[]): Grouping[] => list.map(({ key, label }) => ({ key, label }));
