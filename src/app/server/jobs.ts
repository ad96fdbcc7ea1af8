import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { pruneTail } from "@/data/store/touch";
import { CAPABILITIES } from "@/features/registry";
import type { Capability, NightlyWork } from "@/platform/capability";
import { startNightly } from "@/platform/jobs";
import { log } from "@/platform/log";

/** What capabilities do at night, and what the house does for itself. */
const NIGHTLY: readonly NightlyWork[] = [
	...(CAPABILITIES as readonly Capability[]).flatMap(({ nightly }) => nightly),
	{ name: "prune-tail", run: async () => ((await pruneTail(connection().db)) ? ["tail pruned"] : []) },
];

/** Starts what this process does by itself. A database that isn't there yet is tried again; the program works without it. */
export async function startJobs(): Promise<void> {
	const url = process.env.DATABASE_URL;
	if (!url) return;
	try {
		const organisation = await currentOrganisation(connection().db);
		await startNightly(url, {
			zone: organisation.company.rules.zone.name,
			jobs: NIGHTLY.map(({ name, run }) => ({
				name,
				work: async () => {
					const done = await run();
					if (done.length) log.info({ job: name, done }, "nightly work done");
				},
			})),
			onError: (error) => log.error({ error: String(error) }, "job queue"),
		});
	} catch (error) {
		log.error({ error: String(error) }, "jobs couldn't start; trying again in a minute");
		setTimeout(() => void startJobs(), 60_000).unref();
	}
}
