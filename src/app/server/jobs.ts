import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { keepNights } from "@/features/changes/server/keepNights";
import { startNightly } from "@/platform/jobs";
import { log } from "@/platform/log";

/** Starts what this process does by itself. A database that isn't there yet is tried again; the program works without it. */
export async function startJobs(): Promise<void> {
	const url = process.env.DATABASE_URL;
	if (!url) return;
	try {
		const organisation = await currentOrganisation(connection().db);
		await startNightly(url, {
			name: "keep-nights",
			zone: organisation.company.rules.zone.name,
			work: async () => {
				const days = await keepNights();
				if (days.length) log.info({ days }, "nights kept");
			},
			onError: (error) => log.error({ error: String(error) }, "job queue"),
		});
	} catch (error) {
		log.error({ error: String(error) }, "jobs couldn't start; trying again in a minute");
		setTimeout(() => void startJobs(), 60_000).unref();
	}
}
