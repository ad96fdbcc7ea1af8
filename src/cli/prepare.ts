import { existsSync } from "node:fs";
import { sql } from "drizzle-orm";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import { config, configLines, faultWords, readConfig } from "../config/config";
import { parseDay } from "../core/time/day";
import { makeZone } from "../core/time/zone";
import { connection } from "../data/db";
import { people } from "../data/schema";
import { beginPath } from "../features/begin/server/firstStart";
import { makeViews } from "../features/tables/server/makeViews";
import { systemWrite } from "../platform/write";
import { DEMO_PASSWORD, loadDemo } from "./demoCompany";

// Brings the database to the present tables, and loads the demo company into an empty one.
const args = process.argv.slice(2);
sayConfig();
const { db, close } = connection();
const demoWanted = config().PORCH_LAMP_DEMO !== "off";

if (args.includes("--greet")) {
	await greet();
} else {
	if (!existsSync("src/data/migrations")) throw new Error("run this from the project’s folder");
	await migrate(db, { migrationsFolder: "src/data/migrations" });
	await makeViews(db);
	if (!args.includes("--migrate-only") && demoWanted && (await isEmpty())) {
		const today = parseDay(config().PORCH_LAMP_TODAY ?? "") ?? makeZone("Europe/Berlin").dayOf(Date.now());
		await loadDemo(today, (words) => process.stdout.write(`  ${words}\n`));
	}
}
await close();

/** Says what the environment sets, and stops where something in it can’t be used. */
function sayConfig(): void {
	const read = readConfig(process.env);
	if ("faults" in read) {
		for (const fault of read.faults) process.stderr.write(`  ${faultWords(fault)}\n`);
		process.exit(1);
	}
	if (args.includes("--greet")) return;
	const { set, unknown } = configLines(process.env);
	const told = set.filter((line) => !line.startsWith("DATABASE_URL="));
	if (told.length) process.stdout.write(`  Set by the environment: ${told.join(", ")}\n`);
	for (const name of unknown) process.stdout.write(`  ${name} is set, but nothing reads it: check its spelling.\n`);
}

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
		const path = await systemWrite(async (tx) => ({
			result: await beginPath(tx),
			touched: "settings",
			audit: { action: "first start prepared", detail: { waits: "for the first person" } },
		}));
		const { PORCH_LAMP_DATA: data, PORCH_LAMP_ADDRESS: address = "" } = config();
		const folder = data ? `PORCH_LAMP_DATA=${data} ` : "";
		process.stdout.write(`  Nobody can sign in yet. Set up the program at  ${address}${path}\n`);
		process.stdout.write(`  or make the first person with:  ${folder}npm run person -- you@company.example\n`);
	}
}
