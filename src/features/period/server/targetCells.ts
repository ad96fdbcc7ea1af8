import { and, eq, or, type SQL } from "drizzle-orm";
import { z } from "zod";
import { ownerIn } from "@/core/bridge/scope";
import { exponentOf } from "@/core/money/currency";
import { formatDay, inBounds, parseDay } from "@/core/time/day";
import type { Tx } from "@/data/db";
import { targets } from "@/data/schema";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { reachOf } from "@/platform/reach";

/** beyond it sums of many targets couldn't be kept exactly */
const MOST = 1e14;

export const dayText = z.string().refine((text) => parseDay(text) !== null && inBounds(text), "This isn’t a day between 1900 and 2200.");

export const cell = z
	.object({
		personId: z.string(),
		start: dayText,
		end: dayText,
		family: z.string().trim().max(200),
		/** null takes the target away */
		amount: z.number("A target is an amount.").int().min(0, "A target can’t be negative.").max(MOST, "This target is too large.").nullable(),
		currency: z.string().refine((code) => exponentOf(code) !== null, "This isn’t a currency code of ISO 4217, such as EUR."),
	})
	.refine(({ start, end }) => start <= end, "The target’s last day is before its first day.");

export type Cell = z.infer<typeof cell>;

/** Names a target: whose it is, of which days, for which family. */
export const keyOf = ({ personId, start, end, family }: Pick<Cell, "personId" | "start" | "end" | "family">) => [personId, start, end, family].join("\n");

/** Throws a 409 where a target would count on top of one of other days that shares some with it: after a change of calendar nobody sees that. */
export function demandOnce({ organisation }: Context, cells: readonly Cell[]): void {
	const { people, targets: all, focusTargets } = organisation;
	const known = [...all.map((target) => ({ ...target, family: "" })), ...focusTargets].map((target) => ({
		personId: people[target.person]?.id ?? "",
		name: people[target.person]?.name ?? "",
		start: formatDay(target.start),
		end: formatDay(target.end),
		family: target.family,
	}));
	const named = new Set(cells.map(keyOf));
	for (const cell of cells) {
		if (cell.amount === null) continue;
		const { personId, family, start, end } = cell;
		const other = known.find((one) => one.personId === personId && one.family === family && one.start <= end && one.end >= start && !named.has(keyOf(one)));
		if (other)
			throw new Fault(
				409,
				"Already counted",
				`${other.name} has a target for ${other.start} to ${other.end}, which counts in ${start} to ${end} already. Carry it over first, or save this one in addition.`,
			);
	}
}

/** Throws a 409 unless targets stand as they were set. */
export async function demandTargets(tx: Tx, cells: readonly Cell[]): Promise<void> {
	for (const one of await storedAs(tx, cells))
		if (one.was.amount !== one.cell.amount || one.was.currency !== one.cell.currency)
			throw new Fault(409, "Changed since", "The targets were changed again since, so they can’t be undone.");
}

/** Targets with what is stored for the same person, days and family. */
async function storedAs(tx: Tx, cells: readonly Cell[]): Promise<{ cell: Cell; was: Cell }[]> {
	const stored = await tx
		.select()
		.from(targets)
		.where(or(...cells.map(sameTarget)))
		.for("update");
	const had = new Map(stored.map((row) => [keyOf({ ...row, start: row.periodStart, end: row.periodEnd }), row]));
	return cells.map((cell) => {
		const row = had.get(keyOf(cell));
		return { cell, was: { ...cell, amount: row?.amount ?? null, currency: row?.currency ?? cell.currency } };
	});
}

const sameTarget = (one: Cell): SQL | undefined =>
	and(eq(targets.personId, one.personId), eq(targets.periodStart, one.start), eq(targets.periodEnd, one.end), eq(targets.family, one.family));

/** Puts targets in the place of those of the same person, days and family, within a write of who may; answers what stood there. */
export async function writeTargets(tx: Tx, cells: readonly Cell[]): Promise<Cell[]> {
	const before = (await storedAs(tx, cells)).map(({ was }) => was);
	if (before.some(({ amount }) => amount !== null)) await tx.delete(targets).where(or(...cells.map(sameTarget)));
	const rows = cells.flatMap(({ personId, start, end, family, amount, currency }) =>
		amount === null ? [] : [{ personId, periodStart: start, periodEnd: end, family, amount, currency }],
	);
	if (rows.length) await tx.insert(targets).values(rows);
	return before;
}

/** Throws unless all of the people are ones the actor reaches, and amounts can be put into the base currency. */
export function demandPeople({ organisation, actor, now }: Context, cells: readonly Cell[]): void {
	const reach = reachOf(organisation, actor);
	const { rates } = organisation.company.rules;
	for (const { personId, currency } of cells) {
		const index = organisation.personIndex.get(personId);
		if (index === undefined) throw new Fault(404, "No such person", `Nobody has the number ${personId}.`);
		if (!ownerIn(reach, index)) throw new Fault(403, "Not allowed", "You can set targets only for your own people.");
		if (currency !== rates.base && !rates.on(currency, now.day))
			throw new Fault(422, "No rate", `There is no rate from ${currency} to ${rates.base}; import one first, or set the target in ${rates.base}.`);
	}
}
