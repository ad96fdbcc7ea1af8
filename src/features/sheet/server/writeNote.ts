import { randomUUID } from "node:crypto";
import { and, desc, eq, gt, sql } from "drizzle-orm";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { notes } from "@/data/schema";
import { touch } from "@/data/store/touch";
import { type Context, record } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { reachDeal } from "@/platform/reachDeal";
import { demand, reaches, reachOf } from "@/platform/rights";
import { surveyOn } from "@/platform/survey";

export const noteSchema = z.object({
	body: z.string().trim().min(1, "The note is empty.").max(10_000, "A note has at most 10 000 letters; put longer texts into a document and link it here."),
});

/** Who may be called on in a note of a deal: those who work here and reach it. */
export function whoSees(context: Context, owner: number): { id: string; name: string }[] {
	const { organisation, now } = context;
	return organisation.people.flatMap((person, index) =>
		worksOn(person, now.day) && reaches(reachOf(organisation, { person, index }), owner) ? [{ id: person.id, name: person.name }] : [],
	);
}

/** Adds a note to a deal. People named with an @ find it on their desk; it never moves a score. */
export async function writeNote(context: Context, dealId: string, input: z.input<typeof noteSchema>): Promise<{ id: string; mentions: string[] }> {
	demand(context.actor, "writeNotes");
	const { body } = noteSchema.parse(input);
	const { seen } = reachDeal(context, dealId);
	const called = whoSees(context, seen.owner).filter((person) => mentioned(body, person.name));
	const id = `note-${randomUUID()}`;
	await connection().db.transaction(async (tx) => {
		await tx.insert(notes).values({
			id,
			dealId,
			at: new Date(context.now.instant),
			byId: context.actor.person.id,
			body,
			mentions: called.map((person) => person.id),
		});
		await record(tx, context, "note written", dealId, { note: id });
		await touch(tx, [dealId]);
	});
	return { id, mentions: called.map((person) => person.name) };
}

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
export async function takeBackNote(context: Context, id: string): Promise<void> {
	demand(context.actor, "writeNotes");
	await connection().db.transaction(async (tx) => {
		const [note] = await tx.select().from(notes).where(eq(notes.id, id)).for("update");
		if (!note) throw notFound("note", id);
		reachDeal(context, note.dealId);
		if (note.byId !== context.actor.person.id) throw new Fault(403, "Not allowed", "Only whoever wrote a note can take it back.");
		await tx.delete(notes).where(eq(notes.id, id));
		await record(tx, context, "note taken back", note.dealId, { note: id, body: note.body });
		await touch(tx, [note.dealId]);
	});
}

export interface Mention {
	readonly id: string;
	readonly dealId: string;
	readonly deal: string;
	readonly by: string;
	readonly day: string;
	readonly body: string;
}

const DAYS_SHOWN = 30;

/** Notes of the last thirty days that call on the person, newest first. */
export async function readMentions(context: Context, day: number): Promise<Mention[]> {
	demand(context.actor, "readDesk");
	const { organisation, actor } = context;
	const { zone } = organisation.company.rules;
	const since = new Date(zone.instantAt(day - DAYS_SHOWN, 0));
	const rows = await connection()
		.db.select()
		.from(notes)
		.where(and(gt(notes.at, since), sql`${notes.mentions} @> array[${actor.person.id}]::text[]`))
		.orderBy(desc(notes.at));
	const reach = reachOf(organisation, actor);
	return rows.flatMap((note) => {
		const index = organisation.dealIndex.get(note.dealId) ?? -1;
		const seen = surveyOn(organisation.company, day).deals[index];
		const on = zone.dayOf(note.at.getTime());
		if (!seen || !reaches(reach, seen.owner) || on > day) return [];
		return [
			{
				id: note.id,
				dealId: note.dealId,
				deal: organisation.deals[index]?.name || "No name",
				by: organisation.people[organisation.personIndex.get(note.byId ?? "") ?? -1]?.name ?? "Somebody",
				day: formatDay(on),
				body: note.body,
			},
		];
	});
}
