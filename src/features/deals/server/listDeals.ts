import { byAttention } from "@/core/attention/attention";
import type { Scope } from "@/core/bridge/scope";
import { type Day, NO_DAY, parseDay } from "@/core/time/day";
import { ALWAYS, type Period } from "@/core/time/period";
import { teamsUnder } from "@/data/organisation/state";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { demand, peopleIn, reaches, reachOf, within } from "@/platform/rights";
import { surveyOn } from "@/platform/survey";
import { type DealJson, dealJson } from "./dealJson";

export interface DealFilter {
	readonly as_of?: string | undefined;
	readonly from?: string | undefined;
	readonly to?: string | undefined;
	readonly team?: string | undefined;
	readonly owner?: string | undefined;
	readonly flag?: string | undefined;
	readonly status?: "open" | "won" | "lost" | undefined;
}

/** A day of a query, or the given one; a day to come is refused: nobody has seen it. */
export function dayOf(context: Context, name: string, text: string | undefined): Day {
	if (!text) return context.now.day;
	const day = parseDay(text);
	if (day === null) throw new Fault(400, "Bad request", `${name} is ${text}; it must be an ISO day that exists.`);
	if (day > context.now.day) throw new Fault(400, "Bad request", `${name} is ${text}, and that day is still to come.`);
	return day;
}

export function periodOf(from: string | undefined, to: string | undefined): Period {
	const day = (name: string, text: string) => {
		const parsed = parseDay(text);
		if (parsed === null) throw new Fault(400, "Bad request", `${name} is ${text}; it must be an ISO day that exists.`);
		return parsed;
	};
	const period = { start: from ? day("from", from) : ALWAYS.start, end: to ? day("to", to) : ALWAYS.end };
	if (period.end < period.start) throw new Fault(400, "Bad request", "to lies before from.");
	return period;
}

/** The scope a query asks for, within what the actor reaches. */
export function scopeOf(context: Context, team: string | undefined, owner: string | undefined): Scope {
	const { organisation, actor } = context;
	let scope = reachOf(organisation, actor);
	if (team !== undefined) {
		if (!organisation.teams.has(team)) throw notFound("team", team);
		scope = within(peopleIn(organisation, teamsUnder(organisation, team)), scope);
	}
	if (owner !== undefined) {
		const index = organisation.personIndex.get(owner);
		if (index === undefined) throw notFound("person", owner);
		scope = within(new Set([index]), scope);
	}
	return scope;
}

/** Deals as seen on a day, in the order of lists. */
export function listDeals(context: Context, filter: DealFilter): DealJson[] {
	demand(context.actor, "readDeals");
	const day = dayOf(context, "as_of", filter.as_of);
	const period = periodOf(filter.from, filter.to);
	const bounded = filter.from !== undefined || filter.to !== undefined;
	const scope = scopeOf(context, filter.team, filter.owner);
	const found = surveyOn(context.organisation.company, day).deals.filter((seen) => {
		if (!seen || !reaches(scope, seen.owner)) return false;
		if (filter.status && seen.status !== filter.status) return false;
		if (filter.flag && !seen.flags.some((flag) => flag.code === filter.flag)) return false;
		return !bounded || (seen.close !== NO_DAY && seen.close >= period.start && seen.close <= period.end);
	});
	return found
		.flatMap((seen) => (seen ? [dealJson(context.organisation, seen)] : []))
		.sort((a, b) =>
			byAttention({ score: a.attention.score, amountBase: a.amountBase, id: a.id }, { score: b.attention.score, amountBase: b.amountBase, id: b.id }),
		);
}
