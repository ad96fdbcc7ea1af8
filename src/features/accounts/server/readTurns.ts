import { surveyOn } from "@/core/survey";
import { formatDay } from "@/core/time/day";
import { accountsOn } from "@/data/organisation/former";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerShort } from "@/platform/names";
import { may } from "@/platform/rights";
import type { Viewpoint } from "@/platform/viewpoint";
import { dealsWaiting, turnsIn } from "./turns";

/** Somebody who waits, as a line tells of them. */
export interface TurnRow {
	readonly id: string;
	/** null: an account without an open deal */
	readonly dealId: string | null;
	readonly accountId: string | null;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	readonly level: string | null;
	readonly amount: number;
	readonly side: "they" | "we";
	readonly since: string;
	readonly workingDays: number;
	readonly askAgain: string | null;
	readonly due: boolean;
}

export interface TurnsView {
	readonly rows: readonly TurnRow[];
	readonly count: number;
	/** how many wait for us, are to be asked again, and are waited for until later */
	readonly counts: { readonly they: number; readonly again: number; readonly later: number };
	readonly kinds: readonly string[];
	readonly currency: string;
	readonly seen: string;
	readonly mayWrite: boolean;
}

/** On how many deals they wait for us: what stands beside *Accounts* in the rail. */
export const countWaiting = query("accounts.waiting", "readAccounts", ({ organisation }: Context, { whose, seen: { day } }: Viewpoint): number =>
	dealsWaiting(organisation, day, whose.scope),
);

/** Whose turn it is among the deals and accounts of the sentence’s people, in the order of work. */
export const readTurns = query("accounts.turnsPage", "readAccounts", async (context: Context, viewpoint: Viewpoint, limit: number): Promise<TurnsView> => {
	const { organisation } = context;
	const { day } = viewpoint.seen;
	const turns = await turnsIn(organisation, day, viewpoint.whose.scope);
	const seen = surveyOn(organisation.company, day).deals;
	const they = turns.filter(({ waits }) => waits.side === "they").length;
	const due = turns.filter((turn) => turn.due).length;
	return {
		rows: turns.slice(0, limit).map(({ waits, workingDays, askAgain, due: isDue }): TurnRow => {
			const { account, deal, id, side, since } = waits;
			const one = deal >= 0 ? seen[deal] : null;
			const known = accountsOn(organisation, day).get(account ?? "");
			return {
				id: `${account === null ? "deal" : "account"} ${id}`,
				dealId: account === null ? id : null,
				accountId: account ?? organisation.deals[deal]?.accountId ?? null,
				name: account === null ? dealName(organisation, deal, day) : known?.name || "No name",
				account: account === null ? accountName(organisation, deal, day) : "no open deal",
				owner: ownerShort(organisation, one?.owner ?? organisation.personIndex.get(known?.ownerId ?? "") ?? -1),
				level: one?.attention.level ?? null,
				amount: one?.amountBase ?? 0,
				side,
				since: formatDay(since),
				workingDays,
				askAgain: askAgain === null ? null : formatDay(askAgain),
				due: isDue,
			};
		}),
		count: turns.length,
		counts: { they, again: due - they, later: turns.length - due },
		kinds: organisation.activityKinds,
		currency: organisation.company.rules.rates.base,
		seen: formatDay(day),
		mayWrite: may(context.actor, "writeNotes") && !viewpoint.seen.past,
	};
});
