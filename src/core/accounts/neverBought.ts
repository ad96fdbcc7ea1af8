import type { Day } from "../time/day";
import { type Order, TWO_YEARS } from "./bought";

/** of fewer accounts like it nothing is said */
const LEAST_ALIKE = 5;
/** what a third of them bought is what such accounts buy */
const SHARE = 3;

/** What an account is compared by. */
export interface Alike {
	readonly id: string;
	readonly kind: string | null;
	readonly industry: string | null;
}

/** A family that accounts like one buy and it never did: by how many of how many. */
export interface NeverBought {
	readonly family: string;
	readonly by: number;
	readonly of: number;
}

/** What accounts alike bought: how many there are, how many of them bought each family in two years, and what each one ever did. */
export interface FamiliesBought {
	/** by kind and industry: the ids of the accounts */
	readonly groups: ReadonlyMap<string, readonly string[]>;
	/** families by account, of the last 730 days, and of all time */
	readonly lately: ReadonlyMap<string, ReadonlySet<string>>;
	readonly ever: ReadonlyMap<string, ReadonlySet<string>>;
}

const groupOf = ({ kind, industry }: Alike): string => JSON.stringify([kind, industry]);

/**
 * Gathers, once for all accounts, what each bought up to a day.
 *
 * @param familyOf the families of a product by the deals' lines; none: it is a family of its own
 */
export function familiesBought(
	accounts: Iterable<Alike>,
	orders: Iterable<Order>,
	seen: Day,
	familyOf: ReadonlyMap<string, ReadonlySet<string>>,
): FamiliesBought {
	const groups = new Map<string, string[]>();
	for (const account of accounts) {
		const key = groupOf(account);
		const group = groups.get(key);
		if (group) group.push(account.id);
		else groups.set(key, [account.id]);
	}
	const [lately, ever] = [new Map<string, Set<string>>(), new Map<string, Set<string>>()];
	const add = (map: Map<string, Set<string>>, account: string, families: Iterable<string>) => {
		const own = map.get(account) ?? new Set();
		map.set(account, own);
		for (const family of families) own.add(family);
	};
	for (const { account, day, product } of orders) {
		if (day > seen || !product) continue;
		const families = familyOf.get(product) ?? [product];
		add(ever, account, families);
		if (day > seen - TWO_YEARS) add(lately, account, families);
	}
	return { groups, lately, ever };
}

const NOTHING: ReadonlySet<string> = new Set();

/** Families bought in the last 730 days by a third or more of the accounts of its kind and industry, of at least 5, and never by itself; by name. */
export function neverBoughtBy(account: Alike, { groups, lately, ever }: FamiliesBought): NeverBought[] {
	const others = (groups.get(groupOf(account)) ?? []).filter((id) => id !== account.id);
	if (others.length < LEAST_ALIKE) return [];
	const own = ever.get(account.id) ?? NOTHING;
	const counts = new Map<string, number>();
	for (const id of others) for (const family of lately.get(id) ?? NOTHING) counts.set(family, (counts.get(family) ?? 0) + 1);
	return [...counts]
		.filter(([family, by]) => SHARE * by >= others.length && !own.has(family))
		.map(([family, by]) => ({ family, by, of: others.length }))
		.sort((a, b) => (a.family < b.family ? -1 : 1));
}
