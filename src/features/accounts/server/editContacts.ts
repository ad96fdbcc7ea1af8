import { asc, eq } from "drizzle-orm";
import { z } from "zod";
import { BUYING_ROLES } from "@/core/people/buyingRoles";
import { connection, type Tx } from "@/data/db";
import { contacts, dealContacts } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { recordPreviousValue } from "@/platform/factHistory";
import { Fault, notFound } from "@/platform/fault";
import { page } from "@/platform/http/api";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { reachAccount } from "@/platform/reachAccount";
import { CONTACT_HISTORY } from "./contacts";

const fields = {
	accountId: idSchema,
	name: z.string().trim().min(1, "Enter a name.").max(200, "A name has at most 200 letters."),
	title: z.string().trim().max(200, "A title has at most 200 letters.").nullable(),
	email: z.email("This isn’t a mail address.").max(200).nullable(),
	buyingRole: z.enum(BUYING_ROLES).nullable(),
	reportsToId: idSchema.nullable(),
};

export const newContactSchema = z
	.object({
		...fields,
		title: fields.title.default(null),
		email: fields.email.default(null),
		buyingRole: fields.buyingRole.default("unknown"),
		reportsToId: fields.reportsToId.default(null),
	})
	.strict()
	.meta({ id: "NewContact" });
/** What of a contact may be changed; what is left out stays. */
export const contactChangeSchema = z.object(fields).partial().strict().meta({ id: "ContactChange" });

export const contactSchema = z
	.object({
		id: z.string(),
		versionId: z.number().int().meta({ description: "goes back in If-Match" }),
		accountId: z.string().nullable(),
		name: z.string(),
		title: z.string().nullable(),
		email: z.string().nullable(),
		buyingRole: z.string().nullable(),
		reportsToId: z.string().nullable(),
	})
	.meta({ id: "Contact" });
export type ContactJson = z.infer<typeof contactSchema>;

const contactJson = ({ version, ...row }: typeof contacts.$inferSelect): ContactJson => ({ ...row, versionId: version });

/** The people of an account, by id. */
export const listContacts = query(
	"accounts.contacts",
	"readAccounts",
	async (context: Context, account: string, { cursor, limit }: { cursor?: string | undefined; limit: number }) => {
		reachAccount(context, account);
		const rows = await connection().db.select().from(contacts).where(eq(contacts.accountId, account)).orderBy(asc(contacts.id));
		return page(rows.map(contactJson), cursor, limit);
	},
);

/** Makes somebody of theirs known. */
export const makeContact = command({
	name: "accounts.makeContact",
	right: "editAccounts",
	input: newContactSchema,
	async run({ context, input, tx }) {
		reachAccount(context, input.accountId);
		const id = newId("contact");
		await demandLine(tx, { id, name: input.name, accountId: input.accountId }, input.reportsToId);
		const [row] = await tx
			.insert(contacts)
			.values({ ...input, id })
			.returning();
		if (!row) throw notFound("contact", id);
		await recordPreviousValue(tx, context, [{ contactId: id, field: "made", before: null }]);
		return {
			result: contactJson(row),
			touched: "accounts",
			audit: { action: "contact created", subject: input.accountId, detail: { contact: id, name: input.name } },
		};
	},
});

/**
 * Changes somebody of theirs as they were seen; who changes company keeps their past there.
 *
 * @throws Fault 412 where somebody has changed them since; 422 for a reporting line in a circle, which it names
 */
export const changeContact = command({
	name: "accounts.changeContact",
	right: "editAccounts",
	input: z.object({ id: idSchema, versionId: z.number().int(), change: contactChangeSchema }),
	async run({ context, input: { id, versionId, change }, tx }) {
		const [row] = await tx.select().from(contacts).where(eq(contacts.id, id)).for("update");
		if (!row?.accountId) throw notFound("contact", id);
		reachAccount(context, row.accountId);
		if (change.accountId !== undefined) reachAccount(context, change.accountId);
		if (row.version !== versionId)
			throw new Fault(412, "Changed by someone else", `${row.name} was changed after you opened this. Reload the page; nothing was overwritten.`, {
				versionId: row.version,
			});
		const moved = change.accountId !== undefined && change.accountId !== row.accountId;
		// Somebody who goes to another company reports to nobody there until somebody says so.
		const set = { ...change, ...(moved && change.reportsToId === undefined ? { reportsToId: null } : {}) };
		await demandLine(
			tx,
			{ id, name: set.name ?? row.name, accountId: set.accountId ?? row.accountId },
			set.reportsToId === undefined ? row.reportsToId : set.reportsToId,
		);
		await recordPreviousValue(
			tx,
			context,
			CONTACT_HISTORY.flatMap(({ key, field }) => (set[key] === undefined || set[key] === row[key] ? [] : [{ contactId: id, field, before: row[key] }])),
		);
		const [fresh] = await tx
			.update(contacts)
			.set({ ...set, version: versionId + 1 })
			.where(eq(contacts.id, id))
			.returning();
		if (!fresh) throw notFound("contact", id);
		const deals = await tx.select({ id: dealContacts.dealId }).from(dealContacts).where(eq(dealContacts.contactId, id));
		return {
			result: contactJson(fresh),
			touched: { deals: deals.map((one) => one.id), parts: ["accounts"] },
			audit: { action: "contact changed", subject: fresh.accountId, detail: { contact: id, name: fresh.name, before: contactJson(row), after: change } },
		};
	},
});

/** Whom somebody reports to is of the same account, and not somebody who reports to them: a circle is refused by its names. */
async function demandLine(tx: Tx, who: { readonly id: string; readonly name: string; readonly accountId: string }, reportsToId: string | null): Promise<void> {
	const names = [who.name];
	let next = reportsToId;
	while (next !== null) {
		const [above] = await tx.select().from(contacts).where(eq(contacts.id, next));
		if (next !== who.id && above?.accountId !== who.accountId) {
			// A line that already leads elsewhere is older than this change.
			if (next === reportsToId) throw notFound("contact", next);
			return;
		}
		names.push(next === who.id ? who.name : (above?.name ?? ""));
		if (next === who.id) throw new Fault(422, "A circle", `Reporting lines can’t go in a circle: ${names.join(" → ")}.`);
		if (names.length > MOST_LEVELS) return;
		next = above?.reportsToId ?? null;
	}
}

const MOST_LEVELS = 100;
