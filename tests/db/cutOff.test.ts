import { spawn } from "node:child_process";
import { mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { eq, sql } from "drizzle-orm";
import { build } from "esbuild";
import { afterAll, beforeAll, expect, test } from "vitest";
import { connection } from "@/data/db";
import { outbox } from "@/data/schema";
import { storeMail } from "@/fakes/mailbox/store";
import { freshDatabase } from "../kit/database";
import { mailServer } from "../kit/smtp";

let database: Awaited<ReturnType<typeof freshDatabase>>;
/** Within the project, so that packages are found from there. */
const folder = resolve("node_modules", ".cache", `porch-lamp-cut-off-${process.pid}`);
beforeAll(async () => {
	database = await freshDatabase("cutoff");
	await build({
		entryPoints: ["tests/kit/sender.ts"],
		outfile: join(folder, "sender.mjs"),
		bundle: true,
		platform: "node",
		format: "esm",
		packages: "external",
		alias: { "@": resolve("src") },
		logLevel: "silent",
	});
});
afterAll(async () => {
	await database.drop();
	rmSync(folder, { recursive: true, force: true });
});

/** Eight here, since each start takes seconds; many more by `CUTS`. */
const CUTS = Number(process.env.CUTS ?? 8);
/** Enough that some are left at every cut. */
const MAILS = Math.ceil(CUTS * 3.5);

test("killing the sender and cutting its database off in the midst of sending, again and again, loses and doubles nothing", async () => {
	const { db, pool } = connection();
	const box = mkdtempSync(join(tmpdir(), "porch-lamp-box-"));
	const server = await mailServer({ keep: (raw) => storeMail(box, raw) });
	await db.insert(outbox).values(
		Array.from({ length: MAILS }, (_, i) => ({
			id: `mail-${String(i).padStart(4, "0")}`,
			key: `cut off ${i}`,
			address: `p${i}@firm.example`,
			subject: `Mail ${i}`,
			text: "t",
			html: "<p>t</p>",
			createdAt: new Date(),
		})),
	);
	const start = () =>
		spawn(process.execPath, [join(folder, "sender.mjs")], {
			cwd: process.cwd(),
			stdio: "ignore",
			env: {
				...process.env,
				NODE_PATH: resolve("node_modules"),
				DATABASE_URL: database.url,
				PORCH_LAMP_SMTP: server.url,
				PORCH_LAMP_POOL: "2",
				LOG_LEVEL: "silent",
			},
		});
	const left = () => db.$count(outbox, eq(outbox.state, "waiting"));
	let child = start();
	let cuts = 0;
	for (let sent = 0; cuts < CUTS; cuts++) {
		// Some are sent in between each time, so that it is cut off at work.
		for (const end = Date.now() + 10_000; MAILS - (await left()) <= sent && Date.now() < end; ) await new Promise((go) => setTimeout(go, 5));
		sent = MAILS - (await left());
		if (cuts % 2)
			await pool.query(
				"select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid() and query ilike '%outbox%'",
			);
		else {
			child.kill("SIGKILL");
			child = start();
		}
	}
	expect(await left()).toBeGreaterThan(0);
	await db.update(outbox).set({ nextAt: sql`now()` }).where(eq(outbox.state, "waiting"));
	for (const end = Date.now() + 60_000; (await left()) > 0 && Date.now() < end; ) await new Promise((go) => setTimeout(go, 50));
	child.kill("SIGKILL");
	expect(await left()).toBe(0);
	expect(new Set(server.came.map(({ messageId }) => messageId)).size).toBe(MAILS);
	expect(readdirSync(box).filter((name) => name.endsWith(".eml"))).toHaveLength(MAILS);
	await server.stop();
	rmSync(box, { recursive: true, force: true });
});
