import { connection, directUrl } from "@/data/db";
import { onSaid } from "@/data/live";
import { currentOrganisation } from "@/data/organisation/follow";
import { pruneChangeLog } from "@/data/store/changeLog";
import { CAPABILITIES } from "@/features/registry";
import type { Capability, NightlyWork, OftenWork } from "@/platform/capability";
import { startJobs as startQueue } from "@/platform/jobs";
import { log } from "@/platform/log";

/** What capabilities do at night, and what the house does for itself. */
const NIGHTLY: readonly NightlyWork[] = [
	...(CAPABILITIES as readonly Capability[]).flatMap(({ nightly }) => nightly),
	{ name: "prune-change-log", run: async () => ((await pruneChangeLog(connection().db)) ? ["change log pruned"] : []) },
];

const OFTEN: readonly OftenWork[] = (CAPABILITIES as readonly Capability[]).flatMap(({ often }) => often);
/** Writes that come one after the other are looked at together. */
const AFTER_WRITES = 400;

/** Starts what this process does by itself. A database that isn't there yet is tried again; the program works without it. */
export async function startJobs(): Promise<void> {
	const url = directUrl();
	if (!url) return;
	try {
		const organisation = await currentOrganisation(connection().db);
		const logged = (often: boolean, { name, run, ...more }: NightlyWork | OftenWork) => ({
			name,
			often,
			soon: "afterWrites" in more && more.afterWrites,
			work: async () => {
				const done = await run();
				if (done.length) log.info({ job: name, done }, often ? "work done" : "nightly work done");
			},
		});
		const queue = await startQueue(url, {
			zone: organisation.company.rules.zone.name,
			jobs: [...NIGHTLY.map((work) => logged(false, work)), ...OFTEN.map((work) => logged(true, work))],
			onError: (error) => log.error({ error: String(error) }, "job queue"),
		});
		let soon: ReturnType<typeof setTimeout> | null = null;
		onSaid(url, (said) => {
			if (soon || !("revision" in said)) return;
			soon = setTimeout(() => {
				soon = null;
				for (const { name, afterWrites } of OFTEN) if (afterWrites) queue.ask(name).catch((error) => log.error({ error: String(error) }, "job queue"));
			}, AFTER_WRITES);
		});
	} catch (error) {
		log.error({ error: String(error) }, "jobs couldn’t start; trying again in a minute");
		setTimeout(() => void startJobs(), 60_000).unref();
	}
}
