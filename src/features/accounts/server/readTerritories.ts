import { ownerIn } from "@/core/bridge/scope";
import { surveyOn } from "@/core/survey";
import { formatDay, NO_DAY } from "@/core/time/day";
import { bounded } from "@/core/time/period";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { ownerName } from "@/platform/names";
import { ownersFor } from "@/platform/owners";
import { may } from "@/platform/rights";
import type { Viewpoint } from "@/platform/viewpoint";
import { accountLines } from "./accountLines";
import { mayGiveAway } from "./ownership";

/** An account as it is moved with others. */
export interface TerritoryAccount {
	readonly id: string;
	readonly name: string;
	readonly owner: string;
	readonly ownerId: string | null;
	/** it is theirs to give: of one of their people, or of nobody */
	readonly mine: boolean;
	readonly kind: string | null;
	readonly silent: boolean;
	readonly openCount: number;
	/** base minor units */
	readonly open: number;
}

export interface TerritoryRow {
	/** empty: accounts without one */
	readonly territory: string;
	readonly accounts: number;
	/** not spoken to for longer than the last band, or not in 365 days */
	readonly silent: number;
	readonly atRisk: number;
	readonly openCount: number;
	readonly open: number;
	/** won in the period of the sentence, base minor units */
	readonly won: number;
	/** whom its accounts belong to, the most first */
	readonly owners: readonly { readonly name: string; readonly count: number }[];
	readonly list: readonly TerritoryAccount[];
}

export interface TerritoriesView {
	readonly rows: readonly TerritoryRow[];
	readonly period: string | null;
	readonly currency: string;
	readonly seen: string;
	/** whom accounts may be given to; null where they can’t be */
	readonly owners: readonly { readonly id: string; readonly name: string }[] | null;
}

/** Accounts of the sentence’s people by territory: what is open and won there, who is silent, and whose they are. */
export const readTerritories = query("accounts.territories", "readAccounts", async (context: Context, viewpoint: Viewpoint): Promise<TerritoriesView> => {
	const { organisation } = context;
	const { day } = viewpoint.seen;
	const lines = await accountLines(organisation, day, viewpoint.whose.scope);
	const longest = organisation.contactBands.length;
	const won = wonByAccount(context, viewpoint);
	const groups = new Map<string, typeof lines>();
	for (const line of lines) {
		const territory = line.account.territory ?? "";
		const group = groups.get(territory);
		if (group) group.push(line);
		else groups.set(territory, [line]);
	}
	const nameOf = (id: string | null) => ownerName(organisation, organisation.personIndex.get(id ?? "") ?? -1);
	const rows = [...groups].map(([territory, own]): TerritoryRow => {
		const byOwner = new Map<string, number>();
		for (const { account } of own) byOwner.set(nameOf(account.ownerId), (byOwner.get(nameOf(account.ownerId)) ?? 0) + 1);
		return {
			territory,
			accounts: own.length,
			silent: own.filter(({ band }) => band >= longest).length,
			atRisk: own.filter(({ atRisk }) => atRisk).length,
			openCount: own.reduce((sum, { open }) => sum + open.length, 0),
			open: own.reduce((sum, { openAmount }) => sum + openAmount, 0),
			won: own.reduce((sum, { account }) => sum + (won.get(account.id) ?? 0), 0),
			owners: [...byOwner].map(([name, count]) => ({ name, count })).sort((a, b) => b.count - a.count || (a.name < b.name ? -1 : 1)),
			list: own
				.map(({ account, band, open, openAmount }) => ({
					id: account.id,
					name: account.name || "No name",
					owner: nameOf(account.ownerId),
					ownerId: account.ownerId,
					mine: mayGiveAway(context, account),
					kind: account.kind,
					silent: band >= longest,
					openCount: open.length,
					open: openAmount,
				}))
				.sort((a, b) => (a.name < b.name ? -1 : 1)),
		};
	});
	return {
		rows: rows.sort((a, b) => Number(a.territory === "") - Number(b.territory === "") || (a.territory < b.territory ? -1 : 1)),
		period: bounded(viewpoint.due.period) ? viewpoint.due.label : null,
		currency: organisation.company.rules.rates.base,
		seen: formatDay(day),
		owners: may(context.actor, "editAccounts") && !viewpoint.seen.past ? ownersFor(context) : null,
	};
});

/** What was won in the period of a sentence, by account. */
function wonByAccount({ organisation }: Context, viewpoint: Viewpoint): ReadonlyMap<string, number> {
	const period = bounded(viewpoint.due.period);
	const won = new Map<string, number>();
	for (const seen of surveyOn(organisation.company, viewpoint.seen.day).deals) {
		if (seen?.status !== "won" || seen.closedDay === NO_DAY || !ownerIn(viewpoint.whose.scope, seen.owner)) continue;
		if (!period || seen.closedDay < period.start || seen.closedDay > period.end) continue;
		const account = organisation.deals[seen.deal]?.accountId;
		if (account) won.set(account, (won.get(account) ?? 0) + seen.amountBase);
	}
	return won;
}
