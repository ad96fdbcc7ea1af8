import { eq } from "drizzle-orm";
import type { PgColumn, PgTable } from "drizzle-orm/pg-core";
import { z } from "zod";
import type { Tx } from "@/data/db";
import { type OrganisationState, type Person, teamsUnder } from "@/data/organisation/state";
import type { Context } from "./context";
import { Fault } from "./fault";

/** Whether a text is on one line, without anything that can’t be seen. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is refused
export const oneLine = (text: string): boolean => !/[\u0000-\u001f\u007f\u2028\u2029]/.test(text);

/** The name of something that is kept and may be shared: one line of at most 80 letters. */
export const keptName = (what: string) =>
	z
		.string()
		.trim()
		.min(1, `Give the ${what} a name.`)
		.max(80, `A ${what}’s name has at most 80 letters.`)
		.refine(oneLine, `A ${what}’s name is one line of text.`);

/** Teams whose shared things a person sees: their own and those above it; ops see what every team shares, so that it can be put right. */
export const sharingTeams = ({ organisation, actor }: Context): string[] => sharingTeamsOf(organisation, actor.person);

/** The same of anybody. */
export function sharingTeamsOf(organisation: OrganisationState, { role, team: own }: Pick<Person, "role" | "team">): string[] {
	const teams = [...organisation.teams.keys()];
	if (role === "ops") return teams;
	return own ? teams.filter((team) => teamsUnder(organisation, team).has(own)) : [];
}

/** so many things of a kind a team shares */
const MOST_SHARED = 200;
/** so many of a kind are shown to one person */
export const MOST_SHOWN = 400;

/** The team that something is shared with: one's own, or null for none. Throws a 422 for somebody without a team. */
function sharedWith({ actor }: Context, shared: boolean): string | null {
	if (shared && !actor.person.team) throw new Fault(422, "No team", "You are in no team, so there is no one to share it with.");
	return shared ? actor.person.team : null;
}

/**
 * The team that something of a table is shared with from now on; null for none.
 *
 * @throws Fault 422 for somebody without a team, or where the team shares as much of it as its people's pages have room for
 */
export async function shareIn(
	tx: Tx,
	context: Context,
	table: PgTable & { readonly sharedWith: PgColumn },
	shared: boolean,
	what: string,
): Promise<string | null> {
	const team = sharedWith(context, shared);
	if (team !== null && (await tx.$count(table, eq(table.sharedWith, team))) >= MOST_SHARED)
		throw new Fault(422, `Too many ${what}`, `${team} shares ${MOST_SHARED} ${what}; delete one first.`);
	return team;
}
