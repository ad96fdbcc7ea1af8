import { randomBytes } from "node:crypto";
import { parseArgs } from "node:util";
import { eq, inArray, sql } from "drizzle-orm";
import { z } from "zod";
import { config } from "@/config/config";
import { ROLES } from "@/data/organisation/state";
import { besideOwn, demoPeople } from "@/features/people/server/demoPeople";
import { hashPassword, passwordFault } from "@/features/people/server/passwords";
import { systemWrite } from "@/platform/write";
import { connection } from "../data/db";
import { apiKeys, organisationSettings, passkeys, passwordLinks, people, sessions, teams } from "../data/schema";

// npm run person -- EMAIL [--name N] [--role ops] [--team T]: makes a person, or gives one a new password, and prints it.
const { values, positionals } = parseArgs({
	allowPositionals: true,
	options: { name: { type: "string" }, role: { type: "string", default: "ops" }, team: { type: "string" } },
});
const input = z
	.object({ email: z.email("that isn’t an e-mail address"), role: z.enum(ROLES), name: z.string().optional(), team: z.string().optional() })
	.safeParse({ email: positionals[0] ?? "", ...values });
const { close } = connection();
if (!input.success) {
	process.stderr.write(
		`npm run person -- EMAIL [--name NAME] [--role manager|rep|ops|viewer] [--team TEAM]\n${input.error.issues.map((issue) => `${issue.path.join(".")}: ${issue.message}`).join("\n")}\n`,
	);
	process.exitCode = 2;
} else {
	const { email, role, name, team } = input.data;
	const password = config().PORCH_LAMP_PASSWORD ?? randomBytes(9).toString("base64url");
	const fault = passwordFault(password, [name ?? null, email]);
	if (fault) throw new Error(fault);
	const passwordHash = await hashPassword(password);
	const known = await systemWrite(async (tx) => {
		const [person] = await tx
			.select()
			.from(people)
			.where(eq(sql`lower(${people.email})`, email.toLowerCase()));
		if (person) {
			// A new password ends what was opened with the old one, and lets in whoever has lost their authenticator.
			await tx.update(people).set({ passwordHash, codeSecret: null, lastCode: null }).where(eq(people.id, person.id));
			await tx.delete(passkeys).where(eq(passkeys.personId, person.id));
			await tx.delete(sessions).where(eq(sessions.personId, person.id));
		} else {
			if (team) await tx.insert(teams).values({ name: team, parent: null }).onConflictDoNothing();
			await tx.insert(organisationSettings).values({ id: 1 }).onConflictDoNothing();
			await tx.insert(people).values({ id: email.toLowerCase(), name: name ?? email.split("@")[0] ?? email, email, role, team: team ?? null, passwordHash });
		}
		// The demo's people, whose password is printed, don't stay signed in beside somebody of one's own.
		const demo = [...(await demoPeople(tx))];
		if (demo.length && (await besideOwn(tx, new Set(demo))))
			for (const opened of [sessions, apiKeys, passwordLinks]) await tx.delete(opened).where(inArray(opened.personId, demo));
		const action = person ? "password reset on the command line" : "person made on the command line";
		return { result: Boolean(person), touched: "settings", audit: { action, subject: email.toLowerCase(), detail: { role } } };
	});
	process.stdout.write(`${known ? "A new password for" : "Created"} ${email}: ${password}\n`);
}
await close();
