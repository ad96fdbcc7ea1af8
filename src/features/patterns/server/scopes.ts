import type { Scope } from "@/core/bridge/scope";
import type { OrganisationState } from "@/data/organisation/state";

/** Whose deals, by the ids of people: the same in every thread. Null: everyone's. */
export type PeopleIds = readonly string[] | null;

/** The people of a scope by id, for what is stored; null is everyone. */
export const idsOf = ({ people }: OrganisationState, scope: Scope): PeopleIds =>
	scope === null ? null : [...scope].map((index) => people[index]?.id ?? "").sort();

/** The scope of people named by id; those who are gone are left out. */
export const scopeOfIds = ({ personIndex }: OrganisationState, ids: PeopleIds): Scope =>
	ids === null ? null : new Set(ids.flatMap((id) => personIndex.get(id) ?? []));
