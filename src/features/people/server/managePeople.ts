import { and, count, eq, isNotNull, ne, or, sql } from "drizzle-orm";
import { z } from "zod";
import { asOf, blockOf } from "@/core/history/columns";
import { worksOn } from "@/core/people/person";
import { formatDay, isoOrNull, parseDay } from "@/core/time/day";
import { plural } from "@/core/words/grammar";
import { connection, type Tx } from "@/data/db";
import { type OrganisationState, ROLES } from "@/data/organisation/state";
import { people, teams } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { endWays } from "./endWays";
import { renameTeam } from "./renameTeam";

const dayInput = z
	.string()
	.refine((day) => parseDay(day) !== null, "This isn’t a valid day.")
	.nullable();

export const personInput = z.object({
	/** null makes a new person */
	id: z.string().nullable(),
	name: z.string().trim().min(1, "A person needs a name.").max(200, "A name has at most 200 letters."),
	email: z.email("This isn’t an e-mail address.").max(320).nullable(),
	role: z.enum(ROLES),
	team: z.string().nullable(),
	/** first and last day that they work here; null: open */
	activeFrom: dayInput,
	activeTo: dayInput,
});
export type PersonInput = z.infer<typeof personInput>;

/** Who can sign in, by id. */
export const readSignIns = query("people.signIns", "managePeople", async (_: Context): Promise<readonly string[]> => {
	const rows = await connection().db.select({ id: people.id }).from(people).where(canSignIn);
	return rows.map(({ id }) => id);
});

/** How many open deals somebody owns. */
export function openDealsOf({ company, personIndex }: OrganisationState, personId: string, day: number): number {
	const { history, rules } = company;
	const owner = personIndex.get(personId) ?? -1;
	let n = 0;
	for (let deal = 0; deal < company.deals.length; deal++) {
		const row = asOf(history, deal, day);
		if (row < 0 || blockOf(history, deal).owner[row] !== owner) continue;
		if (rules.stages[blockOf(history, deal).stage[row] as number]?.kind === "open") n++;
	}
	return n;
}

/** Makes a person or changes one: name, address, role, team, and the days they work here. Who has left is signed out. */
export const savePerson = command({
	name: "people.save",
	right: "managePeople",
	input: personInput,
	async run({ context, input: { id, ...wish }, tx }) {
		const { organisation, now } = context;
		const before = id === null ? null : organisation.people[organisation.personIndex.get(id) ?? -1];
		if (before === undefined) throw notFound("person", id ?? "");
		if (wish.team !== null && !organisation.teams.has(wish.team)) throw new Fault(422, "No such team", `There is no team ${wish.team}; make it first.`);
		if (wish.activeFrom && wish.activeTo && wish.activeTo < wish.activeFrom)
			throw new Fault(422, "End is before start", `${wish.name} can’t have left on ${wish.activeTo}, before they began on ${wish.activeFrom}.`);
		if (wish.email) await demandFree(tx, wish.email, id);
		const gone = wish.activeTo !== null && wish.activeTo < formatDay(now.day);
		const key = id ?? newId();
		await tx
			.insert(people)
			.values({ id: key, ...wish })
			.onConflictDoUpdate({ target: people.id, set: wish });
		if (before?.role === "ops") await demandOps(tx, formatDay(now.day));
		// A person who returns comes in by new ways: what was handed out before may be in anybody's hands since.
		const wasAway = before ? !worksOn(before, now.day) : false;
		const ended = gone || wasAway ? await endWays(tx, [key]) : null;
		const left = gone && id ? openDealsOf(organisation, id, now.day) : 0;
		return {
			result: { id: key, openDeals: left },
			touched: "settings",
			audit: {
				action: before ? "person changed" : "person created",
				subject: key,
				detail: { ...(before ? { before: asWished(before) } : {}), after: wish, ...(ended ? { ended } : {}) },
			},
		};
	},
});

