import { eq } from "drizzle-orm";
import { z } from "zod";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { type KitStep, kits } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { keptName } from "@/platform/sharing";
import { IMPORTANCE } from "../table/importance";
import { auditOf, give, touchOf } from "./giveTasks";
import { codes, titleSchema, whoseFields } from "./taskFields";

const step = z.object({
	title: titleSchema,
	days: z
		.number()
		.int()
		.min(0, "A task of a kit is due 0 working days after it is given, or more.")
		.max(120, "A task of a kit is due at most 120 working days after it is given."),
	importance: z.enum(IMPORTANCE).default("usual"),
	asks: z.string().min(1).max(60).nullable().default(null),
	flags: z.array(z.enum(codes)).max(20).default([]),
	checklist: z.array(z.string().trim().min(1).max(200)).max(30).default([]),
});

export const kitSchema = z.object({ id: z.string(), name: z.string(), about: z.string(), version: z.number().int(), steps: z.array(step) }).meta({ id: "Kit" });
export type Kit = z.infer<typeof kitSchema>;

const plain = ({ id, name, about, version, steps }: typeof kits.$inferSelect): Kit => ({
	id,
	name,
	about,
	version,
	steps: steps.map((one) => step.parse(one)),
});

/** The kits there are, by name. */
export const readKits = query("tasks.kits", "readTasks", async (_context: Context): Promise<Kit[]> => {
	return (await connection().db.select().from(kits).orderBy(kits.name)).map(plain);
});

/** Makes a kit, or changes one that was seen. What was given of it before stays as it was given. */
export const saveKit = command({
	name: "tasks.saveKit",
	right: "changeRules",
	input: z.object({
		id: idSchema.nullable(),
		version: z.number().int().default(0),
		name: keptName("kit"),
		about: z.string().trim().max(500, "A kit’s purpose has at most 500 letters.").default(""),
		steps: z.array(step).min(1, "A kit needs at least one task.").max(30, "A kit has at most 30 tasks."),
	}),
	async run({ context, input: { id, version, name, about, steps }, tx }) {
		const strange = steps.find(({ asks }) => asks !== null && !context.organisation.activityKinds.includes(asks));
		if (strange) throw new Fault(422, "No such kind", `There is no activity of the kind ${strange.asks}.`);
		const [same] = await tx.select().from(kits).where(eq(kits.name, name));
		if (same && same.id !== id) throw new Fault(409, "The name is taken", `There is a kit called ${name}; give this one another name.`);
		const [before] = id === null ? [] : await tx.select().from(kits).where(eq(kits.id, id)).for("update");
		if (id !== null && !before) throw notFound("kit", id);
		if (before && before.version !== version)
			throw new Fault(412, "Changed by someone else", "Someone changed this kit after you opened it. Reload the page to continue.");
		const values = { name, about, steps: steps as KitStep[], version: version + 1 };
		const kept = { id: id ?? newId("kit"), ...values };
		await tx.insert(kits).values(kept).onConflictDoUpdate({ target: kits.id, set: values });
		return {
			result: { id: kept.id, version: kept.version },
			touched: "nothing",
			audit: {
				action: before ? "kit changed" : "kit created",
				subject: kept.id,
				detail: { before: before ? { name: before.name, about: before.about, steps: before.steps } : null, after: { name, about, steps } },
			},
		};
	},
});

/** Takes a kit away; what was given of it stays. */
export const removeKit = command({
	name: "tasks.removeKit",
	right: "changeRules",
	input: z.object({ id: idSchema }),
	async run({ input: { id }, tx }) {
		const [gone] = await tx.delete(kits).where(eq(kits.id, id)).returning();
		if (!gone) throw notFound("kit", id);
		return { result: {}, touched: "nothing", audit: { action: "kit deleted", subject: id, detail: { name: gone.name, steps: gone.steps } } };
	},
});

/** Gives a kit for some deals, or for accounts beside their deals: each of its tasks so many working days from today, to the owner or whom is named. */
export const giveKit = command({
	name: "tasks.giveKit",
	right: "assignTasks",
	input: z.object({
		id: idSchema,
		dealIds: z.array(idSchema).max(100, "At most 100 deals at once.").default([]),
		accountIds: z.array(idSchema).max(100, "At most 100 accounts at once.").default([]),
		...whoseFields,
	}),
	async run({ context, input: { id, dealIds, accountIds, ...whose }, tx }) {
		if (!dealIds.length && !accountIds.length) throw new Fault(400, "Bad request", "Choose at least one deal or account.");
		const [kit] = await tx.select().from(kits).where(eq(kits.id, id));
		if (!kit) throw notFound("kit", id);
		const { calendar } = context.organisation.company.rules;
		const usual = { repeat: null, remindOn: null, remindUnlessAnswered: false };
		const places = [
			...[...new Set(dealIds)].map((dealId) => ({ dealId, accountId: null })),
			...[...new Set(accountIds)].map((accountId) => ({ dealId: null, accountId })),
		];
		const lines = places.flatMap((place) =>
			plain(kit).steps.map(({ days, ...rest }) => ({ ...usual, ...whose, ...rest, ...place, dueOn: formatDay(calendar.add(context.now.day, days)) })),
		);
		const result = await give(tx, context, lines);
		return { result, touched: touchOf(result), audit: auditOf(result) };
	},
});
