import { type Company, companyOf } from "@/core/company";
import { makeHistory } from "@/core/history/make";
import type { Day } from "@/core/time/day";
import { buildDeals } from "@/data/organisation/dealFacts";
import type { OrganisationState } from "@/data/organisation/state";
import { ledgerOf } from "@/fakes/emberwick/generate";
import { storedRows } from "../company";

/** How far whole quarters of a made-up company go up and down together: the standard deviation of the log odds of winning. */
export const SPREADS = { none: 0, mild: 0.35, rough: 0.8 } as const;
export type SpreadName = keyof typeof SPREADS;

export interface Recipe {
	readonly size: number;
	readonly spread: SpreadName;
}

/** Twelve companies: four sizes, each with quarters that go alike, mildly and roughly apart. */
export const RECIPES: readonly Recipe[] = [300, 900, 2000, 4500].flatMap((size) =>
	(Object.keys(SPREADS) as SpreadName[]).map((spread): Recipe => ({ size, spread })),
);

/** A made-up company under the rules and with the people of an organisation; nothing of it was looked at when the method was chosen. */
export function companyFor({ rules, people }: Company, organisation: OrganisationState, { size, spread }: Recipe, today: Day): Company {
	const ledger = ledgerOf({ today, seed: `calibrate ${size} ${spread}`, deals: size, spread: SPREADS[spread] });
	const { facts, versions } = buildDeals(storedRows(ledger), rules, organisation);
	const sorted = versions.sort((a, b) => a.deal - b.deal || a.at - b.at || a.id - b.id).map((version, i) => ({ ...version, id: i + 1 }));
	return companyOf({ rules, people, deals: facts, history: makeHistory(facts.length, sorted, rules.zone) });
}
