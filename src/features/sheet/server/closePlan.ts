import { eq } from "drizzle-orm";
import { z } from "zod";
import { formatDay } from "@/core/time/day";
import type { Tx } from "@/data/db";
import { closePlanSteps } from "@/data/schema";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { dayInput, idSchema } from "@/platform/input";
import { reachDeal } from "@/platform/reachDeal";

const stepSchema = z.object({
	title: z.string().trim().min(1, "Enter the step.").max(300, "A step has at most 300 letters."),
	dueOn: dayInput.nullable(),
	side: z.enum(["ours", "theirs"]),
});

/** Adds a step to the plan that leads to the signature. */
export const addStep = command({
	name: "sheet.addStep",
	right: "editDeals",
	input: stepSchema.extend({ dealId: idSchema }),
	async run({ context, input: { dealId, ...step }, tx }) {
		reachDeal(context, dealId);
		const id = newId("step");
		await tx.insert(closePlanSteps).values({ id, dealId, ...step, doneOn: null, addedAt: new Date(context.now.instant) });
		return { result: { id }, touched: [dealId], audit: { action: "close plan step added", subject: dealId, detail: { step: id, ...step } } };
	},
});

/** Changes a step, or marks it done or not done today. */
export const changeStep = command({
	name: "sheet.changeStep",
	right: "editDeals",
	input: stepSchema.partial().extend({ id: idSchema, done: z.boolean().optional() }),
	async run({ context, input: { id, done, ...change }, tx }) {
		const step = await reachStep(tx, context, id);
		const doneOn = done === undefined ? {} : { doneOn: done ? (step.doneOn ?? formatDay(context.now.day)) : null };
		const set = { ...change, ...doneOn };
		if (Object.keys(set).length) await tx.update(closePlanSteps).set(set).where(eq(closePlanSteps.id, id));
		const before = Object.fromEntries(Object.keys(set).map((name) => [name, step[name as keyof typeof step]]));
		const detail = { step: id, before, after: set };
		return { result: {}, touched: [step.dealId], audit: { action: "close plan step changed", subject: step.dealId, detail } };
	},
});

/** Takes a step out of the plan. */
export const removeStep = command({
	name: "sheet.removeStep",
	right: "editDeals",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const step = await reachStep(tx, context, id);
		await tx
			.update(closePlanSteps)
			.set({ removedAt: new Date(context.now.instant) })
			.where(eq(closePlanSteps.id, id));
		return {
			result: {},
			touched: [step.dealId],
			audit: { action: "close plan step removed", subject: step.dealId, detail: { title: step.title, dueOn: step.dueOn, side: step.side } },
		};
	},
});

/** A step, held until the commit, of a deal the person reaches; throws a 404 for any other. */
async function reachStep(tx: Tx, context: Context, id: string): Promise<typeof closePlanSteps.$inferSelect> {
	const [step] = await tx.select().from(closePlanSteps).where(eq(closePlanSteps.id, id)).for("update");
	if (!step || step.removedAt) throw notFound("step", id);
	reachDeal(context, step.dealId);
	return step;
}
