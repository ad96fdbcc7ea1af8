import { and, eq, isNotNull, or } from "drizzle-orm";
import { z } from "zod";
import type { Move } from "@/core/period/try";
import { formatDay } from "@/core/time/day";
import { bounded, type Period } from "@/core/time/period";
import type { Tx } from "@/data/db";
import { tries } from "@/data/schema";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { keptName, shareIn } from "@/platform/sharing";
import { resolveViewpoint } from "@/platform/viewpoint";
import { tryJson } from "./listTries";
import { move } from "./tryShape";

const MOST_OWN = 100;
const MOST_MOVES = 200;

const wish = z.object({
	name: keptName("try"),
	whose: z.string().min(1).max(200),
	due: z.string().min(1).max(60),
	moves: z.array(move).min(1, "Move something first.").max(MOST_MOVES, `A try has at most ${MOST_MOVES} moves.`),
	shared: z.boolean().default(false),
});

/** Keeps a try under a name, of today. Nothing real changes. */
export const saveTry = command({
	name: "period.saveTry",
	right: "keepTries",
	input: wish,
	async run({ context, input, tx }) {
		const { whose, due } = resolveViewpoint(context, { whose: input.whose, due: input.due });
		demandBounded(due.period);
		const ownerId = context.actor.person.id;
		if ((await tx.$count(tries, eq(tries.ownerId, ownerId))) >= MOST_OWN)
			throw new Fault(422, "Too many tries", `You have ${MOST_OWN} tries; delete one first.`);
		const values = {
			id: newId(),
			ownerId,
			name: input.name,
			whose: whose.key,
			due: due.key,
			madeOn: formatDay(context.now.day),
			moves: input.moves as Move[],
			sharedWith: await shareIn(tx, context, tries, input.shared, "tries"),
		};
		const [row] = await tx.insert(tries).values(values).returning();
		if (!row) throw notFound("try", values.id);
		return {
			result: tryJson(context, row),
			touched: "nothing",
			audit: { action: "try saved", subject: values.id, detail: { name: input.name, shared: input.shared } },
		};
	},
});

/** Changes a try of one's own: its name, its moves, whom it is shared with. With other moves it is of today. */
export const changeTry = command({
	name: "period.changeTry",
	right: "keepTries",
	input: wish.pick({ name: true, moves: true, shared: true }).partial().extend({ id: idSchema }),
	async run({ context, input: { id, shared, moves, name }, tx }) {
		const was = await ownTry(tx, context, id);
		const set = {
			...(name === undefined ? {} : { name }),
			...(moves === undefined ? {} : { moves: moves as Move[], madeOn: formatDay(context.now.day) }),
			...(shared === undefined ? {} : { sharedWith: await shareIn(tx, context, tries, shared, "tries") }),
		};
		if (Object.keys(set).length) await tx.update(tries).set(set).where(eq(tries.id, id));
		return { result: {}, touched: "nothing", audit: { action: "try changed", subject: id, detail: { name: was.name, before: was, after: set } } };
	},
});

/** Takes a try of one's own away; one that is shared ops may take away too. */
export const removeTry = command({
	name: "period.removeTry",
	right: "keepTries",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const row = await ownTry(tx, context, id, context.actor.person.role === "ops");
		await tx.delete(tries).where(eq(tries.id, id));
		return { result: {}, touched: "nothing", audit: { action: "try deleted", subject: id, detail: { name: row.name } } };
	},
});

async function ownTry(tx: Tx, context: Context, id: string, orShared = false): Promise<typeof tries.$inferSelect> {
	const mine = eq(tries.ownerId, context.actor.person.id);
	const [row] = await tx
		.select()
		.from(tries)
		.where(and(eq(tries.id, id), orShared ? or(mine, isNotNull(tries.sharedWith)) : mine))
		.for("update");
	if (!row) throw notFound("try of yours", id);
	return row;
}

/** A period with two ends; throws a 400 for one without. */
export function demandBounded(asked: Period | null): Period {
	const period = bounded(asked);
	if (!period) throw new Fault(422, "No period", "A try needs a period with a start and an end.");
	return period;
}
