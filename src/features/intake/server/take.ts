import { and, eq, sql } from "drizzle-orm";
import { z } from "zod";
import type { Fate } from "@/core/contact/intake";
import type { Tx } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { attachments, contacts, intakeItems, intakes } from "@/data/schema";
import { keepFiles } from "@/features/attachments";
import { touchedByActivity } from "@/platform/activities";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dealIdsOf } from "@/platform/dealsByAccount";
import { Fault } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { log } from "@/platform/log";
import { inThread } from "@/platform/threads";
import { systemWrite } from "@/platform/write";
import { aroundOf, type Intake, ownIntake, placeOf } from "./around";
import { adding, type Item, itemsOf, judged, judgedCards } from "./preview";
import type { Spooled } from "./spool";

/** names the lock under which it is looked whether a message is logged already */
const LOCK = 720521;
/** ms that reading a file may take */
const MOST_TIME = 15 * 60_000;
const CHUNK = 2000;
const MANY = 500;

/** Registers a file that was handed in, so that it can be followed from its first moment. */
export const registerIntake = command({
	name: "intake.start",
	right: "writeNotes",
	server: true,
	input: z.object({ dealId: idSchema.nullable(), accountId: idSchema.nullable(), name: z.string().max(300), size: z.number().int().positive() }),
	async run({ context, input: { name, size, ...place }, tx }) {
		placeOf(context, place);
		const id = newId("intake");
		await tx.insert(intakes).values({ id, ...place, name, total: size, byId: context.actor.person.id, madeAt: new Date(context.now.instant) });
		return { result: id, touched: "nothing", audit: [] };
	},
});

/** Begins to read a file that was put aside, which is forgotten then: answers its id at once, and a promise of its end. */
export async function startIntake(context: Context, place: { dealId: string | null; accountId: string | null }, name: string, { path, size, forget }: Spooled) {
	// Handed in again it is another file: what was read of the first stays with the first.
	const { once: _, ...asked } = context;
	const id = await registerIntake(asked, { ...place, name: name.slice(0, 300), size }).catch(async (error) => {
		await forget();
		throw error;
	});
	const end = inThread("readIntake", { id, path }, MOST_TIME)
		.catch(async (error: unknown) => {
			log.error({ error: String(error), id }, "reading a file of messages ended");
			const problems = ["It couldn’t be read: it took too much memory or time. Split it, by year for instance."];
			await systemWrite(async (tx) => {
				await tx
					.update(intakes)
					.set({ state: "failed", problems })
					.where(and(eq(intakes.id, id), eq(intakes.state, "reading")));
				return { result: null, touched: "nothing", audit: [] };
			});
		})
		.finally(forget);
	end.catch(() => undefined);
	return { id, end };
}

/** Ends the reading of a file, or forgets what was read of it. */
export const cancelIntake = command({
	name: "intake.cancel",
	right: "writeNotes",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const intake = await held(tx, context, id);
		if (intake.state !== "taken") {
			await tx.update(intakes).set({ state: "cancelled" }).where(eq(intakes.id, id));
			await tx.delete(intakeItems).where(eq(intakeItems.intakeId, id));
		}
		return { result: {}, touched: "nothing", audit: [] };
	},
});

async function held(tx: Tx, context: Context, id: string): Promise<Intake> {
	const [row] = await tx.select().from(intakes).where(eq(intakes.id, id)).for("update");
	return ownIntake(context, row);
}

/** Logs what a file holds: all that is new of it, or nothing. */
export const takeIntake = command({
	name: "intake.take",
	right: "writeNotes",
	input: z.object({
		id: idSchema,
		/** addresses of people of theirs who become contacts */
		adding,
		/** entries that are left out, by their places in the file */
		without: z.array(z.number().int().min(0)).max(1000).default([]),
	}),
	async run({ context, input, tx }) {
		// Two files at once that hold the same message log it once.
		await tx.execute(sql`select pg_advisory_xact_lock(${LOCK})`);
		const intake = await held(tx, context, input.id);
		if (intake.state !== "ready")
			throw new Fault(409, "Not ready", intake.state === "taken" ? "This file has been logged already." : "This file isn’t read yet.");
		const place = placeOf(context, intake);
		const items = await itemsOf(tx, intake.id);
		const out = new Set(input.without);
		const { lines } = await judged(tx, context, intake, items, input.adding);
		const wanted = lines.flatMap(({ item, fate }) => (fate.fate === "new" && !out.has(item.ordinal) ? [{ item, fate }] : []));
		const people = await makePeople(tx, context, intake, { items: items.filter(({ ordinal }) => !out.has(ordinal)), adding: input.adding });
		await logAll(tx, context, intake, place, wanted, people.byAddress);
		// What finds words among many more rows than before has to know that they are many.
		if (wanted.length > MANY) await tx.execute(sql`analyze activities`);
		await tx.update(intakes).set({ state: "taken", made: people.made }).where(eq(intakes.id, intake.id));
		const { name } = intake;
		const deals = place.accountId ? dealIdsOf(context.organisation, place.accountId) : [];
		const touched =
			place.dealId && !people.made.length
				? touchedByActivity(context, place.dealId)
				: { deals: place.dealId ? [...new Set([place.dealId, ...deals])] : deals, parts: ["accounts" as const] };
		return {
			result: { logged: wanted.length, contacts: people.made.length, left: lines.length - wanted.length },
			touched,
			audit: {
				action: "messages logged from a file",
				subject: place.dealId ?? place.accountId,
				detail: { name, logged: wanted.length, contacts: people.made.length },
			},
		};
	},
});

