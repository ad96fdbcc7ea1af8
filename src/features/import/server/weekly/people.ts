import type { Context } from "@/platform/context";

const folded = (text: string) => text.trim().toLowerCase();

/** An id made of a name that none of the taken ones is. */
export function idFrom(name: string, taken: { has(id: string): boolean }): string {
	const base =
		name
			.normalize("NFKD")
			.replace(/\p{M}/gu, "")
			.toLowerCase()
			.replace(/[^a-z0-9]+/g, "-")
			.replace(/^-|-$/g, "")
			.slice(0, 60) || "x";
	for (let n = 1; ; n++) {
		const id = n === 1 ? base : `${base}-${n}`;
		if (!taken.has(id)) return id;
	}
}

/** Finds people and accounts by what a sender calls them, and makes ids for those that are new. */
export class Names {
	private readonly people = new Map<string, string>();
	private readonly accounts = new Map<string, string>();
	/** id by name, of those that aren't known yet */
	readonly newPeople = new Map<string, string>();
	readonly newAccounts = new Map<string, string>();

	constructor(private readonly context: Context) {
		for (const person of context.organisation.people) {
			for (const name of [person.id, person.email, person.name]) if (name) this.people.set(folded(name), person.id);
		}
		for (const account of context.organisation.accounts.values()) this.accounts.set(folded(account.name), account.id);
	}

	person(name: string): string {
		return this.find(name, this.people, this.newPeople, this.context.organisation.personIndex);
	}

	account(name: string): string {
		return this.find(name, this.accounts, this.newAccounts, this.context.organisation.accounts);
	}

	private find(name: string, known: Map<string, string>, made: Map<string, string>, taken: { has(id: string): boolean }): string {
		const id = known.get(folded(name));
		if (id !== undefined) return id;
		const ids = new Set(made.values());
		const fresh = idFrom(name, { has: (one) => taken.has(one) || ids.has(one) });
		known.set(folded(name), fresh);
		made.set(name.trim(), fresh);
		return fresh;
	}
}
