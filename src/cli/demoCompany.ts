import { isNull } from "drizzle-orm";
import { runImport } from "@/features/import/server/importBundle";
import { hashPassword } from "@/features/people/server/signIn";
import { newId } from "@/platform/ids";
import type { Day } from "../core/time/day";
import { connection } from "../data/db";
import { imports, people } from "../data/schema";
import { generate } from "../standins/emberwick/generate";

/** The password of everybody in the demo company. */
export const DEMO_PASSWORD = "porch-light";

/** Loads Emberwick Ovens by the ordinary import, and lets its people sign in. */
export async function loadDemo(today: Day, say: (words: string) => void): Promise<void> {
	const { db } = connection();
	say("Making the demo company");
	const files = generate({ today });
	const id = newId("import");
	await db.insert(imports).values({ id, name: "Emberwick Ovens (demo)", state: "reading" });
	say("Importing it");
	const report = await runImport(id, files, { dryRun: false, skipBad: false, name: "Emberwick Ovens (demo)" });
	if (report.state !== "done") throw new Error(`the demo company was refused: ${JSON.stringify(report.problems.slice(0, 3))}`);
	await db
		.update(people)
		.set({ passwordHash: await hashPassword(DEMO_PASSWORD) })
		.where(isNull(people.passwordHash));
	const rows = Object.values(report.counts).reduce((sum, count) => sum + count, 0);
	say(`${rows} rows are in`);
}
