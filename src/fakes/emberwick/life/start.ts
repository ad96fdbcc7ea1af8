import type { Day } from "../../../core/time/day";
import type { Almanac, Chance } from "../almanac";
import { CAST, teamOf } from "../cast";
import { type DealState, PER_EURO, tidy } from "../ledger";
import { makePlan, type Plan } from "../plan";
import { STAGES } from "../words";
import type { DealGiven } from "./given";

/** What is decided about a deal before its first day. */
export interface Start {
	readonly plan: Plan;
	readonly contacts: readonly string[];
	readonly product: string;
	/** share of the list price this rep gives away, mostly in the last two weeks */
	readonly discount: number;
}

/** How a deal will go, with whom, and about what. */
export function startOf(chance: Chance, { account, going }: DealGiven): Start {
	const habit = CAST.find((member) => member.id === account.owner)?.habit;
	const count = habit === "two-contacts" ? 2 : chance.yes(0.72) ? chance.whole(2, 3) : 1;
	const contacts = chance.yes(0.97) ? account.contacts.slice(0, count) : [];
	// The second contact of an account is the one who signs.
	const plan = makePlan(chance, habit, teamOf(account.owner), contacts.length > 1, going);
	const discount = habit === "gives-much" ? 0.12 : habit === "gives-little" ? 0.03 : 0.05 + chance.unit() * 0.04;
	return { plan, contacts, discount, product: chance.pick(plan.family.products).name };
}

/** How a deal stands on its first day. */
export function firstState(almanac: Almanac, chance: Chance, { account, created }: DealGiven, plan: Plan): DealState {
	const { low, high } = plan.family;
	const euros = chance.around(Math.sqrt(low * high)) * 1000;
	const kept = Math.min(high * 1000, Math.max(low * 1000, euros));
	return {
		stage: (STAGES[0] as (typeof STAGES)[number]).name,
		amount: chance.yes(0.05) ? null : tidy(kept * (PER_EURO[account.currency] ?? 1)),
		currency: account.currency,
		close: chance.yes(0.025) ? null : hopedClose(almanac, chance, plan, created),
		owner: chance.yes(0.008) ? null : account.owner,
		category: "pipeline",
		nextStep: null,
		nextStepDay: null,
	};
}

function hopedClose(almanac: Almanac, chance: Chance, { lengths, ending, family }: Plan, created: Day): Day {
	const total = lengths.reduce((sum, n) => sum + n, 0);
	const full = ending === "won" ? total : Math.max(total, 55 * family.pace);
	const hoped = almanac.calendar.add(created, Math.max(8, Math.round(full * (0.88 + chance.unit() * 0.45))));
	return chance.yes(0.5) ? almanac.monthEnd(hoped) : hoped;
}
