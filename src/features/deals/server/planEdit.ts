import { z } from "zod";
import { CATEGORIES } from "@/core/history/columns";
import type { StageKind } from "@/core/history/stage";
import { currencySign, wholeAmount } from "@/core/money/words";
import { worksOn } from "@/core/people/person";
import { formatDay, parseDay } from "@/core/time/day";
import { longDay } from "@/core/time/words";
import type { dealVersions } from "@/data/schema";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { reaches, reachOf } from "@/platform/rights";

const isoDay = z.iso.date("This isn't a day that exists.");

/** What may be changed of a deal; what isn't named stays as it is. */
export const changeSchema = z
	.object({
		stage: z.string().max(200),
		amount: z
			.number("The amount must be a number.")
			.int("The amount must be in whole minor units.")
			.min(0, "The amount can't be negative.")
			.max(Number.MAX_SAFE_INTEGER, "The amount is too large to be kept exactly.")
			.nullable()
			.meta({ description: "minor units of the currency" }),
		currency: z.string().length(3),
		closeDate: isoDay.nullable(),
		ownerId: z.string().max(200).nullable(),
		category: z.enum(CATEGORIES).nullable(),
		nextStep: z.string().trim().max(500, "A next step has at most 500 letters.").nullable(),
		nextStepDate: isoDay.nullable(),
		reason: z.string().trim().max(1000, "A reason has at most 1000 letters.").meta({ description: "why; needed for a push" }),
		outcomeReason: z.string().trim().max(200).meta({ description: "needed for a lost deal" }),
		competitor: z.string().trim().max(200).nullable().meta({ description: "needed for a lost deal; null: there was none" }),
		closedOn: isoDay.meta({ description: "the day it was won or lost; needed for a won deal" }),
	})
	.partial()
	.strict()
	.refine((change) => Object.keys(change).some((name) => name !== "reason"), "Say what is to change.")
	.meta({ id: "DealChange" });
export type Change = z.infer<typeof changeSchema>;

export type Version = typeof dealVersions.$inferSelect;
export const STATE = ["stage", "amount", "currency", "closeDate", "ownerId", "category", "nextStep", "nextStepDate"] as const;
export type State = Pick<Version, (typeof STATE)[number]>;

/** One field that an edit changes, in words. */
export interface Difference {
	readonly field: string;
	readonly before: string;
	readonly after: string;
}

export interface Plan {
	readonly state: State;
	readonly differences: readonly Difference[];
	/** what must be given yet, by the name of its field, each with a question in words */
	readonly needs: Readonly<Record<string, string>>;
}

const NAMES: Record<keyof State, string> = {
	stage: "Stage",
	amount: "Amount",
	currency: "Currency",
	closeDate: "Close date",
	ownerId: "Owner",
	category: "Category",
	nextStep: "Next step",
	nextStepDate: "Next step’s day",
};

/** What a change would make of a version. Throws a 422 for a value that can't be, a 403 for a rep who gives a deal away. */
export function planEdit(context: Context, current: State, change: Change): Plan {
	const { organisation, now } = context;
	const { stages, rates } = organisation.company.rules;
	const state: State = { ...pick(current), ...defined(pick(change as Partial<State>)) };
	const kindOf = (name: string | null): StageKind | undefined => stages.find((stage) => stage.name === name)?.kind;
	const kind = kindOf(state.stage);
	if (!kind) throw new Fault(422, "No such stage", `No stage is called ${state.stage}. There are ${stages.map((stage) => stage.name).join(", ")}.`);
	if (state.currency && state.currency !== rates.base && !rates.on(state.currency, now.day)) {
		throw new Fault(422, "No rate", `There is no rate from ${state.currency} to ${rates.base}; ops can add it with an import.`);
	}
	if (state.amount !== null) state.currency ??= rates.base;
	if (state.ownerId !== current.ownerId) checkOwner(context, state.ownerId);

	const needs: Record<string, string> = {};
	const pushed = current.closeDate !== null && state.closeDate !== null && state.closeDate > current.closeDate;
	const closes = kind !== "open" && kindOf(current.stage) !== kind;
	if (closes) {
		if (kind === "won" && !change.closedOn) needs.closedOn = "On which day was it won?";
		if (kind === "lost" && !change.outcomeReason) needs.outcomeReason = "Why was it lost?";
		if (kind === "lost" && change.competitor === undefined) needs.competitor = "To whom was it lost?";
		if (kind === "lost" && change.outcomeReason && organisation.outcomeReasons.length && !organisation.outcomeReasons.includes(change.outcomeReason)) {
			throw new Fault(422, "No such reason", `“${change.outcomeReason}” isn't among the reasons: ${organisation.outcomeReasons.join(", ")}.`);
		}
		const day = change.closedOn ?? formatDay(now.day);
		if (day > formatDay(now.day)) throw new Fault(422, "Still to come", `A deal can't be ${kind} on ${day}; today is ${formatDay(now.day)}.`);
		// A closed deal was due on the day it closed, and nothing is to be done any more.
		if (change.closedOn || kind === "lost") state.closeDate = day;
		state.nextStep = null;
		state.nextStepDate = null;
	} else if (pushed && kind === "open" && !change.reason) needs.reason = "Why does it close later?";
	return { state, differences: differencesOf(context, current, state), needs };
}

function checkOwner(context: Context, id: string | null): void {
	const { organisation, actor, now } = context;
	if (actor.person.role === "rep") throw new Fault(403, "Not allowed", "Only a manager may give a deal to somebody else.");
	if (id === null) return;
	const index = organisation.personIndex.get(id);
	const person = index === undefined ? undefined : organisation.people[index];
	if (index === undefined || !person || !reaches(reachOf(organisation, actor), index)) {
		throw new Fault(422, "No such owner", `There is no person ${id} among those you manage.`);
	}
	if (!worksOn(person, now.day)) throw new Fault(422, "No longer here", `${person.name} doesn't work here today, and can't own a deal. Choose somebody else.`);
}

/** The fields of a version that make its state. */
export const stateOnly = (version: State): State => pick(version);

function pick<T extends Partial<State>>(from: T): T {
	return Object.fromEntries(STATE.flatMap((name) => (name in from ? [[name, from[name]]] : []))) as T;
}

function defined<T extends object>(from: T): Partial<T> {
	return Object.fromEntries(Object.entries(from).filter(([, value]) => value !== undefined)) as Partial<T>;
}

/** What differs between two states of a deal, in words. */
export function differencesOf(context: Context, before: State, after: State): Difference[] {
	return STATE.filter((name) => (before[name] || null) !== (after[name] || null) && !(before[name] === 0 && after[name] === 0)).map((name) => ({
		field: NAMES[name],
		before: wordsOf(context, name, before),
		after: wordsOf(context, name, after),
	}));
}

function wordsOf({ organisation }: Context, name: keyof State, state: State): string {
	const value = state[name];
	if (value === null || value === "") return "blank";
	const currency = state.currency ?? organisation.company.rules.rates.base;
	if (name === "amount") return `${currencySign(currency)}${wholeAmount(Number(value), currency)}`;
	if (name === "ownerId") return organisation.people[organisation.personIndex.get(String(value)) ?? -1]?.name ?? String(value);
	if (name === "closeDate" || name === "nextStepDate") return longDay(parseDay(String(value)) ?? 0);
	return String(value).replaceAll("_", " ");
}
