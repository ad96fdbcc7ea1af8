import { desc, eq, inArray, sql } from "drizzle-orm";
import { z } from "zod";
import { config } from "@/config/config";
import { worksOn } from "@/core/people/person";
import { connection } from "@/data/db";
import { outbox } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { idSchema } from "@/platform/input";
import { SMTP } from "./send";

export interface MailLog {
	/** what mails go through; null: nothing is set, so that none goes out */
	readonly server: string | null;
	readonly counts: { readonly waiting: number; readonly sent: number; readonly refused: number };
	/** since when mails wait that were tried, and why */
	readonly trouble: { readonly since: string; readonly words: string } | null;
	readonly mails: readonly {
		readonly id: string;
		readonly address: string;
		readonly subject: string;
		readonly state: string;
		readonly tries: number;
		readonly error: string | null;
		readonly at: string;
	}[];
	/** people who work here and have no address */
	readonly without: readonly string[];
}

const SHOWN = 60;

/** The mails that were written and what became of them. */
export const readMailLog = query("reaching.mailLog", "readMail", async (context: Context): Promise<MailLog> => {
	const { db } = connection();
	const rows = await db.select().from(outbox).orderBy(sql`${outbox.state} = 'sent'`, desc(outbox.id)).limit(SHOWN);
	const counted = await db.select({ state: outbox.state, count: sql<number>`count(*)::int` }).from(outbox).groupBy(outbox.state);
	const of = (state: string) => counted.find((one) => one.state === state)?.count ?? 0;
	const tried = rows.filter(({ state, error }) => state === "waiting" && error !== null).at(-1);
	const server = config()[SMTP];
	return {
		server: server ? new URL(server).host : null,
		counts: { waiting: of("waiting"), sent: of("sent"), refused: of("refused") },
		trouble: tried ? { since: tried.createdAt.toISOString(), words: tried.error ?? "" } : null,
		mails: rows.map(({ id, address, subject, state, tries, error, createdAt }) => ({ id, address, subject, state, tries, error, at: createdAt.toISOString() })),
		without: context.organisation.people.filter((person) => !person.email && worksOn(person, context.now.day)).map(({ name }) => name),
	};
});

/** Has mails tried again now that were refused, or wait for their next try. */
export const sendAgain = command({
	name: "reaching.sendAgain",
	right: "readMail",
	input: z.object({ ids: z.array(idSchema).min(1).max(500) }),
	async run({ input: { ids }, tx }) {
		const rows = await tx
			.update(outbox)
			.set({ state: "waiting", nextAt: sql`now()` })
			.where(sql`${inArray(outbox.id, ids)} and ${outbox.state} <> 'sent'`)
			.returning({ id: outbox.id, to: outbox.address });
		return {
			result: { count: rows.length },
			touched: "nothing",
			audit: { action: "mails retried", detail: { mails: rows.map(({ id }) => id), to: [...new Set(rows.map(({ to }) => to))] } },
		};
	},
});

/** The address a person has in the outbox is theirs of when it was written; a mail to nobody is given up. */
export const dropMail = command({
	name: "reaching.dropMail",
	right: "readMail",
	input: z.object({ id: idSchema }),
	async run({ input: { id }, tx }) {
		const given = await tx
			.update(outbox)
			.set({ state: "refused", error: "cancelled by hand" })
			.where(sql`${eq(outbox.id, id)} and ${outbox.state} <> 'sent'`)
			.returning({ to: outbox.address, about: outbox.subject });
		return { result: {}, touched: "nothing", audit: given.map((mail) => ({ action: "mail cancelled", subject: id, detail: mail })) };
	},
});
