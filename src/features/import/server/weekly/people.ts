import { worksOn } from "@/core/people/person";
import { type Day, NO_DAY } from "@/core/time/day";
import type { Person } from "@/data/organisation/state";
import { NEW_PERSON } from "@/formats/weekly/plan";
import type { Context } from "@/platform/context";

/** A name as it is compared: small letters without accents, one space between words. */
const folded = (text: string) => text.normalize("NFKD").replace(/\p{M}/gu, "").trim().toLowerCase().replace(/\s+/g, " ");

/** `Penn, Rae` the other way about. */
const turned = (name: string) => {
	const [last, first, ...more] = name.split(",").map((part) => part.trim());
	return last && first && !more.length ? `${first} ${last}` : null;
};

/** Makes ids of names, none of them twice. */
export class Ids {
	private readonly made = new Set<string>();

	constructor(private readonly taken: { has(id: string): boolean }) {}

	/** An id made of a name that none of the taken ones is. */
	from(name: string): string {
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
			if (this.taken.has(id) || this.made.has(id)) continue;
			this.made.add(id);
			return id;
		}
	}
}

/** Somebody a file names, where it isn't clear who that is: nobody is called so, or several are. */
export interface OpenPerson {
	readonly name: string;
	/** rows that name them */
	readonly count: number;
	/** those who are called so; empty: nobody is */
	readonly who: readonly { readonly id: string; readonly label: string }[];
}

/** Finds people and accounts by what a sender calls them, and makes ids for those that are new. */
export class Names {
	private readonly people = new Map<string, Person[]>();
	private readonly found = new Map<string, string | null>();
	private readonly counts = new Map<string, number>();
	private readonly accounts = new Map<string, string>();
	private readonly personIds: Ids;
	private readonly accountIds: Ids;
	/** id by name, of those that aren't known yet */
	readonly newPeople = new Map<string, string>();
	readonly newAccounts = new Map<string, string>();

	/** `said`: who a name means, by id, where somebody chose; `day`: who works here then is meant before who doesn't. */
	constructor(
		{ organisation }: Context,
		private readonly said: Readonly<Record<string, string>>,
		private readonly day: Day | null,
	) {
		const known = (name: string, person: Person) => this.people.set(folded(name), [...new Set([...(this.people.get(folded(name)) ?? []), person])]);
		for (const person of organisation.people) {
			for (const name of [person.id, person.email, person.name, ...person.also]) if (name) known(name, person);
		}
		this.personIds = new Ids(organisation.personIndex);
		this.accountIds = new Ids(organisation.accounts);
		for (const { id, also } of organisation.accounts.values()) for (const name of also) this.accounts.set(folded(name), id);
		// What has the name itself comes before what was merged and had it once.
		for (const account of organisation.accounts.values()) this.accounts.set(folded(account.name), account.id);
	}

	/** The id of the person a name means, a new one where nobody is called so; null where several are and nobody said who. */
	person(name: string): string | null {
		const key = folded(name);
		this.counts.set(name, (this.counts.get(name) ?? 0) + 1);
		const before = this.found.get(key);
		if (before !== undefined) return before;
		const id = this.personOf(name, key);
		this.found.set(key, id);
		return id;
	}

	private personOf(name: string, key: string): string | null {
		const said = Object.hasOwn(this.said, name) ? this.said[name] : undefined;
		if (said && said !== NEW_PERSON) return said;
		const meant = said === NEW_PERSON ? [] : this.calledSo(key);
		const [only] = meant;
		if (meant.length > 1) return null;
		if (only) return only.id;
		const fresh = this.personIds.from(name);
		this.newPeople.set(name.trim(), fresh);
		return fresh;
	}

	private calledSo(key: string): readonly Person[] {
		const other = turned(key);
		const all = this.people.get(key) ?? (other ? this.people.get(other) : undefined) ?? [];
		const here = this.day === null ? all : all.filter((person) => worksOn(person, this.day as Day));
		return here.length ? here : all;
	}

	/** Those who have to be said, or can be: several who are called so, or nobody. */
	open(): OpenPerson[] {
		return [...this.counts].flatMap(([name, count]): OpenPerson[] => {
			const who = this.calledSo(folded(name));
			if (who.length === 1 && !Object.hasOwn(this.said, name)) return [];
			return [{ name, count, who: who.map((person) => ({ id: person.id, label: personWords(person) })) }];
		});
	}

	account(name: string): string {
		const key = folded(name);
		const known = this.accounts.get(key);
		if (known !== undefined) return known;
		const fresh = this.accountIds.from(name);
		this.accounts.set(key, fresh);
		this.newAccounts.set(name.trim(), fresh);
		return fresh;
	}
}

/** Somebody told apart from others of the same name: `Rae Penn, North, rae@firm.example`. */
export function personWords(person: Person): string {
	return [person.name, person.team, person.email ?? person.id, person.activeTo === NO_DAY ? null : "left"].filter(Boolean).join(", ");
}
