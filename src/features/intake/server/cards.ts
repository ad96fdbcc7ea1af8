import { eq } from "drizzle-orm";
import { connection } from "@/data/db";
import { contacts } from "@/data/schema";
import type { CardOut } from "@/formats/cards";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { reachAccount } from "@/platform/reachAccount";

/** The people of an account, or one of them, as cards. */
export const cardsOf = query("intake.cards", "readAccounts", async (context: Context, accountId: string, contact: string | undefined): Promise<CardOut[]> => {
	const { name: company } = reachAccount(context, accountId);
	const rows = await connection().db.select().from(contacts).where(eq(contacts.accountId, accountId)).orderBy(contacts.name, contacts.id);
	const wanted = rows.filter(({ id }) => contact === undefined || id === contact);
	if (contact !== undefined && !wanted.length) throw notFound("contact", contact);
	return wanted.map(({ id, name, title, email, buyingRole }) => ({
		uid: `porch-lamp-contact-${id}`,
		name,
		title,
		email,
		company,
		role: buyingRole === "unknown" ? null : (buyingRole?.replaceAll("_", " ") ?? null),
	}));
});
