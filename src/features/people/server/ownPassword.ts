import { verify } from "@node-rs/argon2";
import { eq } from "drizzle-orm";
import type { Sql } from "@/data/db";
import { people } from "@/data/schema";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { demandLimit, forgetTries } from "@/platform/limit";

/** A key acts for somebody, and isn't them: how they sign in is theirs alone. */
export function demandSelf({ actor }: Context): void {
	if (actor.key) throw new Fault(403, "Not allowed", "A key can’t change how its person signs in.");
}

/** Who changes how they sign in says their password first: a screen that was left open isn’t them. */
export async function demandPassword(db: Sql, personId: string, password: string): Promise<typeof people.$inferSelect> {
	await demandLimit("own password", personId);
	const [person] = await db.select().from(people).where(eq(people.id, personId)).for("update");
	if (!person?.passwordHash || !(await verify(person.passwordHash, password)))
		throw new Fault(403, "Wrong password", "This isn’t your current password; nothing was changed.");
	await forgetTries("own password", personId);
	return person;
}
