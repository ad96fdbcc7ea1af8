import cluster from "node:cluster";
import { availableParallelism, totalmem } from "node:os";
import { config } from "@/config/config";
import { gathered, serveMetrics } from "./metrics";
import { supervise } from "./supervise";

/**
 * The program's server: one process a core behind one port. The first process only watches over the others, and starts
 * one that ends again.
 *
 * Set by the environment: PORT, PORCH_LAMP_PROCESSES (as many as there are cores), and PORCH_LAMP_METRICS (where it tells how it runs).
 */
if (cluster.isPrimary) {
	const processes = config().PORCH_LAMP_PROCESSES ?? availableParallelism();
	// Each keeps the whole company; what is left is the database's and the system's.
	const megabytes = Math.min(12_000, Math.max(512, Math.floor((totalmem() * 0.6) / 2 ** 20 / processes)));
	// Room for what lives as long as an answer: with less of it a page's objects are moved about several times.
	// A socket that was handed over goes on to each: none stands between it and those who answer.
	const socket = config().PORCH_LAMP_LISTEN_FD;
	const handed = socket === undefined ? null : { stdio: [0, 1, 2, socket, "ipc"] };
	cluster.setupPrimary({
		...handed,
		execArgv: [...process.execArgv, `--max-old-space-size=${megabytes}`, "--max-semi-space-size=64"],
	});
	supervise(processes, () => cluster.fork());
	const where = config().PORCH_LAMP_METRICS;
	if (where) serveMetrics(where, () => gathered(Object.values(cluster.workers ?? {}).flatMap((worker) => worker ?? [])));
} else {
	const { serve } = await import("./worker");
	await serve(config().PORT ?? 3000, config().PORCH_LAMP_LISTEN_FD !== undefined);
}
