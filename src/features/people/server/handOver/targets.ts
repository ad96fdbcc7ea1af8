import { and, eq, gte } from "drizzle-orm";
import { splitTarget } from "@/core/period/splitTarget";
import { type Day, formatDay, parseDay } from "@/core/time/day";
import type { Tx } from "@/data/db";
import { type HandedOver, targets } from "@/data/schema";
import { Fault } from "@/platform/fault";

export type Cells = HandedOver["targets"];

/**
 * What of somebody's targets changes when from a day on they go to another, or (`to` null) end: what lies before the day
 * stays theirs. Only what changes is named; an amount of null is none.
 *
 * @throws Fault 409 where the other's own target of the same days is in another currency
 */
export async function targetsFrom(tx: Tx, from: string, day: Day, to: string | null): Promise<Cells> {
	const rows = await tx
		.select()
		.from(targets)
		.where(and(eq(targets.personId, from), gte(targets.periodEnd, formatDay(day))))
		.for("update");
	const others = to === null ? [] : await tx.select().from(targets).where(eq(targets.personId, to)).for("update");
	const cells: Cells[number][] = [];
	for (const row of rows) {
		const { family, currency } = row;
		const whole = { start: parseDay(row.periodStart) as number, end: parseDay(row.periodEnd) as number, amount: row.amount };
		const { before, after } = splitTarget(whole, day);
		cells.push({ personId: from, start: row.periodStart, end: row.periodEnd, family, amount: null, currency });
		if (before) cells.push({ personId: from, start: row.periodStart, end: formatDay(before.end), family, amount: before.amount, currency });
		if (!after || to === null) continue;
		const span = { start: formatDay(after.start), end: row.periodEnd };
		const had = others.find((one) => one.periodStart === span.start && one.periodEnd === span.end && one.family === family);
		if (had && had.currency !== currency)
			throw new Fault(
				409,
				"Another currency",
				`The target for ${span.start} to ${span.end} is in ${had.currency}, and the one that would be added in ${currency}.`,
			);
		cells.push({ personId: to, ...span, family, amount: (had?.amount ?? 0) + after.amount, currency });
	}
	return cells;
}
