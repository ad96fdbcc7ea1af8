import { and, asc, desc, eq, isNull } from "drizzle-orm";
import type { Scope } from "@/core/bridge/scope";
import { parseDay } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { connection, type Tx } from "@/data/db";
import { teamsUnder } from "@/data/organisation/state";
import { closes } from "@/data/schema";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { peopleIn, reachOf } from "@/platform/reach";

export type Close = typeof closes.$inferSelect;

/** All whose deals a close tells of, for everybody alike; undefined for what can’t be closed: somebody’s own deals, or a team that isn’t there. */
function peopleOf({ organisation }: Context, whose: string): Scope | undefined {
	if (whose === "all") return null;
	const team = whose.startsWith("team:") ? whose.slice("team:".length) : null;
	return team !== null && organisation.teams.has(team) ? peopleIn(organisation, teamsUnder(organisation, team)) : undefined;
}

/** Whose deals a close tells of, if the person reaches all of them; undefined where they don’t, or where there can be no such close. */
export function closable(context: Context, whose: string): Scope | undefined {
	const scope = peopleOf(context, whose);
	const reach = reachOf(context.organisation, context.actor);
	if (scope === undefined || reach === null) return scope;
	return scope !== null && [...scope].every((person) => reach.has(person)) ? scope : undefined;
}

/** The same; throws a 403 where there is none. */
export function demandClosable(context: Context, whose: string): Scope {
	const scope = closable(context, whose);
	if (scope === undefined)
		throw new Fault(403, "Not allowed", "A period is closed for everyone or for a team whose deals you see in full; choose one of these in the sentence.");
	return scope;
}

export const periodOf = ({ start, end }: Pick<Close, "start" | "end">): Period => ({ start: parseDay(start) ?? 0, end: parseDay(end) ?? 0 });

/** The close of a period and its corrections, the close first; none where it isn’t closed, or was reopened. */
export function closesOf(db: Pick<Tx, "select">, whose: string, start: string, end: string): Promise<Close[]> {
	return db
		.select()
		.from(closes)
		.where(and(eq(closes.whose, whose), eq(closes.start, start), eq(closes.end, end), isNull(closes.reopenedAt)))
		.orderBy(asc(closes.correction));
}

/** A close by its id, if the person reaches all whom it tells of. */
export async function closeById(db: Pick<Tx, "select">, context: Context, id: string): Promise<Close> {
	const [row] = await db.select().from(closes).where(eq(closes.id, id));
	if (!row || closable(context, row.whose) === undefined) throw notFound("close", id);
	return row;
}

/** All closes and corrections that the person reaches, the newest first; those of reopened periods too. */
export async function reachedCloses(context: Context): Promise<Close[]> {
	const rows = await connection().db.select().from(closes).orderBy(desc(closes.end), desc(closes.at), desc(closes.id));
	return rows.filter(({ whose }) => closable(context, whose) !== undefined);
}
