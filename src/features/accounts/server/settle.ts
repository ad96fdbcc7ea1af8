import { eq } from "drizzle-orm";
import { z } from "zod";
import { formatDay, parseDay } from "@/core/time/day";
import { isOneOf } from "@/data/queries/isOneOf";
import { activities } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { dayInput, idSchema } from "@/platform/input";
import { reachAccount } from "@/platform/reachAccount";
import { reachDeal } from "@/platform/reachDeal";

const MOST = 200;

/**
 * Settles planned activities, of deals or beside them: says that they were done, that they won't take place, dates them again, or
 * (to undo the first two) that they are planned still.
 */
export const settleActivities = command({
	name: "accounts.settle",
	right: "writeNotes",
	input: z.discriminatedUnion("what", [
		z.object({ what: z.enum(["done", "dropped", "planned"]), ids: z.array(idSchema).min(1).max(MOST) }),
		z.object({
			what: z.literal("moved"),
			to: z
				.array(z.object({ id: idSchema, day: dayInput }))
				.min(1)
				.max(MOST),
		}),
	]),
	async run({ context, input, tx }) {
		const { organisation, now } = context;
		const { zone } = organisation.company.rules;
		const to = new Map(input.what === "moved" ? input.to.map(({ id, day }) => [id, parseDay(day)]) : []);
		const ids = input.what === "moved" ? [...to.keys()] : input.ids;
		const rows = await tx.select().from(activities).where(isOneOf(activities.id, ids)).for("update");
		const missing = ids.find((id) => !rows.some((row) => row.id === id));
		if (missing !== undefined) throw notFound("activity", missing);
		const before: { id: string; day: string }[] = [];
		for (const row of rows) {
			if (row.dealId) reachDeal(context, row.dealId);
			else reachAccount(context, row.accountId ?? "");
			const isPlanned = row.state === "planned";
			if (input.what === "planned" ? isPlanned || !row.plannedFor : !isPlanned)
				throw new Fault(409, "Already settled", `“${row.subject ?? row.kind}” was changed after you opened this page. Reload it.`);
			const day = zone.dayOf(row.at.getTime());
			before.push({ id: row.id, day: formatDay(day) });
			const hour = row.at.getTime() - zone.instantAt(day, 0);
			const settled = { state: "done", plannedFor: row.at, settledAt: new Date(now.instant) };
			const set =
				input.what === "dropped"
					? // Nobody was spoken to: it is internal, and counts as no contact.
						{ ...settled, at: new Date(now.instant), direction: "none", droppedFrom: row.direction }
					: input.what === "done"
						? { ...settled, ...(day >= now.day ? { at: new Date(now.instant) } : {}) }
						: input.what === "planned"
							? {
									state: "planned",
									at: row.plannedFor ?? row.at,
									plannedFor: null,
									settledAt: null,
									droppedFrom: null,
									direction: row.droppedFrom ?? row.direction,
								}
							: { at: new Date(zone.instantAt(to.get(row.id) ?? day, hour)) };
			await tx.update(activities).set(set).where(eq(activities.id, row.id));
		}
		const deals = rows.flatMap(({ dealId }) => dealId ?? []);
		const loose = rows.some(({ dealId }) => !dealId);
		const action = { done: "activities done", dropped: "activities dropped", planned: "activities planned again", moved: "activities moved" }[input.what];
		return {
			result: { before },
			touched: loose ? { deals, parts: ["accounts"] } : deals,
			audit: rows.map((row) => ({
				action,
				subject: row.dealId ?? row.accountId,
				detail: { activity: row.id, subject: row.subject, ...(input.what === "moved" ? { day: input.to.find(({ id }) => id === row.id)?.day } : {}) },
			})),
		};
	},
});
