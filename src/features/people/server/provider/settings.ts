import { and, eq, isNotNull } from "drizzle-orm";
import { z } from "zod";
import { connection, type Sql } from "@/data/db";
import { ROLES } from "@/data/organisation/state";
import { people, signInProvider } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { insideAllowed, namesInside } from "@/platform/http/outside";
import { seal } from "@/platform/sealedText";

export type Provider = typeof signInProvider.$inferSelect;

/** The company’s sign-in where it is set up, switched on or not. */
export async function providerSet(db: Sql = connection().db): Promise<Provider | null> {
	const [row] = await db.select().from(signInProvider);
	return row ?? null;
}

/** The same where it is switched on. */
export async function providerOn(): Promise<Provider | null> {
	const set = await providerSet();
	return set?.on ? set : null;
}

/** Whether all may sign in with their passwords, and whether somebody may: but for the emergency person it can be switched off. */
export async function passwordsFor(personId: string | null): Promise<{ readonly all: boolean; readonly may: boolean }> {
	const set = await providerOn();
	const all = !set || set.passwords;
	return { all, may: all || (personId !== null && personId === set.emergencyId) };
}

/** What Setup shows of it; the secret never leaves. */
export const readProvider = query("people.provider", "manageSignIn", async (_: Context) => {
	const set = await providerSet();
	const withPassword = await connection()
		.db.select({ id: people.id, name: people.name })
		.from(people)
		.where(and(eq(people.role, "ops"), isNotNull(people.passwordHash)));
	if (!set) return { set: null, withPassword };
	const { clientSecret, id: _id, setById: _by, ...shown } = set;
	return { set: { ...shown, hasSecret: clientSecret !== null }, withPassword };
});
export type ProviderView = Awaited<ReturnType<typeof readProvider>>;

const groupSchema = z.object({
	group: z.string().trim().min(1, "Name the group.").max(300),
	role: z.enum(ROLES),
	team: z.string().max(100).nullable(),
});
export const providerInput = z.object({
	on: z.boolean(),
	name: z.string().trim().min(1, "Name it as people call it.").max(60),
	issuer: z.url("Enter the issuer’s address.").max(1000),
	clientId: z.string().trim().min(1, "Enter the client id.").max(300),
	/** what is left out stays; null: none */
	clientSecret: z.string().max(1000).nullable().optional(),
	claim: z.string().trim().min(1, "Name the claim that holds groups.").max(200),
	groups: z.array(groupSchema).max(200),
	passwords: z.boolean(),
	emergencyId: z.string().nullable(),
});

/** Sets the company’s sign-in up, or changes it. */
export const saveProvider = command({
	name: "people.saveProvider",
	right: "manageSignIn",
	input: providerInput,
	async run({ context, input: { clientSecret, ...wish }, tx }) {
		if (context.actor.key) throw new Fault(403, "Not allowed", "A key can’t change how people sign in.");
		const issuer = new URL(wish.issuer);
		if (namesInside(issuer) && !insideAllowed(issuer))
			throw new Fault(422, "Inside our own network", "To sign in by an address inside, start the program with PORCH_LAMP_HOOKS_INSIDE=on.");
		if (issuer.protocol !== "https:" && !namesInside(issuer)) throw new Fault(422, "Not over HTTPS", "The issuer’s address has to start with https://.");
		for (const { team } of wish.groups)
			if (team !== null && !context.organisation.teams.has(team)) throw new Fault(422, "No such team", `There is no team ${team}; make it first.`);
		await demandWayIn(tx, wish);
		const before = await providerSet(tx);
		// Another issuer is another directory: who was known there isn’t known here.
		if (before && before.issuer !== wish.issuer) await tx.update(people).set({ subject: null });
		const secret = clientSecret === undefined ? {} : { clientSecret: clientSecret === null ? null : seal(clientSecret) };
		await tx
			.insert(signInProvider)
			.values({ ...wish, ...secret, setById: context.actor.person.id })
			.onConflictDoUpdate({ target: signInProvider.id, set: { ...wish, ...secret, setById: context.actor.person.id } });
		const said = (one: Pick<Provider, "on" | "issuer" | "clientId" | "claim" | "groups" | "passwords">) => ({
			on: one.on,
			issuer: one.issuer,
			clientId: one.clientId,
			claim: one.claim,
			groups: one.groups,
			passwords: one.passwords,
		});
		return {
			result: {},
			touched: "nothing",
			audit: { action: "company sign-in changed", detail: { ...(before ? { before: said(before) } : {}), after: said(wish) } },
		};
	},
});

/** Without passwords somebody of ops has one all the same, and somebody of ops has come in the other way already. */
async function demandWayIn(tx: Sql, { on, passwords, emergencyId }: z.output<typeof providerInput>): Promise<void> {
	if (!on || passwords) return;
	const ops = await tx.select().from(people).where(eq(people.role, "ops"));
	if (!ops.some(({ id, passwordHash }) => id === emergencyId && passwordHash))
		throw new Fault(422, "Choose the emergency person", "Choose somebody of ops with a password, who can sign in when the company’s sign-in is down.");
	if (!ops.some(({ subject }) => subject !== null))
		throw new Fault(422, "Try it first", "Sign in by it once as somebody of ops, before passwords are turned off.");
}
