import { connection } from "@/data/db";
import { onSaid } from "@/data/live";
import { currentOrganisation } from "@/data/organisation/follow";

// One application server’s part in following: it keeps the company in memory, is told of each write, and takes it in. Says at
// its end what that cost.
const url = process.env.DATABASE_URL ?? "";
const { db } = connection();
const start = performance.now();
await currentOrganisation(db);
const started = performance.now() - start;
const began = process.cpuUsage();
const lags: number[] = [];
let followed = 0;
let working: Promise<unknown> = Promise.resolve();
onSaid(url, (said) => {
	if (!("revision" in said)) return;
	const heard = performance.now();
	working = working.then(async () => {
		await currentOrganisation(db, said.revision);
		lags.push(performance.now() - heard);
		followed++;
	});
});
process.send?.({ start: started });
process.on("message", async (what) => {
	if (what !== "end") return;
	await working;
	const { user, system } = process.cpuUsage(began);
	process.send?.({ followed, cpu: (user + system) / 1000, lags, memory: process.memoryUsage().rss }, () => process.exit(0));
});
