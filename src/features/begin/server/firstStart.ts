import { randomBytes } from "node:crypto";
import { count, eq } from "drizzle-orm";
import { z } from "zod";
import { connection, type Tx } from "@/data/db";
import { ROLES } from "@/data/organisation/state";
import { apiKeys, holidays, organisationSettings, passwordLinks, people, sessions, teams } from "@/data/schema";
import { hashPassword, passwordFault, passwordInput, storePasswordLink } from "@/features/people";
import { companySchema } from "@/features/setup";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { demand } from "@/platform/rights";
import { tokenHash } from "@/platform/sessions";
import { systemWrite } from "@/platform/write";
import { clearDemo } from "./demo";

const person = z.object({
	name: z.string().trim().min(1, "Enter a name.").max(200, "A name has at most 200 letters."),
	email: z.email("This isn’t an e-mail address.").max(320),
});

export const beginSchema = z.object({
	/** of the address that the start printed; not needed by ops of the demo company */
	code: z.string().max(200),
	company: companySchema.omit({ holidays: true }).extend({ name: z.string().trim().min(1, "Enter the company’s name.").max(200) }),
	holidays: companySchema.shape.holidays,
	first: person.extend({ password: passwordInput }),
	others: z.array(person.extend({ role: z.enum(ROLES), team: z.string().trim().max(100).nullable() })).max(200),
});
export type Beginning = z.input<typeof beginSchema>;

/** By which way somebody may begin: with a printed code while nobody is here, from the demo company as its ops, or not at all. */
export async function wayToBegin(context: Context | null): Promise<"code" | "demo" | null> {
	const { db } = connection();
	const [row] = await db.select({ n: count() }).from(people);
	if (!row?.n) return "code";
	const [settings] = await db.select({ demo: organisationSettings.demo }).from(organisationSettings);
	return settings?.demo && context?.actor.person.role === "ops" && !context.actor.key ? "demo" : null;
}

/** Makes the code by which the first person is made, while there is nobody; answers the path that carries it. */
export async function beginPath(tx: Pick<Tx, "insert">): Promise<string> {
	const code = randomBytes(15).toString("base64url");
	const beginHash = tokenHash(code);
	await tx.insert(organisationSettings).values({ id: 1, beginHash }).onConflictDoUpdate({ target: organisationSettings.id, set: { beginHash } });
	return `/begin#${code}`;
}

/** Who has to be told what when a company has begun. */
export interface HasBegun {
	/** by which others set their passwords */
	readonly links: readonly { readonly name: string; readonly path: string }[];
	/** the names of everybody with the rights of ops */
	readonly ops: readonly string[];
}

/**
 * Begins: says what the company is, makes its first person (of ops) and others with a link each to set their password. Where
 * the demo company was in, it goes away in the same transaction. Every session, key and link made before ends.
 *
 * @throws Fault 403, 409 or 422
 */
export async function begin(context: Context | null, given: Beginning): Promise<HasBegun> {
	const { code, company, holidays: days, first, others } = beginSchema.parse(given);
	const way = await wayToBegin(context);
	if (way === null) throw new Fault(409, "Already set up", "This installation is already set up. Sign in, and change the company in Setup.");
	if (way === "demo" && context) demand(context.actor, "changeRules");
	const fault = passwordFault(first.password, [first.name, first.email, company.name]);
	if (fault) throw new Fault(422, "Choose another password", fault);
	const all = [first, ...others].map(({ email }) => email.toLowerCase());
	const twice = all.find((email, i) => all.indexOf(email) < i);
	if (twice) throw new Fault(422, "Named twice", `${twice} is entered twice; each person needs their own address.`);
	const passwordHash = await hashPassword(first.password);
	return systemWrite(
		async (tx) => {
			if (way === "demo") await clearDemo(tx);
			else await demandCode(tx, code);
			for (const opened of [sessions, apiKeys, passwordLinks]) await tx.delete(opened);
			await tx
				.insert(organisationSettings)
				.values({ id: 1, ...company })
				.onConflictDoUpdate({ target: organisationSettings.id, set: { ...company, beginHash: null } });
			if (days.length) await tx.insert(holidays).values(days.map(({ date, name }) => ({ date, name: name || null })));
			const named = [...new Set(others.flatMap(({ team }) => team || []))];
			if (named.length)
				await tx
					.insert(teams)
					.values(named.map((name) => ({ name, parent: null })))
					.onConflictDoNothing();
			const id = newId();
			await tx.insert(people).values({ id, name: first.name, email: first.email, role: "ops", passwordHash });
			const links = [];
			for (const other of others) {
				const otherId = newId();
				await tx.insert(people).values({ id: otherId, name: other.name, email: other.email, role: other.role, team: other.team || null });
				links.push({ name: other.name, path: await storePasswordLink(tx, otherId) });
			}
			const ops = await tx.select({ name: people.name }).from(people).where(eq(people.role, "ops")).orderBy(people.name);
			return {
				result: { links, ops: ops.map(({ name }) => name) },
				touched: "everything",
				audit: { action: "company set up", subject: id, detail: { name: company.name, people: all.length } },
			};
		},
		null,
		"alone",
	);
}

async function demandCode(tx: Tx, code: string): Promise<void> {
	const [row] = await tx.select({ beginHash: organisationSettings.beginHash }).from(organisationSettings).where(eq(organisationSettings.id, 1)).for("update");
	const [somebody] = await tx.select({ id: people.id }).from(people).limit(1);
	if (somebody) throw new Fault(409, "Already set up", "Someone has just set up this installation. Sign in with the address and password entered then.");
	if (!row?.beginHash || row.beginHash !== tokenHash(code))
		throw new Fault(
			403,
			"Not the printed address",
			"Open the address that was printed when the program was started: it carries a code, which this page needs.",
		);
}
