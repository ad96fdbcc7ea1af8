import { lstat, mkdir, readdir, readFile, rename, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { and, eq, isNull } from "drizzle-orm";
import { config } from "@/config/config";
import { connection } from "@/data/db";
import { dataFeeds } from "@/data/schema";
import { MOST_PACKED, megabytes } from "@/formats/bundle/limits";
import { log } from "@/platform/log";
import { deliver, type Feed } from "./deliver";
import { folderName } from "./folderName";
import { reportOf } from "./report";

/** A file that hasn’t grown for so long, ms, is there whole. */
const STILL = 20_000;

/** Imports what lies in the folders of feeds; each file is moved to `done`, `waiting` or `refused`, with its report beside it. */
export async function watchFolders(now = Date.now()): Promise<string[]> {
	const { PORCH_LAMP_INBOX: inbox } = config();
	if (!inbox) return [];
	const feeds = await connection()
		.db.select()
		.from(dataFeeds)
		.where(and(isNull(dataFeeds.endedAt), eq(dataFeeds.on, true)));
	const done: string[] = [];
	for (const feed of feeds) {
		const folder = join(inbox, folderName(feed.name));
		try {
			await mkdir(folder, { recursive: true });
			for (const name of (await readdir(folder)).sort()) if (await takeFrom(folder, name, feed, now)) done.push(`${name} of ${feed.name}`);
		} catch (error) {
			// One folder that can’t be read or written doesn’t keep the others waiting.
			log.error({ error: String(error), feed: feed.id }, "the folder of a feed can’t be used");
		}
	}
	return done;
}

async function takeFrom(folder: string, name: string, feed: Feed, now: number): Promise<boolean> {
	const path = join(folder, name);
	const found = await lstat(path).catch(() => null);
	// A link may lead anywhere; what begins with a point is being written by somebody.
	if (!found?.isFile() || name.startsWith(".") || now - found.mtimeMs < STILL) return false;
	if (found.size > MOST_PACKED) {
		await putAway(folder, name, "refused", `${name} has ${megabytes(found.size)}; at most ${megabytes(MOST_PACKED)} are allowed.`);
		return true;
	}
	const bytes = new Uint8Array(await readFile(path));
	// It grew again while it was read: it is taken when it has stopped.
	if ((await lstat(path)).mtimeMs !== found.mtimeMs) return false;
	const run = await deliver(feed, { way: "folder", name, bytes, sender: null });
	const to = run.state === "imported" || run.state === "known" ? "done" : run.state === "waits" ? "waiting" : "refused";
	await putAway(folder, name, to, reportOf(feed, run));
	return true;
}

/** Moves a file aside under its name and the time, so that none takes another’s place. */
async function putAway(folder: string, name: string, to: string, report: string): Promise<void> {
	await mkdir(join(folder, to), { recursive: true });
	const stamp = new Date().toISOString().replaceAll(":", "-").slice(0, 19);
	const there = new Set(await readdir(join(folder, to)));
	const free = [`${stamp} ${name}`, ...Array.from({ length: 1000 }, (_, i) => `${stamp}-${i + 2} ${name}`)].find((one) => !there.has(one));
	const target = join(folder, to, free ?? `${stamp}-${Date.now()} ${name}`);
	await rename(join(folder, name), target);
	await writeFile(`${target}.report.txt`, `${report}\n`);
}
