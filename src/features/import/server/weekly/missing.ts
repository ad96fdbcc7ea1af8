import { and, count, desc, eq, inArray, isNull, sql } from "drizzle-orm";
import { z } from "zod";
import { asOf, blockOf, firstRow } from "@/core/history/columns";
import { parseDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { DECISIONS, type Decision, weeklyFiles, weeklyMissing } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { accountName, dealName, ownerName, personName } from "@/platform/names";
import { rebuild } from "./rebuild";

export interface MissingDeal {
	readonly id: string;
	readonly fileId: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	readonly stage: string;
	/** base minor units */
	readonly amount: number;
	/** of the first file it wasn't in */
	readonly day: string;
	readonly decision: Decision | null;
}

export interface WeeklyList {
	readonly files: readonly {
		readonly id: string;
		readonly name: string;
		readonly day: string;
		/** the part it is about; empty: all */
		readonly covers: string;
		readonly rows: number;
		readonly by: string;
	}[];
	/** how many deals wait for a decision, those beyond the list's end included */
	readonly waiting: number;
	/** deals without a decision first, then those decided last */
	readonly missing: readonly MissingDeal[];
	readonly currency: string;
}

const SHOWN = 200;

/** The weekly files that were taken in, the latest day first, and the deals that were missing. */
export const listWeekly = query("import.weekly", "importBundle", async (context: Context): Promise<WeeklyList> => {
	const { db } = connection();
	const { organisation } = context;
	const { history, rules } = organisation.company;
	const files = await db.select().from(weeklyFiles).orderBy(desc(weeklyFiles.day)).limit(60);
	const rows = await db
		.select()
		.from(weeklyMissing)
		.innerJoin(weeklyFiles, eq(weeklyFiles.id, weeklyMissing.fileId))
		.orderBy(sql`${weeklyMissing.decision} is not null`, desc(weeklyMissing.decidedAt), desc(weeklyFiles.day), weeklyMissing.dealId)
		.limit(SHOWN);
	const [counted] = await db.select({ waiting: count() }).from(weeklyMissing).where(isNull(weeklyMissing.decision));
	return {
		waiting: counted?.waiting ?? 0,
		files: files.map((file) => ({
			id: file.id,
			name: file.name,
			day: file.day,
			covers: file.covers,
			rows: file.counts.rows ?? 0,
			by: personName(organisation, file.byId) ?? file.byId,
		})),
		missing: rows.flatMap(({ weekly_missing: one, weekly_files: file }): MissingDeal[] => {
			const deal = organisation.dealIndex.get(one.dealId);
			if (deal === undefined) return [];
			// As it stood before the file that it isn't in.
			const before = asOf(history, deal, (parseDay(file.day) ?? 0) - 1);
			const block = blockOf(history, deal);
			const row = before >= 0 ? before : firstRow(block, deal);
			const amount = block.amount[row] as number;
			return [
				{
					id: one.dealId,
					fileId: one.fileId,
					name: dealName(organisation, deal),
					account: accountName(organisation, deal),
					owner: ownerName(organisation, block.owner[row] as number),
					stage: rules.stages[block.stage[row] as number]?.name ?? "removed",
					amount: Number.isNaN(amount) ? 0 : rules.rates.toBase(amount, rules.currencies[block.currency[row] as number] ?? rules.rates.base, context.now.day),
					day: file.day,
					decision: one.decision,
				},
			];
		}),
		currency: rules.rates.base,
	};
});

/** Decides what became of deals that a file no longer has: won, lost or removed at its day, or still open and only left out. */
export const decideMissing = command({
	name: "import.decideMissing",
	right: "importBundle",
	input: z.object({
		deals: z
			.array(z.object({ id: z.string().max(500), fileId: z.string().max(100) }))
			.min(1, "Choose a deal first.")
			.max(SHOWN),
		/** null takes a decision back */
		decision: z.enum(DECISIONS).nullable(),
	}),
	async run({ context, input: { deals, decision }, tx }) {
		const kinds = new Set(context.organisation.company.rules.stages.map((stage) => stage.kind));
		if ((decision === "won" || decision === "lost") && !kinds.has(decision))
			throw new Fault(422, "No such stage", `There is no stage for ${decision}. Add one in Setup first.`);
		for (const fileId of new Set(deals.map((deal) => deal.fileId))) {
			const part = deals.filter((deal) => deal.fileId === fileId).map((deal) => deal.id);
			const changed = await tx
				.update(weeklyMissing)
				.set({ decision, decidedBy: decision && context.actor.person.id, decidedAt: decision && new Date() })
				.where(and(eq(weeklyMissing.fileId, fileId), inArray(weeklyMissing.dealId, part)))
				.returning({ id: weeklyMissing.dealId });
			if (changed.length !== part.length) throw new Fault(409, "Changed by someone else", "One of these deals is no longer missing. Reload the list.");
		}
		const ids = deals.map((deal) => deal.id);
		await rebuild(tx, context, ids);
		return {
			result: { count: ids.length },
			touched: { deals: ids, parts: ["settings"] },
			audit: { action: "missing deals decided", detail: { deals: ids, decision } },
		};
	},
});
