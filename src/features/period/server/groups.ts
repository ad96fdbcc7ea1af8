import { ownerIn, type Scope } from "@/core/bridge/scope";
import type { DealSeen } from "@/core/dealSeen";
import { NONE } from "@/core/history/columns";
import type { Inspected } from "@/core/inspect";
import { type CountedByOwner, countedOf } from "@/core/period/countByOwner";
import { countByPart, type Share } from "@/core/period/countByPart";
import { type Counted, nothingCounted } from "@/core/period/counted";
import { targetOf } from "@/core/period/target";
import type { Day } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { teamsUnder } from "@/data/organisation/state";
import type { Context } from "@/platform/context";
import { accountOfDeal, chosenName } from "@/platform/names";
import { peopleIn, within } from "@/platform/reach";
import type { GroupingKey } from "../table/groupings";

/** Some deals that are looked at together. */
export interface Group {
	readonly key: string;
	readonly name: string;
	readonly counted: Counted;
	readonly target: number | null;
	/** whose, as it stands in the sentence; null where the sentence can't say it */
	readonly whose: string | null;
	/** the condition by which Deals shows them; null where the sentence says it */
	readonly filter: string | null;
	/** the people whose work it is, by index; null where deals of all of them are in it */
	readonly people: ReadonlySet<number> | null;
	/** whether a deal (index) with an owner is in it */
	readonly holds: (deal: number, owner: number) => boolean;
}

export interface Asked {
	readonly period: Period;
	readonly scope: Scope;
	readonly seen: Day;
	readonly survey: Inspected;
	readonly byOwner: CountedByOwner;
}

const any = ({ won, lost, open, leftBehind, undated }: Counted) => won.count + lost.count + open.count + leftBehind.count + undated.count > 0;

/** The groups of a kind among some people: those that hold anything, or have a target. */
export function groupsBy(context: Context, key: GroupingKey, asked: Asked): Group[] {
	const found = key === "rep" ? byRep(context, asked) : key === "team" ? byTeam(context, asked) : byPart(context, key, asked);
	return found.filter(({ counted, target }) => any(counted) || target !== null);
}

function byRep({ organisation }: Context, { period, scope, seen, byOwner }: Asked): Group[] {
	const { rates } = organisation.company.rules;
	const people = organisation.people.flatMap((person, index): Group[] => {
		if (!ownerIn(scope, index)) return [];
		const own = new Set([index]);
		return [
			{
				key: person.id,
				name: chosenName(organisation, index),
				counted: byOwner.people.get(index) ?? nothingCounted(),
				target: targetOf(organisation.targets, period, own, rates, seen),
				whose: `person:${person.id}`,
				filter: null,
				people: own,
				holds: (_, owner) => owner === index,
			},
		];
	});
	const unowned: Group = {
		key: "",
		name: "No owner",
		counted: byOwner.unowned,
		target: null,
		whose: null,
		filter: "owner.in.No owner",
		people: new Set(),
		holds: (_, owner) => owner === NONE,
	};
	return scope === null ? [...people, unowned] : people;
}

/** By the people's own teams, so that parts add up; who belongs to none stands apart. */
function byTeam({ organisation }: Context, { period, scope, seen, byOwner }: Asked): Group[] {
	const { rates } = organisation.company.rules;
	const group = (key: string, name: string, people: ReadonlySet<number>, unowned: boolean): Group => {
		const counted = countedOf(byOwner, people);
		return {
			key,
			name,
			counted: unowned ? countedOf({ people: new Map([[0, counted]]), unowned: byOwner.unowned }, null) : counted,
			target: targetOf(organisation.targets, period, people, rates, seen),
			whose: key ? `team:${key}` : null,
			filter: null,
			people,
			holds: (_, owner) => people.has(owner) || (unowned && owner === NONE),
		};
	};
	const teams = [...organisation.teams.keys()].map((team) => {
		const own = within(new Set(organisation.people.flatMap((person, i) => (person.team === team ? [i] : []))), scope) ?? new Set<number>();
		return group(team, team, own, false);
	});
	const loose = within(new Set(organisation.people.flatMap((person, i) => (person.team ? [] : [i]))), scope) ?? new Set<number>();
	return [...teams, group("", "No team", loose, scope === null)];
}

const NO_FAMILY = "No product lines";

/** By what a deal is about; of several families a deal counts in each with its share. */
function byPart(context: Context, key: "territory" | "family" | "kind", { period, scope, seen, survey }: Asked): Group[] {
	const { organisation } = context;
	const { company, focusTargets, deals } = organisation;
	const account = (deal: number) => accountOfDeal(organisation, deal, seen);
	const partsOf = (deal: number): readonly Share<string>[] => {
		if (key === "territory") return [{ part: account(deal)?.territory ?? "No territory", weight: 1 }];
		if (key === "kind") return [{ part: account(deal)?.kind ?? "Not said", weight: 1 }];
		const { families = [], familyWorth = [] } = deals[deal] ?? {};
		return families.length ? families.map((part, i) => ({ part, weight: familyWorth[i] ?? 0 })) : [{ part: NO_FAMILY, weight: 1 }];
	};
	const counted = countByPart(company, survey, period, seen, scope, (one: DealSeen) => partsOf(one.deal));
	const families = key === "family" ? focusTargets.flatMap(({ family, person }) => (ownerIn(scope, person) ? [family] : [])) : [];
	const field = key === "kind" ? "customer" : key;
	return [...new Set([...counted.keys(), ...families])].sort().map((part) => ({
		key: part,
		name: part,
		counted: counted.get(part) ?? nothingCounted(),
		target:
			key === "family"
				? targetOf(
						focusTargets.filter(({ family }) => family === part),
						period,
						scope,
						company.rules.rates,
						seen,
					)
				: null,
		whose: null,
		filter: `${field}.in.${BLANKS.has(part) ? "(blank)" : part}`,
		people: null,
		holds: (deal, owner) => ownerIn(scope, owner) && partsOf(deal).some((one) => one.part === part),
	}));
}
const BLANKS: ReadonlySet<string> = new Set([NO_FAMILY, "No territory", "Not said"]);

/** The teams in whose people a scope has a part, each with the people of it and of those below. */
export function teamsOf({ organisation }: Pick<Context, "organisation">, scope: Scope): { team: string; people: ReadonlySet<number> }[] {
	return [...organisation.teams.keys()].flatMap((team) => {
		const people = within(peopleIn(organisation, teamsUnder(organisation, team)), scope);
		return people?.size ? [{ team, people }] : [];
	});
}
