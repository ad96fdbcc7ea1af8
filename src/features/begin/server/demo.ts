import { and, eq, inArray, isNull, notInArray, sql } from "drizzle-orm";
import { z } from "zod";
import { type Day, formatDay } from "@/core/time/day";
import { connection, type Tx } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { audit, deals, imports, organisationSettings, passwordLinks, people } from "@/data/schema";
import { blankCompany, clearData } from "@/data/store/clear";
import { generate } from "@/fakes/emberwick/generate";
import { runImport } from "@/features/import";
import { DEMO_PASSWORD, demoPeople, hashPassword } from "@/features/people";
import { instantNow } from "@/platform/clock";
import { command } from "@/platform/command";
import { Fault } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { inThread } from "@/platform/threads";
import { systemWrite } from "@/platform/write";
import { writeDemoRounds } from "./demoRounds";
import { writeDemoTasks } from "./demoTasks";

const NAME = "Emberwick Ovens (demo)";

/** Loads Emberwick Ovens by the ordinary import under an id, lets its people sign in where nobody else is here, and remembers what came with it. @throws Error where it is refused */
export async function loadDemo({ id, today }: { readonly id: string; readonly today: Day }): Promise<Readonly<Record<string, number>>> {
	const { db } = connection();
	const [before = null] = await db.select().from(organisationSettings);
	const own = (await db.select({ id: people.id }).from(people)).map((person) => person.id);
	const report = await runImport(id, generate({ today }), { dryRun: false, skipBad: false, name: NAME, forGood: true });
	if (report.state !== "done") throw new Error(`the demo company was refused: ${JSON.stringify(report.problems.slice(0, 3))}`);
	const passwordHash = await hashPassword(DEMO_PASSWORD);
	await systemWrite(async (tx) => {
		const fresh = own.length ? notInArray(people.id, own) : sql`true`;
		const demo = await tx.select({ id: people.id }).from(people).where(fresh);
		// Its password is printed: beside people of one's own it would let anybody in.
		if (!own.length) await tx.update(people).set({ passwordHash }).where(isNull(people.passwordHash));
		const organisation = await currentOrganisation(connection().db);
		await writeDemoRounds(tx, organisation, today);
		await writeDemoTasks(tx, organisation, today);
		await tx.update(organisationSettings).set({ name: "Emberwick Ovens", demo: { people: demo.map((person) => person.id), before } });
		return {
			result: null,
			touched: "everything",
			audit: { action: "demo company imported", subject: id, detail: { people: demo.length, day: formatDay(today) } },
		};
	});
	return report.counts;
}

/** Registers the demo company's import, for a first start or beside a company that has no deals yet. */
export async function registerDemo(tx: Tx, byId: string | null): Promise<string> {
	const id = newId("import");
	await tx.insert(imports).values({ id, byId, name: NAME, state: "reading", step: "demo", startedAt: new Date(await instantNow(tx)) });
	return id;
}

/** Brings the demo company in, to look at; it is made and read in a thread of its own, and followed as an import. */
export const bringDemo = command({
	name: "begin.bringDemo",
	right: "importBundle",
	input: z.object({}),
	async run({ context, tx }) {
		const [some] = await tx.select({ id: deals.id }).from(deals).limit(1);
		if (some) throw new Fault(422, "Deals already exist", "The demo company can only be loaded while there are no deals; this company has some.");
		const id = await registerDemo(tx, context.actor.person.id);
		const today = context.now.day;
		// It begins once this is committed: the thread waits for the row that tells of it.
		setTimeout(() => void inThread("loadDemo", { id, today }).catch(() => undefined), 300);
		return { result: { id }, touched: "nothing", audit: { action: "demo company requested", subject: id, detail: { day: formatDay(today) } } };
	},
});

/** Takes the demo company away within a transaction: its data, its people with all that they made, and its settings. Own people stay. */
export async function clearDemo(tx: Tx): Promise<void> {
	const [row] = await tx.select().from(organisationSettings);
	if (!row?.demo) throw new Fault(422, "No demo company", "The demo company isn’t loaded, so there is nothing to delete. Your own data can’t be deleted here.");
	const gone = [...(await demoPeople(tx))];
	const links = await tx
		.select({ id: audit.subject })
		.from(audit)
		.where(and(eq(audit.action, "password link created"), inArray(audit.personId, gone)));
	const linked = links.flatMap(({ id }) => id ?? []);
	if (linked.length) await tx.delete(passwordLinks).where(inArray(passwordLinks.personId, linked));
	// Whom a file of theirs brought can't be told by who made them: where the demo was first, nobody else brought files.
	if (row.demo.before === null) {
		const made = await tx.select({ id: audit.subject }).from(audit).where(eq(audit.action, "person created"));
		const known = [...gone, ...made.flatMap(({ id }) => id ?? [])];
		const brought = await tx
			.select({ id: people.id })
			.from(people)
			.where(and(isNull(people.passwordHash), notInArray(people.id, known)));
		gone.push(...brought.map(({ id }) => id));
	}
	await clearData(tx, gone);
	await tx.update(organisationSettings).set(row.demo.before ? asStored(row.demo.before) : blankCompany());
}

/** The company's row as it was kept beside the demo. */
const asStored = ({ id: _, ...before }: Record<string, unknown>) => ({ ...blankCompany(), ...before, demo: null });

/** One press: the demo company is gone, with whatever was tried on it. Somebody of ops of one's own has to be there. */
export const removeDemo = command({
	name: "begin.removeDemo",
	right: "changeRules",
	input: z.object({}),
	alone: true,
	async run({ context, tx }) {
		const [row] = await tx.select().from(organisationSettings);
		if (row?.demo && (await demoPeople(tx)).has(context.actor.person.id))
			throw new Fault(
				422,
				"You belong to the demo",
				"You are signed in as a person of the demo company, who would be deleted with it. Set up your own company instead; that creates your account first.",
			);
		const people = (await demoPeople(tx)).size;
		await clearDemo(tx);
		return { result: {}, touched: "everything", audit: { action: "demo company deleted", detail: { people } } };
	},
});
