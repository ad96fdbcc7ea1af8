import type { Tx } from "@/data/db";
import { outbox } from "@/data/schema";
import { newId } from "@/platform/ids";

type Letter = Omit<typeof outbox.$inferInsert, "id">;

/** Puts a mail into the outbox, in the transaction that it tells of; one of the same key is there already. */
export async function post(tx: Tx, letter: Letter): Promise<boolean> {
	const rows = await tx
		.insert(outbox)
		.values({ ...letter, id: newId("mail") })
		.onConflictDoNothing({ target: outbox.key })
		.returning({ id: outbox.id });
	return rows.length > 0;
}
