import { and, eq, isNull } from "drizzle-orm";
import { z } from "zod";
import { accountNotes, activities, contacts } from "@/data/schema";
import { activityFields, insertActivity } from "@/platform/activities";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { reachAccount } from "@/platform/reachAccount";

/** Logs what was said or done at an account beside its deals, or is planned there. */
export const logAtAccount = command({
	name: "accounts.log",
	right: "writeNotes",
	input: z.object({ accountId: idSchema, ...activityFields }).meta({ id: "NewAccountActivity" }),
	async run({ context, input: { accountId, ...given }, tx }) {
		reachAccount(context, accountId);
		const known = await tx.select({ id: contacts.id }).from(contacts).where(eq(contacts.accountId, accountId));
		const { id, planned } = await insertActivity(tx, context, { dealId: null, accountId }, given, known);
		const { kind, subject } = given;
		return { result: { id }, touched: "accounts", audit: { action: "activity logged", subject: accountId, detail: { kind, subject, planned } } };
	},
});

/** Takes back what one has logged at an account oneself. */
export const unlogAtAccount = command({
	name: "accounts.unlog",
	right: "writeNotes",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const [activity] = await tx.select().from(activities).where(eq(activities.id, id)).for("update");
		if (!activity?.accountId || activity.dealId) throw notFound("activity", id);
		reachAccount(context, activity.accountId);
		if (activity.byId !== context.actor.person.id || !id.startsWith("activity-"))
			throw new Fault(403, "Not allowed", "You can delete only activities you logged here yourself.");
		await tx.delete(activities).where(eq(activities.id, id));
		return { result: {}, touched: "accounts", audit: { action: "activity deleted", subject: activity.accountId, detail: { subject: activity.subject } } };
	},
});

/** Says something about an account that stays on top of its page. */
export const noteAtAccount = command({
	name: "accounts.note",
	right: "writeNotes",
	input: z.object({ accountId: idSchema, body: z.string().trim().min(1, "Write something first.").max(2000, "A note has at most 2 000 letters.") }),
	async run({ context, input: { accountId, body }, tx }) {
		reachAccount(context, accountId);
		const id = newId("note");
		await tx.insert(accountNotes).values({ id, accountId, body, byId: context.actor.person.id, at: new Date(context.now.instant) });
		return { result: { id }, touched: "nothing", audit: { action: "account note added", subject: accountId, detail: { body } } };
	},
});

/** Takes a note down, or (`ended` false) puts it up again. Days before still read it. */
export const endNoteAtAccount = command({
	name: "accounts.endNote",
	right: "writeNotes",
	input: z.object({ id: idSchema, ended: z.boolean().default(true) }),
	async run({ context, input: { id, ended }, tx }) {
		const [note] = await tx.select().from(accountNotes).where(eq(accountNotes.id, id)).for("update");
		if (!note) throw notFound("note", id);
		reachAccount(context, note.accountId);
		await tx
			.update(accountNotes)
			.set({ endedAt: ended ? new Date(context.now.instant) : null })
			.where(and(eq(accountNotes.id, id), ended ? isNull(accountNotes.endedAt) : undefined));
		return {
			result: {},
			touched: "nothing",
			audit: { action: ended ? "account note removed" : "account note restored", subject: note.accountId, detail: { body: note.body } },
		};
	},
});
