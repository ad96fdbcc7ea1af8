import { and, asc, eq, gt, lte, or } from "drizzle-orm";
import { CARE, type Care, careOf } from "@/core/accounts/care";
import type { Scope } from "@/core/bridge/scope";
import { derive, keyOf } from "@/core/derive";
import { comeBackOn } from "@/core/patterns/comeBack";
import { type Day, formatDay, isoOrNull, NO_DAY } from "@/core/time/day";
import { connection } from "@/data/db";
import { identityOn } from "@/data/organisation/former";
import type { OrganisationState } from "@/data/organisation/state";
import { isOneOf } from "@/data/queries/isOneOf";
import { tasks } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { ANSWERS_KEPT, viewpointKey } from "@/platform/derivedFor";
import { chosenName, dealName } from "@/platform/names";
import { reaches } from "@/platform/reach";
import { may } from "@/platform/rights";
import type { Viewpoint } from "@/platform/viewpoint";
import { accountDeals, lostLines } from "./accountDeals";
import { type AccountLine, accountLines } from "./accountLines";
import { ordersByAccount } from "./purchases";

/** Which accounts are asked for. */
export interface CareLook {
	readonly why?: Care | undefined;
	readonly kind?: string | undefined;
	readonly territory?: string | undefined;
	readonly owner?: string | undefined;
	readonly limit: number;
}

/** An account without an open deal that is worth a look. */
export interface CareRow {
	readonly id: string;
	readonly name: string;
	readonly kind: string | null;
	readonly industry: string | null;
	readonly territory: string | null;
	readonly owner: string;
	readonly why: readonly Care[];
	readonly lastContact: string | null;
	/** calendar days since then, and how many are set for its kind */
	readonly since: number | null;
	readonly rhythm: number;
	readonly first: string | null;
	readonly bought: AccountLine["bought"];
	/** the deal that was lost last for a reason that ends, and the day to come back */
	readonly lost: { readonly id: string; readonly name: string; readonly reason: string; readonly back: string } | null;
	/** the open task that is due first */
	readonly task: { readonly title: string; readonly due: string | null; readonly more: number } | null;
}

export interface CareView {
	readonly rows: readonly CareRow[];
	/** how many fit */
	readonly count: number;
	/** how many of all there are for each reason; one may have several */
	readonly counts: Readonly<Record<Care, number>>;
	readonly why: Care | null;
	readonly choices: { readonly kinds: readonly string[]; readonly territories: readonly string[]; readonly owners: readonly string[] };
	readonly currency: string;
	readonly seen: string;
	readonly mayGive: boolean;
}

interface Found extends Omit<CareRow, "task" | "first" | "lost" | "lastContact"> {
	readonly line: AccountLine;
	readonly firstDay: Day;
	readonly lostDeal: Lost | null;
}

interface Lost {
	readonly deal: number;
	readonly closed: Day;
	readonly reason: string;
	readonly back: Day;
}

/** Accounts of a viewpoint’s people without an open deal that are worth a look, seen on its day; those that bought most first. */
export const readCare = query("accounts.care", "readAccounts", async (context: Context, viewpoint: Viewpoint, look: CareLook): Promise<CareView> => {
	const { organisation, actor } = context;
	const { day } = viewpoint.seen;
	const { accounts, careDays, reasonReturns, company } = organisation;
	const all = await derive(
		company,
		"care",
		keyOf(accounts, careDays, reasonReturns, viewpointKey(viewpoint)),
		() => foundOn(organisation, viewpoint),
		ANSWERS_KEPT,
	);
	const fits = ({ kind, territory, owner }: Found) =>
		(!look.kind || kind === look.kind) && (!look.territory || territory === look.territory) && (!look.owner || owner === look.owner);
	const among = all.filter(fits);
	const found = among.filter(({ why }) => !look.why || why.includes(look.why));
	const shown = found.slice(0, look.limit);
	const open = await openAt(
		shown.map(({ id }) => id),
		organisation.company.rules.zone.instantAt(day + 1, 0),
	);
	const distinct = (of: (one: Found) => string | null) => [...new Set(all.flatMap((one) => of(one) ?? []))].sort();
	return {
		rows: shown.map(({ line, firstDay, lostDeal, ...row }) => ({
			...row,
			lastContact: line.touch ? formatDay(line.touch.day) : null,
			first: isoOrNull(firstDay),
			lost: lostDeal && {
				id: organisation.deals[lostDeal.deal]?.id ?? "",
				name: dealName(organisation, lostDeal.deal),
				reason: lostDeal.reason,
				back: formatDay(lostDeal.back),
			},
			task: open.get(row.id) ?? null,
		})),
		count: found.length,
		counts: Object.fromEntries(CARE.map((why) => [why, among.filter((one) => one.why.includes(why)).length])) as Record<Care, number>,
		why: look.why ?? null,
		choices: { kinds: distinct(({ kind }) => kind), territories: distinct(({ territory }) => territory), owners: distinct(({ owner }) => owner) },
		currency: organisation.company.rules.rates.base,
		seen: formatDay(day),
		mayGive: may(actor, "assignTasks") && !viewpoint.seen.past,
	};
});

