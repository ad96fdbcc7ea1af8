import { randomBytes } from "node:crypto";
import { and, eq, gt, lt } from "drizzle-orm";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { connection, type Tx } from "@/data/db";
import { passkeys, passwordLinks, people, sessions } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { tokenHash } from "@/platform/sessions";
import { systemWrite } from "@/platform/write";
import { staysOut } from "./demoPeople";
import { hashPassword, passwordFault, passwordInput } from "./passwords";

const DAYS = 7;
const MS_PER_DAY = 86_400_000;

/**
 * Makes a link by which a person sets their password, once, within a week; it goes to them by whatever way is trusted. The
 * password they have stays until then, and links made before end.
 */
export const makePasswordLink = command({
	name: "people.passwordLink",
	right: "managePeople",
	input: z.object({ id: z.string() }),
	secret: true,
	async run({ context, input: { id }, tx }) {
		if (context.actor.key) throw new Fault(403, "Not allowed", "A key can’t set passwords.");
		const person = context.organisation.people[context.organisation.personIndex.get(id) ?? -1];
		if (!person) throw notFound("person", id);
		if (!person.email) throw new Fault(422, "No address", `${person.name} has no e-mail address to sign in with; add one first.`);
		if (!worksOn(person, context.now.day)) throw new Fault(422, "Not with the company", `${person.name} isn’t with the company today, so they can’t sign in.`);
		if (await staysOut(tx, id)) throw new Fault(422, "Demo company", `${person.name} belongs to the demo company, whose people can’t sign in beside your own.`);
		const path = await storePasswordLink(tx, id);
		return { result: { path, days: DAYS }, touched: "nothing", audit: { action: "password link created", subject: id, detail: { validDays: DAYS } } };
	},
});

/** Makes the link in place of those made before; answers its path, which is kept nowhere. */
export async function storePasswordLink(tx: Tx, personId: string): Promise<string> {
	const token = randomBytes(24).toString("base64url");
	await tx.delete(passwordLinks).where(eq(passwordLinks.personId, personId));
	await tx.insert(passwordLinks).values({ tokenHash: tokenHash(token), personId, expiresAt: new Date(Date.now() + DAYS * MS_PER_DAY) });
	return `/set-password#${token}`;
}

const linkOver = () => new Fault(422, "This link has expired", "This link was used already, or is older than a week. Ask the sender for a new one.");

export const setPasswordSchema = z.object({ token: z.string().min(1).max(200), password: passwordInput });

/** Sets the password that a link stands for, and ends the link and whatever was opened with the old password. @throws Fault 422 */
export async function setPasswordByLink({ token, password }: z.infer<typeof setPasswordSchema>): Promise<void> {
	// A token that nobody has costs nothing but this look.
	const [known] = await connection()
		.db.select({ at: passwordLinks.expiresAt })
		.from(passwordLinks)
		.where(eq(passwordLinks.tokenHash, tokenHash(token)));
	if (!known) throw linkOver();
	const passwordHash = await hashPassword(password);
	await systemWrite(async (tx) => {
		await tx.delete(passwordLinks).where(lt(passwordLinks.expiresAt, new Date()));
		const [link] = await tx
			.delete(passwordLinks)
			.where(and(eq(passwordLinks.tokenHash, tokenHash(token)), gt(passwordLinks.expiresAt, new Date())))
			.returning({ personId: passwordLinks.personId });
		const [person] = link ? await tx.select().from(people).where(eq(people.id, link.personId)) : [];
		if (!person) throw linkOver();
		const fault = passwordFault(password, [person.name, person.email]);
		if (fault) throw new Fault(422, "Choose another password", fault);
		// Who lost their authenticator comes in again this way; a device that was lost opens nothing.
		await tx.update(people).set({ passwordHash, codeSecret: null, lastCode: null }).where(eq(people.id, person.id));
		await tx.delete(passkeys).where(eq(passkeys.personId, person.id));
		const ended = await tx.delete(sessions).where(eq(sessions.personId, person.id)).returning({ id: sessions.id });
		return { result: null, touched: "nothing", audit: { action: "password set by a link", subject: person.id, detail: { sessionsEnded: ended.length } } };
	});
}
