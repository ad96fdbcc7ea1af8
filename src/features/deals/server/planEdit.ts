import { z } from "zod";
import { differing, fieldOf, valueWords } from "@/core/deal/fields";
import { missing, needsOf } from "@/core/deal/needs";
import type { DealState } from "@/core/deal/state";
import { worksOn } from "@/core/people/person";
import { formatDay } from "@/core/time/day";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { dayInput } from "@/platform/input";
import { personName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import { FIELD_INPUTS } from "./fieldSchemas";

/** What may be changed of a deal; what isn't named stays as it is. */
export const changeSchema = z
	.object({
		...FIELD_INPUTS,
		reason: z.string().trim().max(1000, "A reason has at most 1000 letters.").meta({ description: "why; needed for a push" }),
		outcomeReason: z.string().trim().max(200).meta({ description: "needed for a lost deal" }),
		competitor: z.string().trim().max(200).nullable().meta({ description: "needed for a lost deal; null: there was none" }),
		closedOn: dayInput.meta({ description: "the day it was won or lost; needed for a won deal" }),
	})
	.partial()
	.strict()
	.refine((change) => Object.keys(change).some((name) => name !== "reason"), "Choose at least one field to change.")
	.meta({ id: "DealChange" });
export type Change = z.infer<typeof changeSchema>;

/** One field that an edit changes, in words. */
export interface Difference {
	readonly field: string;
	readonly before: string;
	readonly after: string;
}

export interface Plan {
	readonly state: DealState;
	readonly differences: readonly Difference[];
	/** what must be given yet, by the name of its field, each with a question in words */
	readonly needs: Readonly<Record<string, string>>;
}

/**
 * What a change would make of a state: the one place that knows what an edit does, for its preview and for the write.
 *
 * @throws Fault 422 for a value that can't be; 403 for a rep who gives a deal away
 */
export function planEdit(context: Context, current: DealState, change: Change): Plan {
	const { organisation, now } = context;
	const { stages, rates } = organisation.company.rules;
	const wanted = overlay(current, change);
	const kind = stages.find((stage) => stage.name === wanted.stage)?.kind;
	if (!kind) throw new Fault(422, "No such stage", `No stage is called ${wanted.stage}. There are ${stages.map((stage) => stage.name).join(", ")}.`);
	if (wanted.currency && wanted.currency !== rates.base && !rates.on(wanted.currency, now.day)) {
		throw new Fault(422, "No rate", `There is no rate from ${wanted.currency} to ${rates.base}; ops can add it with an import.`);
	}
	const state = wanted.amount === null ? wanted : { ...wanted, currency: wanted.currency ?? rates.base };
	if (state.ownerId !== current.ownerId) checkOwner(context, state.ownerId);

	const needs = needsOf(current, change, stages);
	const closes = kind !== "open" && stages.find((stage) => stage.name === current.stage)?.kind !== kind;
	const end = closes ? closed(context, kind, change) : {};
	const after = { ...state, ...end };
	return {
		state: after,
		differences: differencesOf(context, current, after),
		needs: Object.fromEntries(missing(needs, change).map(({ name, question }) => [name, question])),
	};
}

function overlay(current: DealState, change: Change): DealState {
	const { reason: _, outcomeReason: __, competitor: ___, closedOn: ____, ...fields } = change;
	return { ...current, ...(Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)) as Partial<DealState>) };
}

/** What closing a deal makes of its state: it was due on the day it closed, and nothing is to be done any more. */
function closed({ organisation, now }: Context, kind: "won" | "lost", change: Change): Partial<DealState> {
	const reasons = organisation.outcomeReasons;
	if (kind === "lost" && change.outcomeReason && reasons.length && !reasons.includes(change.outcomeReason)) {
		throw new Fault(422, "No such reason", `“${change.outcomeReason}” isn’t among the reasons: ${reasons.join(", ")}.`);
	}
	const today = formatDay(now.day);
	const day = change.closedOn ?? today;
	if (day > today) throw new Fault(422, "In the future", `A deal can’t be ${kind} on ${day}; today is ${today}.`);
	return { ...(change.closedOn || kind === "lost" ? { closeDate: day } : {}), nextStep: null, nextStepDate: null };
}

function checkOwner(context: Context, id: string | null): void {
	const { organisation, actor, now } = context;
	if (actor.person.role === "rep") throw new Fault(403, "Not allowed", "Only a manager can give a deal to someone else.");
	if (id === null) return;
	const index = organisation.personIndex.get(id);
	const person = index === undefined ? undefined : organisation.people[index];
	if (index === undefined || !person || !reaches(reachOf(organisation, actor), index)) {
		throw new Fault(422, "No such owner", `There is no person ${id} among those you manage.`);
	}
	if (!worksOn(person, now.day))
		throw new Fault(422, "No longer with the company", `${person.name} is not with the company today, and can’t own a deal. Choose someone else.`);
}

/** What differs between two states of a deal, in words. */
export function differencesOf({ organisation }: Context, before: DealState, after: DealState): Difference[] {
	const { stages, rates } = organisation.company.rules;
	const setting = ({ currency }: DealState) => ({
		stages,
		currency: currency ?? rates.base,
		person: (id: unknown) => (id === null ? "blank" : (personName(organisation, String(id)) ?? String(id))),
	});
	return differing(before, after).map((key) => {
		const field = fieldOf(key);
		return { field: field.label, before: valueWords(field, before[key], setting(before)), after: valueWords(field, after[key], setting(after)) };
	});
}
