import { sql } from "drizzle-orm";
import { z } from "zod";
import { type Turn, turnsOf, type Waits } from "@/core/accounts/turns";
import type { Scope } from "@/core/bridge/scope";
import { earliestPlanned } from "@/core/contact/planned";
import { derive, keyOf } from "@/core/derive";
import { gathered, surveyOn } from "@/core/survey";
import { isOpenOn, taskOn } from "@/core/tasks/task";
import { type Day, formatDay, NO_DAY, parseDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { accountsOn } from "@/data/organisation/former";
import type { OrganisationState } from "@/data/organisation/state";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dayAsked } from "@/platform/days";
import { dealsByAccount } from "@/platform/dealsByAccount";
import { page } from "@/platform/http/api";
import { reaches, scopeOf } from "@/platform/reach";
import { lastTouches } from "./facts";

/** Who waits, on a deal or at an account; the other is null. */
export interface WaitsThere extends Waits {
	/** index of the deal, or −1 */
	readonly deal: number;
	readonly account: string | null;
}

export const turnSchema = z
	.object({
		dealId: z.string().optional().meta({ description: "of an open deal" }),
		accountId: z.string().optional().meta({ description: "of an account without an open deal" }),
		side: z.enum(["they", "we"]).meta({ description: "`they` wait for us, or `we` wait for them" }),
		since: z.iso.date(),
		workingDays: z.number().int(),
		askAgain: z.iso.date().nullable().meta({ description: "the day to ask again; null where they wait for us" }),
	})
	.meta({ id: "Turn" });
export type TurnJson = z.infer<typeof turnSchema>;

/** Whose turn it is, across the deals and accounts of some people, in the order of work. */
export async function turnsIn(organisation: OrganisationState, day: Day, scope: Scope): Promise<Turn<WaitsThere>[]> {
	const { company } = organisation;
	const deals = onDeals(organisation, day).filter(({ owner }) => reaches(scope, owner));
	const accounts = (await atAccounts(organisation, day)).filter(({ owner }) => reaches(scope, owner));
	return turnsOf<WaitsThere>([...deals, ...accounts], day, company.rules.calendar);
}

type Owned = WaitsThere & { readonly owner: number };

/** Open deals on which somebody waits; what a write didn't touch is kept. */
const onDeals = ({ company, deals }: OrganisationState, day: Day): readonly Owned[] =>
	gathered(surveyOn(company, day), "turns", "", (block) =>
		block.deals.flatMap((seen): Owned[] => {
			const waiting = seen?.status === "open" ? seen.contact.waiting : null;
			if (!seen || !waiting) return [];
			return [{ ...waiting, id: deals[seen.deal]?.id ?? "", deal: seen.deal, account: null, owner: seen.owner, planned: plannedOn(company, seen.deal, day) }];
		}),
	);

/** On how many open deals of some people the other side waits for us. Every screen says so: accounts, which a write costs more, aren’t counted. */
export const dealsWaiting = (organisation: OrganisationState, day: Day, scope: Scope): number =>
	onDeals(organisation, day).filter(({ side, owner }) => side === "they" && reaches(scope, owner)).length;

/** The earliest day of an open task or a planned activity of a deal; NO_DAY where there is none. */
function plannedOn({ deals }: Pick<OrganisationState["company"], "deals">, deal: number, day: Day): Day {
	const facts = deals[deal];
	if (!facts) return NO_DAY;
	const due = facts.tasks.map((task) => taskOn(task, day)).flatMap((task) => (isOpenOn(task, day) && task.due !== NO_DAY ? [task.due] : []));
	return earliestOf([earliestPlanned(facts.activities, day), ...due]);
}

const earliestOf = (days: readonly Day[]): Day => days.reduce((first, day) => (day !== NO_DAY && (first === NO_DAY || day < first) ? day : first), NO_DAY);

/** Accounts that were spoken to and have no open deal, at which somebody waits. */
async function atAccounts(organisation: OrganisationState, day: Day): Promise<readonly Owned[]> {
	const { company, accounts, personIndex } = organisation;
	const touches = await lastTouches(organisation, day);
	const loose = await derive(accounts, "planned of no deal", day, () => plannedOfNoDeal(organisation, day));
	return derive(company, "turns of accounts", keyOf(day, accounts, touches, loose), () => {
		const seen = surveyOn(company, day).deals;
		const byAccount = dealsByAccount(organisation, day);
		return [...accountsOn(organisation, day).values()].flatMap(({ id, ownerId }): Owned[] => {
			const touch = touches.get(id);
			const side = touch?.direction === "in" ? "they" : touch?.direction === "out" ? "we" : null;
			const deals = byAccount.get(id) ?? [];
			if (!touch || !side || deals.some((deal) => seen[deal]?.status === "open")) return [];
			const planned = earliestOf([loose.get(id) ?? NO_DAY, ...deals.map((deal) => plannedOn(company, deal, day))]);
			return [{ id, side, since: touch.day, planned, deal: -1, account: id, owner: personIndex.get(ownerId ?? "") ?? -1 }];
		});
	});
}

/** The earliest planned activity of each account that is about no deal. */
async function plannedOfNoDeal({ company }: OrganisationState, day: Day): Promise<ReadonlyMap<string, Day>> {
	const { zone } = company.rules;
	const until = new Date(zone.instantAt(day + 1, 0)).toISOString();
	const { rows } = await connection().db.execute(sql`
		select account_id, min((case when settled_at >= ${until} then planned_for else at end at time zone ${zone.name})::date)::text as day from activities
		where deal_id is null and account_id is not null and (state = 'planned' or settled_at >= ${until}) and (recorded_at is null or recorded_at < ${until})
		group by account_id`);
	return new Map(rows.map((row) => [String(row.account_id), parseDay(String(row.day)) ?? NO_DAY]));
}

/** Whose turn it is, as the API tells of it. */
export const listTurns = query(
	"accounts.turns",
	"readAccounts",
	async (
		context: Context,
		asked: { readonly as_of?: string | undefined; readonly team?: string | undefined; readonly owner?: string | undefined },
		{ cursor, limit = Number.POSITIVE_INFINITY }: { cursor?: string | undefined; limit?: number } = {},
	): Promise<{ items: TurnJson[]; next: string | null }> => {
		const day = dayAsked(context, "as_of", asked.as_of);
		const turns = await turnsIn(context.organisation, day, scopeOf(context, asked.team, asked.owner));
		const named = turns.map((turn) => ({ id: `${turn.waits.account === null ? "deal" : "account"} ${turn.waits.id}`, turn }));
		const { items, next } = page(named, cursor, limit);
		return { items: items.map(({ turn }) => turnJson(turn)), next };
	},
);

const turnJson = ({ waits: { id, account, side, since }, workingDays, askAgain }: Turn<WaitsThere>): TurnJson => ({
	...(account === null ? { dealId: id } : { accountId: id }),
	side,
	since: formatDay(since),
	workingDays,
	askAgain: askAgain === null ? null : formatDay(askAgain),
});