/** Makes contacts of strangers that are to be known and of cards of people who aren’t; a title that is missing here is taken over. */
async function makePeople(tx: Tx, context: Context, intake: Intake, { items, adding: chosen }: { items: readonly Item[]; adding: readonly string[] }) {
	const { accountId } = placeOf(context, intake);
	const names = new Map<string, string>();
	for (const { sort, fromAddress, fromName, others } of items)
		if (sort !== "card")
			for (const { address, name } of [{ address: fromAddress, name: fromName }, ...others]) if (!names.get(address)) names.set(address, name);
	const { theirs, ours } = await aroundOf(tx, context, intake, [], []);
	const rows: (typeof contacts.$inferInsert)[] = [];
	for (const address of new Set(chosen))
		if (names.has(address) && !theirs.has(address) && !ours.has(address))
			rows.push({ id: newId("contact"), accountId, name: names.get(address) || address, email: address });
	for (const { item, same, again } of await judgedCards(tx, context, intake, items)) {
		if (same && !same.title && item.subject)
			await tx
				.update(contacts)
				.set({ title: item.subject, version: same.version + 1 })
				.where(eq(contacts.id, same.id));
		if (!same && !again) rows.push({ id: newId("contact"), accountId, name: item.fromName, title: item.subject || null, email: item.fromAddress || null });
	}
	for (let at = 0; at < rows.length; at += CHUNK) await tx.insert(contacts).values(rows.slice(at, at + CHUNK));
	return { made: rows.map(({ id }) => id), byAddress: new Map(rows.flatMap(({ id, email }) => (email ? [[email, id] as const] : []))) };
}

type Wanted = { readonly item: Item; readonly fate: Fate & { fate: "new" } };

/** Writes the activities, with what was written in them, which only the database has read. */
async function logAll(
	tx: Tx,
	context: Context,
	intake: Intake,
	place: { dealId: string | null; accountId: string | null },
	wanted: readonly Wanted[],
	made: ReadonlyMap<string, string>,
): Promise<void> {
	const { organisation, actor, now } = context;
	const { activityKinds: kinds } = organisation;
	const kindOf = (sort: Item["sort"]) => kinds.find((kind) => (sort === "meeting" ? /meet/i : /mail/i).test(kind)) ?? kinds[0] ?? "email";
	const contactOf = (id: string) => (id.startsWith("new ") ? (made.get(id.slice("new ".length)) ?? []) : id);
	const rows = wanted.map(({ item, fate }) => ({
		id: newId("activity"),
		ordinal: item.ordinal,
		kind: kindOf(item.sort),
		direction: fate.direction,
		state: fate.planned ? "planned" : "done",
		by_id: fate.by === null ? actor.person.id : (organisation.people[fate.by]?.id ?? actor.person.id),
		contact_ids: fate.contacts.flatMap(contactOf),
	}));
	const files = new Map(wanted.map(({ item }) => [item.ordinal, item.files]));
	const recorded = new Date(now.instant).toISOString();
	for (let at = 0; at < rows.length; at += CHUNK) {
		const part = JSON.stringify(rows.slice(at, at + CHUNK));
		await tx.execute(sql`
			insert into activities (id, deal_id, account_id, contact_ids, kind, direction, state, at, recorded_at, by_id, subject, body, message_id)
			select r.id, ${place.dealId}, ${place.accountId}, array(select jsonb_array_elements_text(r.contact_ids)), r.kind, r.direction, r.state, i.at, ${recorded}, r.by_id, i.subject, nullif(i.body, ''), i.key
			from jsonb_to_recordset(${part}::jsonb) r(id text, ordinal int, kind text, direction text, state text, by_id text, contact_ids jsonb)
			join intake_items i on i.intake_id = ${intake.id} and i.ordinal = r.ordinal`);
		await tx.execute(sql`
			update intake_items i set activity_id = r.id from jsonb_to_recordset(${part}::jsonb) r(id text, ordinal int)
			where i.intake_id = ${intake.id} and i.ordinal = r.ordinal`);
	}
	const kept = place.dealId ? { dealId: place.dealId, accountId: null } : { dealId: null, accountId: place.accountId };
	await keepFiles(
		tx,
		context,
		rows.flatMap(({ id: activityId, ordinal }) => (files.get(ordinal) ?? []).map((file) => ({ ...kept, ...file, activityId }))),
	);
}

/** Takes back what was logged of a file: the activities, and contacts that were made for them and have part in nothing else. */
export const undoIntake = command({
	name: "intake.undo",
	right: "writeNotes",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const intake = await held(tx, context, id);
		if (intake.state !== "taken") throw new Fault(409, "Nothing to undo", "Nothing of this file is logged.");
		const place = placeOf(context, intake);
		const own = sql`select activity_id from intake_items where intake_id = ${id}`;
		// What came with them goes with them: a file stays behind where only its activity is deleted.
		await tx.delete(attachments).where(sql`${attachments.activityId} in (${own})`);
		const gone = await tx.execute(sql`delete from activities where id in (${own})`);
		if (intake.made.length)
			await tx
				.delete(contacts)
				.where(
					and(
						isOneOf(contacts.id, [...intake.made]),
						sql`not exists (select from activities a where a.contact_ids @> array[${contacts.id}]) and not exists (select from deal_contacts d where d.contact_id = ${contacts.id}) and not exists (select from contacts c where c.reports_to_id = ${contacts.id})`,
					),
				);
		await tx.update(intakes).set({ state: "undone" }).where(eq(intakes.id, id));
		return {
			result: {},
			touched: place.dealId ? touchedByActivity(context, place.dealId) : "accounts",
			audit: {
				action: "messages logged from a file undone",
				subject: place.dealId ?? place.accountId,
				detail: { name: intake.name, logged: gone.rowCount ?? 0 },
			},
		};
	},
});
