import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { z } from "zod";
import { formatDay } from "@/core/time/day";
import { connection, type Tx } from "@/data/db";
import { closePlanSteps } from "@/data/schema";
import { touch } from "@/data/store/touch";
import { type Context, record } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { reachDeal } from "@/platform/reachDeal";
import { demand } from "@/platform/rights";

const isoDay = z.iso.date("This isn't a day that exists.");
export const stepSchema = z.object({
	title: z.string().trim().min(1, "Say what has to happen.").max(300, "A step has at most 300 letters."),
	dueOn: isoDay.nullable(),
	side: z.enum(["ours", "theirs"]),
});
export const stepChangeSchema = stepSchema.partial().extend({ done: z.boolean().optional() });

/** Adds a step to the plan that leads to the signature. */
export async function addStep(context: Context, dealId: string, input: z.infer<typeof stepSchema>): Promise<{ id: string }> {
	demand(context.actor, "editDeals");
	const step = stepSchema.parse(input);
	reachDeal(context, dealId);
	const id = `step-${randomUUID()}`;
	await connection().db.transaction(async (tx) => {
		await tx.insert(closePlanSteps).values({ id, dealId, ...step, doneOn: null });
		await record(tx, context, "close plan step added", dealId, { step: id, ...step });
		await touch(tx, [dealId]);
	});
	return { id };
}

/** Changes a step, or marks it done or not done today. */
export async function changeStep(context: Context, id: string, input: z.infer<typeof stepChangeSchema>): Promise<void> {
	demand(context.actor, "editDeals");
	const { done, ...change } = stepChangeSchema.parse(input);
	await withStep(context, id, async (tx, step) => {
		const doneOn = done === undefined ? {} : { doneOn: done ? (step.doneOn ?? formatDay(context.now.day)) : null };
		const set = { ...change, ...doneOn };
		if (Object.keys(set).length) await tx.update(closePlanSteps).set(set).where(eq(closePlanSteps.id, id));
		await record(tx, context, "close plan step changed", step.dealId, { step: id, ...input });
	});
}

export async function removeStep(context: Context, id: string): Promise<void> {
	demand(context.actor, "editDeals");
	await withStep(context, id, async (tx, step) => {
		await tx.delete(closePlanSteps).where(eq(closePlanSteps.id, id));
		await record(tx, context, "close plan step removed", step.dealId, { ...step });
	});
}

async function withStep(context: Context, id: string, work: (tx: Tx, step: typeof closePlanSteps.$inferSelect) => Promise<void>): Promise<void> {
	await connection().db.transaction(async (tx) => {
		const [step] = await tx.select().from(closePlanSteps).where(eq(closePlanSteps.id, id)).for("update");
		if (!step) throw notFound("step", id);
		reachDeal(context, step.dealId);
		await work(tx, step);
		await touch(tx, [step.dealId]);
	});
}
