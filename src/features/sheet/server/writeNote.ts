import { eq } from "drizzle-orm";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { notes } from "@/data/schema";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { reaches, reachOf } from "@/platform/reach";
import { reachDeal } from "@/platform/reachDeal";

/** Who may be called on in a note of a deal: those who work here and reach it. */
export function whoSees(context: Context, owner: number): { id: string; name: string }[] {
	const { organisation, now } = context;
	return organisation.people.flatMap((person, index) =>
		worksOn(person, now.day) && reaches(reachOf(organisation, { person, index }), owner) ? [{ id: person.id, name: person.name }] : [],
	);
}

/** Adds a note to a deal. People named with an @ find it on their desk; it never moves a score. */
export const writeNote = command({
	name: "sheet.writeNote",
	right: "writeNotes",
	input: z.object({
		dealId: idSchema,
		body: z.string().trim().min(1, "The note is empty.").max(10_000, "A note has at most 10 000 letters; put longer texts in a document and link to it here."),
	}),
	async run({ context, input: { dealId, body }, tx }) {
		const { seen } = reachDeal(context, dealId);
		const called = whoSees(context, seen.owner).filter((person) => mentioned(body, person.name));
		const id = newId("note");
		const mentions = called.map((person) => person.id);
		await tx.insert(notes).values({ id, dealId, at: new Date(context.now.instant), byId: context.actor.person.id, body, mentions });
		return {
			result: { id, mentions: called.map((person) => person.name) },
			touched: [dealId],
			audit: { action: "note written", subject: dealId, detail: { text: body } },
		};
	},
});

/** Whether a text calls on a person: an @ and the whole name, in any case, and no letter after it. */
export function mentioned(body: string, name: string): boolean {
	const text = body.toLowerCase();
	const call = `@${name.toLowerCase()}`;
	for (let at = text.indexOf(call); at >= 0; at = text.indexOf(call, at + 1)) {
		if (!/[\p{L}\p{N}]/u.test(text.charAt(at + call.length))) return true;
	}
	return false;
}

/** Takes a note back that the person has written. */
export const takeBackNote = command({
	name: "sheet.takeBackNote",
	right: "writeNotes",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const [note] = await tx.select().from(notes).where(eq(notes.id, id)).for("update");
		if (!note) throw notFound("note", id);
		reachDeal(context, note.dealId);
		if (note.byId !== context.actor.person.id) throw new Fault(403, "Not allowed", "Only the person who wrote a note can delete it.");
		await tx.delete(notes).where(eq(notes.id, id));
		return { result: {}, touched: [note.dealId], audit: { action: "note deleted", subject: note.dealId, detail: { note: id, body: note.body } } };
	},
});
