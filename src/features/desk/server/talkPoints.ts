import { eq } from "drizzle-orm";
import { z } from "zod";
import { talkPoints } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { personName } from "@/platform/names";
import { mayTalk } from "./readPerson";

const notYours = () => new Fault(403, "Not allowed", "Only who leads somebody keeps points for a talk with them.");

/** Keeps something to be talked about with one of theirs. */
export const addTalkPoint = command({
	name: "desk.addPoint",
	right: "holdRounds",
	input: z.object({ personId: idSchema, body: z.string().trim().min(1, "Write something first.").max(1000, "A point has at most 1 000 letters.") }),
	async run({ context, input: { personId, body }, tx }) {
		if (!mayTalk(context, personId)) throw notYours();
		const id = newId("point");
		await tx.insert(talkPoints).values({ id, personId, body, byId: context.actor.person.id, at: new Date(context.now.instant) });
		// What is said between two isn't everybody's: the audit says that a point was added, not which.
		return {
			result: { id },
			touched: "nothing",
			audit: { action: "talk point added", subject: personId, detail: { with: personName(context.organisation, personId) } },
		};
	},
});

/** Strikes a point off, or (`struck` false) puts it back. */
export const strikeTalkPoint = command({
	name: "desk.strikePoint",
	right: "holdRounds",
	input: z.object({ id: idSchema, struck: z.boolean().default(true) }),
	async run({ context, input: { id, struck }, tx }) {
		const [point] = await tx.select().from(talkPoints).where(eq(talkPoints.id, id)).for("update");
		if (!point) throw notFound("point", id);
		if (!mayTalk(context, point.personId)) throw notYours();
		await tx
			.update(talkPoints)
			.set({ struckAt: struck ? new Date(context.now.instant) : null })
			.where(eq(talkPoints.id, id));
		return {
			result: {},
			touched: "nothing",
			audit: {
				action: struck ? "talk point struck off" : "talk point restored",
				subject: point.personId,
				detail: { with: personName(context.organisation, point.personId) },
			},
		};
	},
});
