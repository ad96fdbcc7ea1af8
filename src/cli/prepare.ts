import { existsSync } from "node:fs";
import { sql } from "drizzle-orm";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import { parseDay } from "../core/time/day";
import { makeZone } from "../core/time/zone";
import { connection } from "../data/db";
import { people } from "../data/schema";
import { beginPath } from "../features/begin/server/firstStart";
import { ownWrite } from "../platform/command";
import { DEMO_PASSWORD, loadDemo } from "./demoCompany";

// Brings the database to the present tables, and loads the demo company into an empty one.
const args = process.argv.slice(2);
const { db, close } = connection();
const demoWanted = process.env.PORCH_LAMP_DEMO !== "off";

if (args.includes("--greet")) {
	await greet();
} else {
	if (!existsSync("src/data/migrations")) throw new Error("run this from the project’s folder");
	await migrate(db, { migrationsFolder: "src/data/migrations" });
	if (!args.includes("--migrate-only") && demoWanted && (await isEmpty())) {
		const today = process.env.PORCH_LAMP_TODAY ? parseDay(process.env.PORCH_LAMP_TODAY) : makeZone("Europe/Berlin").dayOf(Date.now());
		if (today === null) throw new Error(`PORCH_LAMP_TODAY is ${process.env.PORCH_LAMP_TODAY}; it must be a day such as 2026-11-24`);
		await loadDemo(today, (words) => process.stdout.write(`  ${words}\n`));
	}
}
await close();

async function isEmpty(): Promise<boolean> {
	const [row] = await db.select({ count: sql<number>`count(*)::int` }).from(people);
	return row?.count === 0;
}

async function greet(): Promise<void> {
	const rows = await db.select().from(people);
	const demo = rows.some((person) => person.email?.endsWith("@emberwick.example"));
	if (demo) {
		const show = ["ruth", "ines", "helena", "arno", "mirela"].flatMap((id) => rows.filter((person) => person.id === id));
		const what: Record<string, string> = {
			ruth: "manager of the North team",
			ines: "rep, North",
			helena: "manager of all teams",
			arno: "ops",
			mirela: "viewer",
		};
		process.stdout.write(`  Sign in to the demo company with the password  ${DEMO_PASSWORD}\n`);
		for (const person of show) process.stdout.write(`    ${person.email?.padEnd(28)} ${person.name}, ${what[person.id]}\n`);
	} else if (!rows.length) {
		const path = await ownWrite(async (tx) => ({
			result: await beginPath(tx),
			touched: "settings",
			audit: { action: "first start prepared", detail: { waits: "for the first person" } },
		}));
		const folder = process.env.PORCH_LAMP_DATA ? `PORCH_LAMP_DATA=${process.env.PORCH_LAMP_DATA} ` : "";
		process.stdout.write(`  Nobody can sign in yet. Begin at  ${process.env.PORCH_LAMP_ADDRESS ?? ""}${path}\n`);
		process.stdout.write(`  or make the first person with:  ${folder}npm run person -- you@company.example\n`);
	}
}
