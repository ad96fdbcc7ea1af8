import { and, asc, desc, eq, isNotNull, sql } from "drizzle-orm";
import type { Scope } from "@/core/bridge/scope";
import { CALLS, type Call, type Called } from "@/core/rounds/calls";
import { surveyOn } from "@/core/survey";
import { type Day, NO_DAY, parseDay } from "@/core/time/day";
import { type Period, parsePeriod } from "@/core/time/period";
import { connection, type Sql, type Tx } from "@/data/db";
import { NEWS_CHANNEL } from "@/data/live";
import { isOneOf } from "@/data/queries/isOneOf";
import { roundCalls, roundDeals, roundPlans, rounds } from "@/data/schema";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { reaches, reachOf, within } from "@/platform/reach";
import { reachDeal } from "@/platform/reachDeal";
import { resolveViewpoint } from "@/platform/viewpoint";

export type StoredRound = typeof rounds.$inferSelect;
export type StoredCall = typeof roundCalls.$inferSelect;

/** Whose deals a round is over, within what the person reaches; null where it is none of theirs. */
export function scopeOfRound(context: Context, { kind, whose, startedById }: Pick<StoredRound, "kind" | "whose" | "startedById">): { scope: Scope } | null {
	const own = startedById === context.actor.person.id;
	if (kind === "walk" && !own) return null;
	const reach = reachOf(context.organisation, context.actor);
	try {
		const { scope } = resolveViewpoint(context, { whose }).whose;
		return scope !== null && scope.size === 0 ? null : { scope: within(scope, reach) };
	} catch (error) {
		if (!(error instanceof Fault)) throw error;
		// Whoever held it finds it still when the team is gone, or the person has left it.
		return own ? { scope: reach } : null;
	}
}

/** Whose deals a round is over, in words; the key itself where there is no such team or person any more. */
export function whoseWords(context: Context, { whose }: Pick<StoredRound, "whose">): string {
	try {
		return resolveViewpoint(context, { whose }).whose.label;
	} catch {
		return whose.replace(/^(team|person):/, "");
	}
}

export type StoredPlan = typeof roundPlans.$inferSelect;

/** A plan of a round that one takes part in; throws a 404 for any other. */
export async function planById(db: Sql, context: Context, id: string): Promise<StoredPlan> {
	const [plan] = await db.select().from(roundPlans).where(eq(roundPlans.id, id));
	if (!plan || !scopeOfRound(context, { kind: "round", whose: plan.whose, startedById: plan.byId })) throw notFound("plan", id);
	return plan;
}

/** The period of a round. */
export const periodOf = (context: Context, { due }: Pick<StoredRound, "due">): Period =>
	parsePeriod(due, context.organisation.company.rules.fiscal) ?? (resolveViewpoint(context, {}).due.period as Period);

/** A round that one takes part in; throws a 404 for any other. */
export async function roundById(db: Sql, context: Context, id: string): Promise<StoredRound> {
	const [round] = await db.select().from(rounds).where(eq(rounds.id, id));
	if (!round || !scopeOfRound(context, round)) throw notFound("round", id);
	return round;
}

/** The same of one that runs, held until the commit; throws a 409 when it has ended. */
export async function runningRound(tx: Tx, context: Context, id: string): Promise<StoredRound> {
	const [round] = await tx.select().from(rounds).where(eq(rounds.id, id)).for("update");
	if (!round || !scopeOfRound(context, round)) throw notFound("round", id);
	if (round.endedAt) throw new Fault(409, "The round has ended", `${round.name} has ended; reopen it to continue.`);
	return round;
}

/** A deal of a round that the person reaches; throws a 404 where it isn't in it, or is others'. */
export async function dealOfRound(tx: Tx, context: Context, { id }: StoredRound, dealId: string) {
	reachDeal(context, dealId);
	const [row] = await tx
		.select()
		.from(roundDeals)
		.where(and(eq(roundDeals.roundId, id), eq(roundDeals.dealId, dealId)));
	if (!row) throw notFound("deal in this round", dealId);
	return row;
}

