import { surveyOn } from "@/core/survey";
import type { Account } from "@/data/organisation/state";
import type { Context } from "@/platform/context";
import { dealsByAccount } from "@/platform/dealsByAccount";
import { notFound } from "@/platform/fault";
import { reaches, reachOf } from "@/platform/reach";

/** An account that somebody reaches: one of theirs to own, or with a deal of theirs, be it closed; throws a 404 for any other. */
export function reachAccount(context: Context, id: string): Account {
	const { organisation, actor, now } = context;
	const account = organisation.accounts.get(id);
	const reach = reachOf(organisation, actor);
	const owner = organisation.personIndex.get(account?.ownerId ?? "") ?? -1;
	const seen = surveyOn(organisation.company, now.day).deals;
	const own = () => (dealsByAccount(organisation).get(id) ?? []).some((deal) => reaches(reach, seen[deal]?.owner ?? -1));
	if (!account || !(reach === null || reaches(reach, owner) || own())) throw notFound("account", id);
	return account;
}

/** The deals of an account that somebody reaches, by index, as they are today. */
export function dealsReached(context: Context, id: string): number[] {
	const { organisation, actor, now } = context;
	const reach = reachOf(organisation, actor);
	const seen = surveyOn(organisation.company, now.day).deals;
	return (dealsByAccount(organisation).get(id) ?? []).filter((deal) => reaches(reach, seen[deal]?.owner ?? -1));
}
