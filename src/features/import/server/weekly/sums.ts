import { eq } from "drizzle-orm";
import type { Sql } from "@/data/db";
import { type weeklyFiles, weeklyRows } from "@/data/schema";
import type { Context } from "@/platform/context";
import { personName } from "@/platform/names";
import type { Compared, SaidRow, Sum, Sums } from "./shapes";

interface Part {
	readonly stage: string | null;
	readonly owner: string;
	readonly amount: number;
}

/** What a file comes to against the file before, altogether, by stage and by rep; both at today's rates, so that only the files differ. */
export async function compareSums(db: Sql, context: Context, read: readonly SaidRow[], before: typeof weeklyFiles.$inferSelect | null): Promise<Sums> {
	const { rates, stages } = context.organisation.company.rules;
	const base = (amount: number | null, currency: string | null) =>
		amount === null || currency === null || (currency !== rates.base && !rates.on(currency, context.now.day))
			? 0
			: rates.toBase(amount, currency, context.now.day);
	const nameOf = (id: string | null) => personName(context.organisation, id) ?? id ?? "No rep";
	const now = read.map(({ said, owner }): Part => {
		const known = personName(context.organisation, said.ownerId ?? null);
		return { stage: said.stage ?? null, owner: known ?? owner ?? "No rep", amount: base(said.amount ?? null, said.currency ?? null) };
	});
	const rows = before
		? await db
				.select({ stage: weeklyRows.stage, amount: weeklyRows.amount, currency: weeklyRows.currency, ownerId: weeklyRows.ownerId })
				.from(weeklyRows)
				.where(eq(weeklyRows.fileId, before.id))
		: null;
	const then = rows?.map((row): Part => ({ stage: row.stage, owner: nameOf(row.ownerId), amount: base(row.amount, row.currency) })) ?? null;
	const order = new Map(stages.map((stage, i) => [stage.name, i]));
	return {
		currency: rates.base,
		total: { before: then && sumOf(then), now: sumOf(now) },
		stages: by(now, then, ({ stage }) => stage ?? "").sort((a, b) => (order.get(a.name) ?? 99) - (order.get(b.name) ?? 99)),
		owners: by(now, then, ({ owner }) => owner).sort((a, b) => b.now.amount - a.now.amount || (a.name < b.name ? -1 : 1)),
	};
}

const sumOf = (parts: readonly Part[]): Sum => ({ count: parts.length, amount: parts.reduce((sum, part) => sum + part.amount, 0) });

function by(now: readonly Part[], then: readonly Part[] | null, key: (part: Part) => string): (Compared & { name: string })[] {
	const group = (parts: readonly Part[]) => {
		const groups = new Map<string, Part[]>();
		for (const part of parts) {
			const list = groups.get(key(part));
			if (list) list.push(part);
			else groups.set(key(part), [part]);
		}
		return groups;
	};
	const [a, b] = [group(now), then && group(then)];
	return [...new Set([...a.keys(), ...(b?.keys() ?? [])])].map((name) => ({ name, before: b && sumOf(b.get(name) ?? []), now: sumOf(a.get(name) ?? []) }));
}
