import { eq } from "drizzle-orm";
import { z } from "zod";
import { byCount } from "@/core/words/grammar";
import { handovers, people, roundPlans } from "@/data/schema";
import { revertEdits } from "@/features/deals";
import { demandTargets, writeTargets } from "@/features/period";
import { revertTaskChanges } from "@/features/tasks";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { demand } from "@/platform/rights";
import { reached } from "./reached";
import { touchedBy } from "./touched";
import { openWays } from "./ways";

/**
 * Undoes a handing over whole, by the person who did it: each deal gets a version like the one before, each task, planned round and
 * target is as it was, and so are the last day and the ways in. Where something was changed since, nothing is undone.
 *
 * @throws Fault 409 for what was undone already or changed since
 */
export const undoHandOver = command({
	name: "people.undoHandOver",
	right: "handOver",
	input: z.object({ id: idSchema }),
	alone: true,
	async run({ context, input: { id }, tx }) {
		const [row] = await tx.select().from(handovers).where(eq(handovers.id, id)).for("update");
		if (!row || row.byId !== context.actor.person.id) throw notFound("handing over", id);
		if (row.undoneAt) throw new Fault(409, "Undone already", "This was undone already.");
		const { record, personId } = row;
		// What it takes to do it is what it takes to undo it, by what one may now.
		reached(context, personId);
		if (record.lastDay !== undefined || record.ways) demand(context.actor, "managePeople");
		if (record.targetsAfter.length) demand(context.actor, "setTargets");
		const reverted = record.deals.length ? await revertEdits(tx, context, record.deals) : { done: [], audit: [] };
		const { undone, left, told } = record.changes.length ? await revertTaskChanges(tx, context, record.changes) : { undone: [], left: 0, told: [] };
		if (left) throw new Fault(409, "Changed since", `${byCount(left, "A task was", `${left} tasks were`)} changed since, so it can’t be undone.`);
		if (record.targetsAfter.length) {
			await demandTargets(tx, record.targetsAfter);
			await writeTargets(tx, record.targets);
		}
		for (const plan of record.plans as (typeof roundPlans.$inferSelect)[])
			await tx
				.insert(roundPlans)
				.values({ ...plan, version: plan.version + 2 })
				.onConflictDoUpdate({ target: roundPlans.id, set: { byId: plan.byId, version: plan.version + 2 } });
		if (record.lastDay !== undefined) await tx.update(people).set({ activeTo: record.lastDay }).where(eq(people.id, personId));
		if (record.ways) await openWays(tx, personId, record.ways);
		await tx
			.update(handovers)
			.set({ undoneAt: new Date(context.now.instant) })
			.where(eq(handovers.id, id));
		return {
			result: { deals: reverted.done.length, tasks: undone.length },
			touched: touchedBy([...reverted.done, ...undone]),
			audit: [
				...reverted.audit,
				...told,
				{
					action: "handover undone",
					subject: personId,
					detail: {
						deals: reverted.done.length,
						tasks: undone.length,
						plannedRounds: record.plans.length,
						...(record.lastDay === undefined ? {} : { lastDay: record.lastDay }),
					},
				},
			],
		};
	},
});