async function foundOn(organisation: OrganisationState, { whose, seen: { day } }: Viewpoint): Promise<Found[]> {
	const { careDays, personIndex } = organisation;
	const lines = await accountLines(organisation, day, whose.scope);
	const orders = await ordersByAccount(organisation);
	// A deal of anybody’s will do: its owner cares for the account.
	const { open } = accountDeals(organisation, day, () => true);
	const lost = lostBy(organisation, whose.scope, day);
	const found = lines.flatMap((line): Found[] => {
		const { account, touch, atRisk, bought } = line;
		if (open.get(account.id)?.length) return [];
		const firstDay = (orders.get(account.id) ?? []).reduce((first, one) => (one.day <= day && (first === NO_DAY || one.day < first) ? one.day : first), NO_DAY);
		// What has bought is a customer, whatever the account is called.
		const isCustomer = account.kind !== "prospect" || firstDay !== NO_DAY;
		const since = touch ? day - touch.day : null;
		const rhythm = isCustomer ? careDays.customer : careDays.prospect;
		const lostDeal = lost.get(account.id) ?? null;
		const why = careOf({ isCustomer, first: firstDay, atRisk, since, rhythm, back: lostDeal?.back ?? NO_DAY }, day);
		if (!why.length) return [];
		const { id, name, kind, industry, territory } = account;
		const owner = chosenName(organisation, personIndex.get(account.ownerId ?? "") ?? -1) || "No owner";
		return [{ line, firstDay, lostDeal, id, name: name || "No name", kind, industry, territory, owner, why, since, rhythm, bought }];
	});
	const worth = ({ bought }: Found) => bought.last365 + bought.before365;
	return found.sort((a, b) => worth(b) - worth(a) || (b.since ?? Number.POSITIVE_INFINITY) - (a.since ?? Number.POSITIVE_INFINITY) || (a.id < b.id ? -1 : 1));
}

/** Of each account the deal of some people that was lost last, where its reason ends one day. */
function lostBy(organisation: OrganisationState, scope: Scope, day: Day): Map<string, Lost> {
	const { rules } = organisation.company;
	const newest = new Map<string, Lost>();
	for (const { deal, owner, closedDay, reason } of lostLines(organisation, day)) {
		const attributes = organisation.deals[deal];
		const account = attributes && identityOn(attributes, day).accountId;
		if (!account || !reaches(scope, owner) || (newest.get(account)?.closed ?? NO_DAY) > closedDay) continue;
		const returns = organisation.reasonReturns[reason];
		// One lost later for a reason that stays takes the place of an earlier one.
		newest.set(account, {
			deal,
			closed: closedDay,
			reason,
			back: returns === undefined ? NO_DAY : comeBackOn(returns, closedDay, closedDay, rules.fiscal, rules.calendar),
		});
	}
	for (const [account, { back }] of newest) if (back === NO_DAY) newest.delete(account);
	return newest;
}

/** The open task that is due first at each of some accounts, as they stood before an instant, and how many more there are. */
async function openAt(accounts: readonly string[], until: number): Promise<Map<string, NonNullable<CareRow["task"]>>> {
	const end = new Date(until);
	const rows = accounts.length
		? await connection()
				.db.select({ account: tasks.accountId, title: tasks.title, due: tasks.dueOn })
				.from(tasks)
				.where(and(isOneOf(tasks.accountId, [...accounts]), lte(tasks.createdAt, end), or(eq(tasks.state, "open"), gt(tasks.doneAt, end))))
				.orderBy(asc(tasks.dueOn), asc(tasks.id))
		: [];
	const found = new Map<string, NonNullable<CareRow["task"]>>();
	for (const { account, title, due } of rows) {
		const first = found.get(account ?? "");
		found.set(account ?? "", first ? { ...first, more: first.more + 1 } : { title, due, more: 0 });
	}
	return found;
}
