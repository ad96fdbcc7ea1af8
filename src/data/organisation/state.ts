import type { Seal } from "@/core/bridge/seal";
import type { Company } from "@/core/company";
import type { ReasonReturns } from "@/core/patterns/comeBack";
import type { Employment } from "@/core/people/person";
import type { FocusTarget, Target } from "@/core/period/target";
import type { TaskFacts } from "@/core/tasks/task";
import type { Day } from "@/core/time/day";
import type { CareDays } from "../schema";

export const ROLES = ["manager", "rep", "ops", "viewer"] as const;
export type Role = (typeof ROLES)[number];

export interface Person extends Employment {
	readonly id: string;
	readonly name: string;
	readonly email: string | null;
	/** other names and addresses that files call them by */
	readonly also: readonly string[];
	readonly role: Role;
	readonly team: string | null;
}

export interface Account {
	readonly id: string;
	readonly name: string;
	readonly kind: string | null;
	readonly industry: string | null;
	readonly territory: string | null;
	readonly ownerId: string | null;
	/** other ids and names that files call it by */
	readonly also: readonly string[];
	/** raised by each change made here */
	readonly version: number;
	/** what these were before they were changed, the newest change first; `made`: it was created here */
	readonly former: readonly { readonly day: Day; readonly field: FormerOfAccount; readonly before: string | null }[];
}

/** What of an account is kept as it was before each change. */
export const FORMER_OF_ACCOUNT = ["name", "kind", "industry", "territory", "owner", "made"] as const;
export type FormerOfAccount = (typeof FORMER_OF_ACCOUNT)[number];

/** What of a deal itself is kept as it was before each change. */
export const FORMER_OF_DEAL = ["competitor", "outcome_reason", "name", "account"] as const;
export type FormerOfDeal = (typeof FORMER_OF_DEAL)[number];

/** A deal as it is named; the rest about it is in the company. */
export interface DealAttributes {
	readonly id: string;
	readonly name: string;
	readonly accountId: string | null;
	readonly source: string | null;
	readonly competitor: string | null;
	readonly outcomeReason: string | null;
	readonly tags: readonly string[];
	/** products and their families on its lines */
	readonly products: readonly string[];
	readonly families: readonly string[];
	/** what the lines of each of these families are worth together, in the order of `families`; all zero where no line says */
	readonly familyWorth: readonly number[];
	readonly createdAt: number;
	/** what these were before they were changed, the newest change first */
	readonly former: readonly { readonly day: Day; readonly field: FormerOfDeal; readonly before: string | null }[];
}

export interface Mark {
	readonly at: number;
	readonly day: Day;
	readonly name: string;
	readonly byId: string | null;
	/** with the newest version that was known when it was kept; null for marks that came with a bundle */
	readonly seal: (Seal & { readonly newest: number }) | null;
}

/** Everything a process keeps in memory, as of one revision of the database. People and deals by index, as in the company. */
export interface OrganisationState {
	readonly revision: number;
	readonly company: Company;
	readonly people: readonly Person[];
	readonly personIndex: ReadonlyMap<string, number>;
	/** team by the team above it */
	readonly teams: ReadonlyMap<string, string | null>;
	readonly accounts: ReadonlyMap<string, Account>;
	readonly deals: readonly DealAttributes[];
	readonly dealIndex: ReadonlyMap<string, number>;
	readonly marks: readonly Mark[];
	/** what people are to win, all in all */
	readonly targets: readonly Target[];
	/** what they are to win of a product family */
	readonly focusTargets: readonly FocusTarget[];
	/** tasks that are about no deal; the others are with their deals */
	readonly looseTasks: readonly TaskFacts[];
	readonly activityKinds: readonly string[];
	/** why deals are lost, to choose from */
	readonly outcomeReasons: readonly string[];
	/** upper ends of the bands of last contact, in calendar days */
	readonly contactBands: readonly number[];
	/** the share of what is in commit that is to be won, in per cent */
	readonly commitGoal: number;
	/** an account that buys less than this share of the year before is at risk, in per cent */
	readonly riskShare: number;
	/** within so many calendar days somebody of an account without a deal is to be spoken to, by its kind */
	readonly careDays: CareDays;
	/** reasons for a loss that end one day */
	readonly reasonReturns: ReasonReturns;
	/** help on each question, by id */
	readonly questionHelp: ReadonlyMap<string, string>;
	/** deals that a weekly file hasn't got, and that wait for a decision */
	readonly undecided: ReadonlySet<string>;
	/** the organisation's fixed day, if it has one */
	readonly heldToday: Day | null;
}

/** A team and all teams below it. */
export function teamsUnder(organisation: Pick<OrganisationState, "teams">, team: string): Set<string> {
	const under = new Set([team]);
	for (let grown = true; grown; ) {
		grown = false;
		for (const [name, parent] of organisation.teams) {
			if (parent !== null && under.has(parent) && !under.has(name)) {
				under.add(name);
				grown = true;
			}
		}
	}
	return under;
}
