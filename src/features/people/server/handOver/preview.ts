import { and, asc, desc, eq, gt, gte, isNull, or, type SQL } from "drizzle-orm";
import type { PgTable } from "drizzle-orm/pg-core";
import { z } from "zod";
import { byText } from "@/core/deal/order";
import { worksOn } from "@/core/people/person";
import { surveyOn } from "@/core/survey";
import { formatDay, isoOrNull } from "@/core/time/day";
import { connection } from "@/data/db";
import { apiKeys, feeds, handovers, passkeys, passwordLinks, roundPlans, sessions, targets, tasks, webhooks } from "@/data/schema";
import { lookup } from "@/platform/command";
import type { Context } from "@/platform/context";
import { idSchema } from "@/platform/input";
import { accountName, chosenName, dealName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import { may } from "@/platform/rights";
import { reached } from "./reached";

/** Everything of somebody that goes to others or ends when they leave: each deal, task, planned round, target and way in. */
export const previewHandOver = lookup({
	name: "people.previewHandOver",
	right: "handOver",
	input: z.object({ from: idSchema }),
	async run({ context, input: { from } }) {
		const { organisation, now, actor } = context;
		const { index, person } = reached(context, from);
		const { db } = connection();
		const today = formatDay(now.day);
		const deals = openDeals(context, index);
		const [own, plans, set, [last]] = await Promise.all([
			db
				.select({ id: tasks.id, title: tasks.title, dueOn: tasks.dueOn, dealId: tasks.dealId })
				.from(tasks)
				.where(and(eq(tasks.assigneeId, from), eq(tasks.state, "open")))
				.orderBy(tasks.dueOn, tasks.id),
			db
				.select({ id: roundPlans.id, name: roundPlans.name, whose: roundPlans.whose, weekday: roundPlans.weekday })
				.from(roundPlans)
				.where(or(eq(roundPlans.byId, from), eq(roundPlans.whose, `person:${from}`)))
				.orderBy(roundPlans.name),
			db
				.select()
				.from(targets)
				.where(and(eq(targets.personId, from), gte(targets.periodEnd, today)))
				.orderBy(asc(targets.periodStart)),
			db
				.select({ id: handovers.id, at: handovers.at })
				.from(handovers)
				.where(and(eq(handovers.personId, from), eq(handovers.byId, actor.person.id), isNull(handovers.undoneAt)))
				.orderBy(desc(handovers.at))
				.limit(1),
		]);
		return {
			name: person.name,
			team: person.team,
			role: person.role,
			lastDay: isoOrNull(person.activeTo),
			today,
			deals,
			tasks: own,
			/** a round over themselves can only end or stay; another can go to somebody who holds rounds */
			plans: plans.map(({ whose, ...plan }) => ({ ...plan, over: whose === `person:${from}` })),
			targets: set.map(({ periodStart, periodEnd, family, amount, currency }) => ({ start: periodStart, end: periodEnd, family, amount, currency })),
			/** of interest to those alone who may end them */
			ways: may(actor, "managePeople") ? await waysOf(from) : null,
			people: takers(context, index),
			mayEnd: may(actor, "managePeople"),
			mayMoveTargets: may(actor, "setTargets"),
			currency: organisation.company.rules.rates.base,
			/** what was handed over last, by the person who looks, and can be undone */
			last: last ? { id: last.id, at: last.at.toISOString() } : null,
		};
	},
});

/** Somebody's open deals, the largest first, with who has other open deals of the same account. */
function openDeals({ organisation, now, actor }: Context, owner: number) {
	const seen = surveyOn(organisation.company, now.day).deals;
	const reach = reachOf(organisation, actor);
	const byAccount = new Map<string, Map<number, number>>();
	for (const one of seen) {
		const account = one?.status === "open" && one.owner !== owner && reaches(reach, one.owner) ? organisation.deals[one.deal]?.accountId : null;
		if (!one || !account) continue;
		const owners = byAccount.get(account) ?? new Map<number, number>();
		owners.set(one.owner, (owners.get(one.owner) ?? 0) + one.amountBase);
		byAccount.set(account, owners);
	}
	const besides = (account: string | null | undefined) => {
		const most = [...(byAccount.get(account ?? "") ?? [])].sort((a, b) => b[1] - a[1])[0];
		const person = most && organisation.people[most[0]];
		return person && worksOn(person, now.day) ? person.id : null;
	};
	return seen
		.flatMap((one) =>
			one?.status === "open" && one.owner === owner
				? [
						{
							id: organisation.deals[one.deal]?.id ?? "",
							name: dealName(organisation, one.deal),
							account: accountName(organisation, one.deal),
							amount: one.amountBase,
							level: one.attention.level,
							besides: besides(organisation.deals[one.deal]?.accountId),
						},
					]
				: [],
		)
		.sort((a, b) => b.amount - a.amount || byText(a.id, b.id));
}

/** Who can take something over: everybody in reach who works here and has deals or a team. */
function takers({ organisation, now, actor }: Context, from: number) {
	const reach = reachOf(organisation, actor);
	return organisation.people.flatMap((one, i) =>
		i !== from && reaches(reach, i) && worksOn(one, now.day) && (one.role === "rep" || one.role === "manager")
			? [{ id: one.id, name: chosenName(organisation, i), team: one.team, manager: one.role === "manager" }]
			: [],
	);
}

/** How many ways somebody, or a program in their name, has in. */
async function waysOf(id: string) {
	const { db } = connection();
	const count = (table: PgTable, where: SQL | undefined) => db.$count(table, where);
	const [keys, links, own, calendars, hooks, open] = await Promise.all([
		count(apiKeys, and(eq(apiKeys.personId, id), isNull(apiKeys.revokedAt))),
		count(passwordLinks, and(eq(passwordLinks.personId, id), gt(passwordLinks.expiresAt, new Date()))),
		count(passkeys, eq(passkeys.personId, id)),
		count(feeds, eq(feeds.personId, id)),
		count(webhooks, and(eq(webhooks.byId, id), eq(webhooks.on, true))),
		count(sessions, and(eq(sessions.personId, id), gt(sessions.expiresAt, new Date()))),
	]);
	return { keys, links, passkeys: own, calendars, webhooks: hooks, sessions: open };
}
