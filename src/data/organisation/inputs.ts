import { isDeepStrictEqual } from "node:util";
import type { DealFacts, Rules } from "@/core/company";
import { Activities, type ActivityColumns } from "@/core/contact/activities";
import { type History, NONE } from "@/core/history/columns";
import { renumbered } from "@/core/history/make";
import type { TaskFacts } from "@/core/tasks/task";
import { slotsOf } from "./dealFacts";
import type { DealAttributes, OrganisationState } from "./state";

/** What deals are read by: while it is the same, so are they, whatever else changes in the reference data. */
export interface DealInputs {
	readonly zone: string;
	readonly stages: readonly string[];
	/** the place of each question of any edition, by id */
	readonly slots: ReadonlyMap<string, number>;
	readonly currencies: readonly string[];
	/** the place of each person, by id */
	readonly people: ReadonlyMap<string, number>;
	/** accounts that have a name */
	readonly named: ReadonlySet<string>;
}

/** All that deals were read by: a snapshot is taken as it is only while these are the same. */
export function dealInputs({ rules, reference }: { rules: Rules; reference: Pick<OrganisationState, "personIndex" | "accounts"> }): DealInputs {
	return {
		zone: rules.zone.name,
		stages: rules.stages.map((stage) => stage.name),
		slots: slotsOf(rules),
		currencies: rules.currencies,
		people: reference.personIndex,
		named: new Set([...reference.accounts.values()].filter((account) => account.name.trim()).map((account) => account.id)),
	};
}

/** Deals as they are kept in memory. */
export interface KeptDeals {
	readonly deals: readonly DealAttributes[];
	readonly facts: readonly DealFacts[];
	readonly history: History;
}

/**
 * Deals that were read by some inputs, as they would be read by others: people and currencies may have come, accounts
 * may have got a name. Null where the rows have to be read anew.
 */
export function adopt(kept: KeptDeals, from: DealInputs, to: DealInputs): KeptDeals | null {
	if (isDeepStrictEqual(from, to)) return kept;
	const lasting = ({ zone, stages, slots }: DealInputs) => ({ zone, stages, slots });
	if (!isDeepStrictEqual(lasting(from), lasting(to))) return null;
	const owner = [...from.people.keys()].map((id) => to.people.get(id) ?? NONE);
	if (owner.includes(NONE)) return null;
	// A currency is gone only when the deals that had it were touched, and those are read anew.
	const currency = from.currencies.map((code) => to.currencies.indexOf(code));
	const moved = [owner, currency].some((places) => places.some((place, i) => place !== i));
	const activitiesOf = peopleMoved(owner);
	const facts = kept.facts.map((deal, i): DealFacts => {
		const accountId = kept.deals[i]?.accountId;
		const hasAccountName = Boolean(accountId && to.named.has(accountId));
		const tasks = moved && deal.tasks.length ? deal.tasks.map((task) => renamed(task, owner)) : deal.tasks;
		const rests = moved && deal.rests.length ? deal.rests.map((rest) => ({ ...rest, by: owner[rest.by] ?? NONE })) : deal.rests;
		const activities = moved && deal.activities.length ? activitiesOf(deal.activities) : deal.activities;
		const same = tasks === deal.tasks && activities === deal.activities && rests === deal.rests && hasAccountName === deal.hasAccountName;
		return same ? deal : { ...deal, tasks, activities, rests, hasAccountName };
	});
	return { ...kept, facts, history: moved ? renumbered(kept.history, { owner, currency }) : kept.history };
}

/** Gives activities of people that stand at other places now: the columns that a block's deals share are made anew once. */
function peopleMoved(places: readonly number[]): (activities: Activities) => Activities {
	const made = new Map<ActivityColumns, ActivityColumns>();
	return ({ columns, from, end }) => {
		const fresh = made.get(columns) ?? { ...columns, by: columns.by.map((by) => places[by] ?? NONE) };
		made.set(columns, fresh);
		return new Activities(fresh, from, end);
	};
}

/** A task of people that stand at other places now. */
const renamed = (task: TaskFacts, owner: readonly number[]): TaskFacts => ({
	...task,
	assignee: owner[task.assignee] ?? NONE,
	former: task.former.map((was) => ({ ...was, assignee: owner[was.assignee] ?? NONE })),
});
