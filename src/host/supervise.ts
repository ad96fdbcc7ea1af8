import type { Worker } from "node:cluster";
import { log } from "@/platform/log";
import { pauses } from "../../scripts/lib/pauses.mjs";

/** Keeps some processes running until this one is told to end; then they are, and it goes with the last. */
export function supervise(count: number, fork: () => Worker): void {
	const running = new Set<Worker>();
	let ending = false;
	const keep = () => {
		const pause = pauses();
		const start = () => {
			pause.began();
			const worker = fork();
			running.add(worker);
			worker.once("exit", (code, signal) => {
				running.delete(worker);
				if (ending) return void (running.size === 0 && process.exit(0));
				const wait = pause.next();
				log.error({ code, signal, pause: wait }, "a process of the server ended; it is started again");
				setTimeout(() => !ending && start(), wait);
			});
		};
		start();
	};
	const end = (signal: "SIGTERM" | "SIGUSR2") => {
		ending = true;
		if (!running.size) process.exit(0);
		for (const worker of running) worker.process.kill(signal);
	};
	for (const signal of ["SIGTERM", "SIGINT"] as const) process.on(signal, () => end("SIGTERM"));
	// Another takes over: what is being answered is answered to its end.
	process.on("SIGUSR2", () => end("SIGUSR2"));
	for (let i = 0; i < count; i++) keep();
}
