import { surveyOn } from "@/core/survey";
import type { Day } from "@/core/time/day";
import type { Account } from "@/data/organisation/state";
import type { Context } from "./context";
import { dealsByAccount } from "./dealsByAccount";
import { notFound } from "./fault";
import { reaches, reachOf } from "./reach";

/** Whether somebody reaches an account: one of theirs to own, or with a deal of theirs, be it closed. */
export function reachesAccount(context: Context, { id, ownerId }: Account): boolean {
	const { organisation, actor } = context;
	const reach = reachOf(organisation, actor);
	return reach === null || reaches(reach, organisation.personIndex.get(ownerId ?? "") ?? -1) || dealsReached(context, id).length > 0;
}

/** An account that somebody reaches; throws a 404 for any other. */
export function reachAccount(context: Context, id: string): Account {
	const account = context.organisation.accounts.get(id);
	if (!account || !reachesAccount(context, account)) throw notFound("account", id);
	return account;
}

/** The deals of an account that somebody reaches today, by index: those that belong to it now, or did on a day. */
export function dealsReached({ organisation, actor, now }: Context, id: string, day?: Day): number[] {
	const reach = reachOf(organisation, actor);
	const seen = surveyOn(organisation.company, now.day).deals;
	return (dealsByAccount(organisation, day).get(id) ?? []).filter((deal) => reaches(reach, seen[deal]?.owner ?? -1));
}