/** A person as they were, in the fields and the shape that a wish has. */
const asWished = ({ name, email, role, team, activeFrom, activeTo }: OrganisationState["people"][number]) => ({
	name,
	email,
	role,
	team,
	activeFrom: isoOrNull(activeFrom),
	activeTo: isoOrNull(activeTo),
});

async function demandFree(tx: Tx, email: string, id: string | null): Promise<void> {
	const [other] = await tx
		.select({ name: people.name })
		.from(people)
		.where(and(eq(sql`lower(${people.email})`, email.toLowerCase()), ...(id ? [ne(people.id, id)] : [])));
	if (other) throw new Fault(409, "Already used", `${email} is the address of ${other.name} already.`);
}

/** Those who have a password, or came by the company’s sign-in. */
const canSignIn = or(isNotNull(people.passwordHash), isNotNull(people.subject));

/** Somebody of ops who can sign in has to stay, or nobody could put things right. */
export async function demandOps(tx: Tx, today: string): Promise<void> {
	const [row] = await tx
		.select({ n: count() })
		.from(people)
		.where(and(eq(people.role, "ops"), canSignIn, sql`coalesce(${people.activeTo}, 'infinity') >= ${today}`));
	if (!row?.n)
		throw new Fault(
			422,
			"Someone with the role ops is needed",
			"This is the last person with the role ops who can sign in. Give someone else the role and a password first.",
		);
}

export const teamInput = z.object({
	/** the name it has now; null makes a new team */
	was: z.string().nullable(),
	name: z.string().trim().min(1, "A team needs a name.").max(100, "A team’s name has at most 100 letters."),
	parent: z.string().nullable(),
});

/** Makes a team, names it anew, or puts it under another. */
export const saveTeam = command({
	name: "people.saveTeam",
	right: "managePeople",
	input: teamInput,
	async run({ context, input: { was, name, parent }, tx }) {
		const known = context.organisation.teams;
		if (was !== null && !known.has(was)) throw notFound("team", was);
		if (name !== was && known.has(name)) throw new Fault(409, "Already used", `There is a team ${name} already.`);
		if (parent !== null && !known.has(parent)) throw new Fault(422, "No such team", `There is no team ${parent}.`);
		for (let above = parent, steps = 0; above !== null && steps <= known.size; above = known.get(above) ?? null, steps++)
			if (above === was)
				throw new Fault(422, "Circular teams", `${parent} is ${parent === was ? "this team itself" : `a part of ${was}`}, so ${was} can’t be part of it.`);
		await tx.insert(teams).values({ name, parent }).onConflictDoUpdate({ target: teams.name, set: { parent } });
		if (was !== null && was !== name) {
			await renameTeam(tx, was, name);
			await tx.update(teams).set({ parent: name }).where(eq(teams.parent, was));
			await tx.delete(teams).where(eq(teams.name, was));
		}
		// Tasks are in memory with their deals, and name their team.
		const touched = was !== null && was !== name ? "everything" : "settings";
		return {
			result: {},
			touched,
			audit: {
				action: was === null ? "team created" : "team changed",
				subject: name,
				detail: { before: was === null ? null : { name: was, parent: known.get(was) ?? null }, after: { name, parent } },
			},
		};
	},
});

/** Takes away a team that nobody belongs to. */
export const removeTeam = command({
	name: "people.removeTeam",
	right: "managePeople",
	input: z.object({ name: z.string() }),
	async run({ context: { organisation }, input: { name }, tx }) {
		if (!organisation.teams.has(name)) throw notFound("team", name);
		const inside = organisation.people.filter((person) => person.team === name).length;
		const below = [...organisation.teams].filter(([, above]) => above === name).map(([team]) => team);
		if (inside || below.length)
			throw new Fault(
				422,
				"Team isn’t empty",
				inside
					? `${plural(inside, "person belongs", "people belong")} to ${name}; move them first.`
					: `${below.join(", ")} are below ${name}; move them first.`,
			);
		await tx.delete(teams).where(eq(teams.name, name));
		return { result: {}, touched: "settings", audit: { action: "team deleted", subject: name, detail: { name, below: organisation.teams.get(name) ?? null } } };
	},
});
