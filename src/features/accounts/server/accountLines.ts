import { type Bought, isAtRisk } from "@/core/accounts/bought";
import type { Scope } from "@/core/bridge/scope";
import type { Day } from "@/core/time/day";
import { accountsOn } from "@/data/organisation/former";
import type { Account, OrganisationState } from "@/data/organisation/state";
import { reaches } from "@/platform/reach";
import { accountDeals, type OpenDeal } from "./accountDeals";
import { lastTouches, type Touch } from "./facts";
import { purchasesOn } from "./purchases";

/** What accounts are counted and ordered by; a row is made of those alone that are shown. */
export interface AccountLine {
	readonly account: Account;
	readonly touch: Touch | undefined;
	readonly band: number;
	readonly open: readonly OpenDeal[];
	readonly openAmount: number;
	/** base minor units bought in the fiscal year of the day and in the one before */
	readonly inYears: readonly [number, number];
	readonly bought: Bought;
	readonly atRisk: boolean;
}

const NOTHING_IN_YEARS = [0, 0] as const;
const NOTHING_BOUGHT: Bought = { last365: 0, before365: 0, trend: null };

/** The accounts of some people, seen on a day: those they own, and those that have a deal of theirs. */
export async function accountLines(organisation: OrganisationState, day: Day, scope: Scope): Promise<AccountLine[]> {
	const { lineOf, own } = await gather(organisation, day, scope);
	const isOwn = (account: Account) => scope === null || own.has(account.id) || reaches(scope, organisation.personIndex.get(account.ownerId ?? "") ?? -1);
	return [...accountsOn(organisation, day).values()].filter(isOwn).map(lineOf);
}

/** One of them; its open deals are those of the scope. */
export const accountLineOf = async (organisation: OrganisationState, account: Account, day: Day, scope: Scope): Promise<AccountLine> =>
	(await gather(organisation, day, scope)).lineOf(account);

/** What lines are made of, and which accounts have a deal of the scope. */
async function gather(organisation: OrganisationState, day: Day, scope: Scope) {
	const { contactBands, riskShare } = organisation;
	const [touches, { bought, inYears }] = await Promise.all([lastTouches(organisation, day), purchasesOn(organisation, day)]);
	const rule = { share: riskShare / 100, longest: contactBands.at(-1) ?? 0 };
	const { open, own } = accountDeals(organisation, day, (owner) => reaches(scope, owner));
	const lineOf = (account: Account): AccountLine => {
		const touch = touches.get(account.id);
		const deals = open.get(account.id) ?? [];
		const purchases = bought.get(account.id) ?? NOTHING_BOUGHT;
		return {
			account,
			touch,
			band: touch ? bandOf(day - touch.day, contactBands) : contactBands.length + 1,
			open: deals,
			openAmount: deals.reduce((sum, deal) => sum + deal.amount, 0),
			inYears: inYears.get(account.id) ?? NOTHING_IN_YEARS,
			bought: purchases,
			atRisk: isAtRisk(purchases, touch ? day - touch.day : null, rule),
		};
	};
	return { lineOf, own };
}

/** The band of a number of calendar days: the first whose upper end they don't pass. */
export function bandOf(days: number, bands: readonly number[]): number {
	const found = bands.findIndex((end) => days <= end);
	return found < 0 ? bands.length : found;
}