/** The deals of a round in the order of its queue. */
export const queueOf = (db: Sql, roundId: string) => db.select().from(roundDeals).where(eq(roundDeals.roundId, roundId)).orderBy(asc(roundDeals.place));

/** The call of each deal of a round that holds: its newest, unless that was taken back. */
export async function callsOf(db: Sql, roundId: string): Promise<Map<string, StoredCall>> {
	const rows = await db
		.selectDistinctOn([roundCalls.dealId])
		.from(roundCalls)
		.where(eq(roundCalls.roundId, roundId))
		.orderBy(roundCalls.dealId, desc(roundCalls.id));
	return new Map(rows.map((row) => [row.dealId, row]));
}

/** A stored call as it counts; null for what a walk decided, and for what was taken back. */
export function calledOf(stored: Pick<StoredCall, "call" | "toDay"> | undefined): Called | null {
	const call = CALLS.find((one): one is Call => one === stored?.call);
	return call ? { call, to: parseDay(stored?.toDay ?? "") ?? NO_DAY } : null;
}

/** Shows those who take part that something of the round has changed: whoever reaches its people, and they themselves. */
export async function announce(tx: Tx, context: Context, round: StoredRound): Promise<void> {
	const { organisation } = context;
	const deals = await tx.select({ dealId: roundDeals.dealId }).from(roundDeals).where(eq(roundDeals.roundId, round.id));
	const survey = surveyOn(organisation.company, context.now.day);
	const owners = new Set(deals.flatMap(({ dealId }) => survey.deals[organisation.dealIndex.get(dealId) ?? -1]?.owner ?? []));
	const told = organisation.people.filter((person, index) => {
		if (person.id === context.actor.person.id) return false;
		if (owners.has(index)) return true;
		if (person.role !== "manager" && person.role !== "ops") return false;
		const reach = reachOf(organisation, { person, index });
		return [...owners].some((owner) => reaches(reach, owner));
	});
	// Of many who might look the screens are told at once: it is one statement.
	if (told.length)
		await tx.execute(
			sql`select pg_notify(${NEWS_CHANNEL}, id) from unnest(array[${sql.join(
				told.map(({ id }) => sql`${id}`),
				sql`, `,
			)}]::text[]) id`,
		);
}

/** The ended round before another one that a deal was in, by deal. */
export async function roundsBefore(
	context: Context,
	round: Pick<StoredRound, "id" | "startedAt">,
	dealIds: readonly string[],
): Promise<Map<string, StoredRound>> {
	if (!dealIds.length) return new Map();
	const rows = await connection()
		.db.select({ dealId: roundDeals.dealId, round: rounds })
		.from(roundDeals)
		.innerJoin(rounds, eq(rounds.id, roundDeals.roundId))
		.where(
			and(
				isOneOf(roundDeals.dealId, [...dealIds]),
				eq(rounds.kind, "round"),
				sql`${rounds.endedAt} is not null`,
				sql`${rounds.id} <> ${round.id}`,
				sql`${rounds.startedAt} < ${round.startedAt.toISOString()}::timestamptz`,
			),
		)
		.orderBy(asc(rounds.startedAt));
	return new Map(rows.filter(({ round: before }) => scopeOfRound(context, before)).map(({ dealId, round: before }) => [dealId, before]));
}

/** The day on which a round of each plan was started last, by plan: one question for all, since every page counts what is due. */
export async function lastHeld(db: Sql, { organisation }: Pick<Context, "organisation">): Promise<Map<string, Day>> {
	const { zone } = organisation.company.rules;
	const rows = await db
		.selectDistinctOn([rounds.planId], { planId: rounds.planId, at: rounds.startedAt })
		.from(rounds)
		.where(isNotNull(rounds.planId))
		.orderBy(rounds.planId, desc(rounds.startedAt));
	return new Map(rows.map(({ planId, at }) => [planId as string, zone.dayOf(at.getTime())]));
}
