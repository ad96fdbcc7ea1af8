import { z } from "zod";
import { ownerIn } from "@/core/bridge/scope";
import { worksOn } from "@/core/people/person";
import { carriedParts } from "@/core/period/targetCarry";
import { formatDay, parseDay } from "@/core/time/day";
import { quarterAt, quarterIndex, quarterOf } from "@/core/time/period";
import { periodWords } from "@/core/time/words";
import type { Tx } from "@/data/db";
import { newestEntry } from "@/data/queries/audit";
import { targets } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { chosenName } from "@/platform/names";
import { reachOf } from "@/platform/reach";
import type { Written } from "@/platform/write";
import { type Cell, cell, dayText, demandOnce, demandPeople, keyOf, writeTargets } from "./targetCells";

/** What somebody is to win in some days: of a product family, or (empty) of all. Amounts in minor units of the currency. */
export interface TargetRow {
	readonly personId: string;
	readonly start: string;
	readonly end: string;
	readonly family: string;
	readonly amount: number;
	readonly currency: string;
	/** in base minor units at today's rates */
	readonly base: number;
}

export interface TargetsView {
	/** the people one may set targets for, by name */
	readonly people: readonly { readonly id: string; readonly name: string; readonly team: string | null; readonly left: boolean }[];
	readonly quarters: readonly { readonly start: string; readonly end: string; readonly label: string }[];
	/** families that deals or targets name */
	readonly families: readonly string[];
	readonly targets: readonly TargetRow[];
	readonly currency: string;
	/** minor units of the base for one minor unit of each other currency, today, for sums while one types */
	readonly rates: Readonly<Record<string, number>>;
}

/** so many quarters before and after the present one can be set */
const [BEFORE, AFTER] = [1, 4];

/** The targets of the people one reaches. */
export const readTargets = query("period.targets", "setTargets", (context: Context): TargetsView => {
	const { organisation, actor, now } = context;
	const { company, people } = organisation;
	const { rates, fiscal } = company.rules;
	const reach = reachOf(organisation, actor);
	const all = [...organisation.targets.map((target) => ({ ...target, family: "" })), ...organisation.focusTargets].filter(({ person }) =>
		ownerIn(reach, person),
	);
	const has = new Set(all.map(({ person }) => person));
	const current = quarterIndex(now.day, fiscal);
	return {
		people: people
			.flatMap((person, i) =>
				ownerIn(reach, i) && (has.has(i) || (person.role === "rep" && worksOn(person, now.day)))
					? [{ id: person.id, name: chosenName(organisation, i), team: person.team, left: !worksOn(person, now.day) }]
					: [],
			)
			.sort((a, b) => (a.team ?? "").localeCompare(b.team ?? "") || a.name.localeCompare(b.name)),
		quarters: Array.from({ length: BEFORE + AFTER + 1 }, (_, i) => quarterAt(current - BEFORE + i, fiscal)).map((quarter) => ({
			start: formatDay(quarter.start),
			end: formatDay(quarter.end),
			label: periodWords(quarter),
		})),
		families: [...new Set([...organisation.deals.flatMap(({ families }) => families), ...organisation.focusTargets.map(({ family }) => family)])].sort(),
		targets: all.map(({ person, start, end, amount, currency, family }) => ({
			personId: people[person]?.id ?? "",
			start: formatDay(start),
			end: formatDay(end),
			family,
			amount,
			currency,
			base: rates.toBase(amount, currency, now.day),
		})),
		currency: rates.base,
		rates: Object.fromEntries(rates.currencies.map((code) => [code, rates.toBase(10 ** 8, code, now.day) / 10 ** 8])),
	};
});

const ACTION = "targets changed";

/** Sets some targets of people one stands above: each takes the place of the one of the same person, days and family. */
export const saveTargets = command({
	name: "period.saveTargets",
	right: "setTargets",
	input: z.object({
		cells: z
			.array(cell)
			.min(1, "Nothing was changed.")
			.max(5000)
			.refine((cells) => new Set(cells.map(keyOf)).size === cells.length, "A target appears twice."),
		/** these add to what targets of other days count in the same days already; without it that is refused */
		beside: z.boolean().default(false),
	}),
	run: async ({ context, input: { cells, beside }, tx }) => {
		demandPeople(context, cells);
		if (!beside) demandOnce(context, cells);
		return setTargets(tx, cells, "set");
	},
});

/** Brings back what stood before the newest change of targets. Throws a 409 when they were changed again since. */
export const undoTargets = command({
	name: "period.undoTargets",
	right: "setTargets",
	input: z.object({ change: z.number().int() }),
	async run({ context, input: { change }, tx }) {
		const newest = await newestEntry(tx, ACTION);
		if (newest?.id !== change) throw new Fault(409, "Changed since", "The targets were changed again since, so they can’t be undone.");
		const before = newest.detail.before as Cell[];
		demandPeople(context, before);
		return setTargets(tx, before, "undone");
	},
});

/**
 * Carries targets of other days over to the quarters of the present fiscal calendar, each by its share of days; what stands
 * for a quarter already is added to. Sums over whole quarters stay what they were.
 *
 * @throws Fault 404 for a target there is none of, 409 where a quarter's own is in another currency
 */
export const carryTargets = command({
	name: "period.carryTargets",
	right: "setTargets",
	input: z.object({
		targets: z
			.array(z.object({ personId: z.string(), start: dayText, end: dayText, family: z.string().max(200) }))
			.min(1)
			.max(5000),
	}),
	async run({ context, input, tx }) {
		const { fiscal } = context.organisation.company.rules;
		const stored = await tx.select().from(targets).for("update");
		const byKey = new Map(stored.map((row) => [keyOf({ ...row, start: row.periodStart, end: row.periodEnd }), row]));
		const cells = new Map<string, Cell>();
		for (const one of input.targets) {
			const row = byKey.get(keyOf(one));
			if (!row) throw new Fault(404, "No such target", `There is no target for ${one.start} to ${one.end} any more. Reload the page.`);
			const { personId, family, currency } = row;
			cells.set(keyOf(one), { ...one, amount: null, currency });
			const whole = { start: parseDay(one.start) as number, end: parseDay(one.end) as number, amount: row.amount };
			for (const part of carriedParts(whole, (day) => quarterOf(day, fiscal))) {
				const quarter = { personId, family, start: formatDay(part.start), end: formatDay(part.end) };
				const had = cells.get(keyOf(quarter)) ?? byKey.get(keyOf(quarter));
				if (had && had.amount !== null && had.currency !== currency)
					throw new Fault(409, "Another currency", `The target for ${quarter.start} to ${quarter.end} is in ${had.currency}, and this one in ${currency}.`);
				cells.set(keyOf(quarter), { ...quarter, currency, amount: (had?.amount ?? 0) + part.amount });
			}
		}
		demandPeople(context, [...cells.values()]);
		return setTargets(tx, [...cells.values()], "carried over");
	},
});

async function setTargets(tx: Tx, cells: readonly Cell[], how: string): Promise<Written<{ change: number }>> {
	const before = await writeTargets(tx, cells);
	return { result: ([change = 0]) => ({ change }), touched: "targets", audit: { action: ACTION, detail: { before, after: cells, how } } };
}
