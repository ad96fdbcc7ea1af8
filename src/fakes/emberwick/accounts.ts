import type { Chance } from "./almanac";
import { REPS, teamOf } from "./cast";
import type { Ledger } from "./ledger";
import { ACCOUNT_FIRST, ACCOUNT_LAST, FIRST_NAMES, LAST_NAMES, TITLES, TOWNS } from "./words";

export interface DemoAccount {
	readonly id: string;
	readonly name: string;
	readonly kind: "customer" | "prospect";
	readonly owner: string;
	readonly currency: string;
	readonly contacts: readonly string[];
}

const TERRITORIES: Record<string, readonly { name: string; currency: string }[]> = {
	North: [
		{ name: "Coast", currency: "EUR" },
		{ name: "Lowlands", currency: "EUR" },
		{ name: "Fjords", currency: "SEK" },
		{ name: "Isles", currency: "GBP" },
	],
	South: [
		{ name: "Vineyards", currency: "EUR" },
		{ name: "Riviera", currency: "EUR" },
		{ name: "Alps", currency: "CHF" },
	],
	Partners: [
		{ name: "Partners east", currency: "EUR" },
		{ name: "Partners west", currency: "EUR" },
		{ name: "Isles", currency: "GBP" },
	],
};

const slug = (text: string) =>
	text
		.normalize("NFD")
		.toLowerCase()
		.replace(/[^a-z]+/g, "-")
		.replace(/^-|-$/g, "");

/** Accounts with their contacts; each belongs to a rep's ground. Names never repeat. */
export function makeAccounts(ledger: Ledger, chance: Chance, count: number): DemoAccount[] {
	const taken = new Set<string>();
	const accounts: DemoAccount[] = [];
	const industries = Object.keys(ACCOUNT_LAST);
	for (let i = 0; accounts.length < count; i++) {
		const industry = chance.pick(industries);
		const first = ACCOUNT_FIRST[i % ACCOUNT_FIRST.length] as string;
		const name = `${first} ${chance.pick(ACCOUNT_LAST[industry] ?? [])}`;
		// A company of any size needs more names than there are: the same house in another town, then the next one there.
		const round = Math.floor(i / (ACCOUNT_FIRST.length * 4));
		const town = round === 0 ? "" : ` ${TOWNS[round % TOWNS.length]}${round < TOWNS.length ? "" : ` ${Math.floor(round / TOWNS.length) + 1}`}`;
		if (taken.has(name + town)) continue;
		taken.add(name + town);
		const owner = (REPS[accounts.length % REPS.length] as (typeof REPS)[number]).id;
		const territory = chance.pick(TERRITORIES[teamOf(owner)] ?? []);
		accounts.push(
			addAccount(ledger, chance, {
				name: name + town,
				industry,
				owner,
				territory: territory.name,
				currency: territory.currency,
				kind: chance.yes(0.55) ? "customer" : "prospect",
			}),
		);
	}
	return accounts;
}

/** Adds a made-up account with its people to the ledger. */
export function addAccount(
	ledger: Ledger,
	chance: Chance,
	given: { name: string; industry: string; owner: string; territory: string; currency: string; kind: "customer" | "prospect" },
): DemoAccount {
	const n = (ledger.rows.get("accounts.csv")?.length ?? 0) + 1;
	const id = `acc-${String(n).padStart(3, "0")}`;
	ledger.add("accounts.csv", { id, name: given.name, kind: given.kind, industry: given.industry, territory: given.territory, owner_id: given.owner });
	const roles = ["champion", "decision_maker", "influencer", "user", "unknown"];
	const size = chance.whole(2, 4);
	const contacts: string[] = [];
	for (let c = 0; c < size; c++) {
		const role = roles[c] as string;
		const first = FIRST_NAMES[(n * 5 + c * 11) % FIRST_NAMES.length] as string;
		const last = LAST_NAMES[(n * 7 + c * 13) % LAST_NAMES.length] as string;
		const contact = `${id}-c${c + 1}`;
		ledger.add("contacts.csv", {
			id: contact,
			account_id: id,
			name: `${first} ${last}`,
			title: chance.pick(TITLES[role] ?? []),
			email: `${slug(first)}.${slug(last)}@${slug(given.name)}.example`,
			buying_role: role,
			reports_to_id: c === 0 || c === 1 || size < 2 ? null : `${id}-c2`,
		});
		contacts.push(contact);
	}
	return { id, name: given.name, kind: given.kind, owner: given.owner, currency: given.currency, contacts };
}
