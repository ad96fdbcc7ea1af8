import { bundle } from "../../scripts/lib/build.mjs";

/** Builds the program of the threads, which the server has from its build. */
export default async function setup(): Promise<void> {
	process.env.PORCH_LAMP_THREADS = "node_modules/.cache/porch-lamp/threads.mjs";
	await bundle("src/threads/main.ts", process.env.PORCH_LAMP_THREADS);
}
