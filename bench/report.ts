import { readFileSync, writeFileSync } from "node:fs";
import { cpus, totalmem } from "node:os";

/** What the figures of this run were measured on. */
export const machine = (): string =>
	`Measured on ${cpus().length} cores (${cpus()[0]?.model.trim() ?? "unknown"}), ${Math.round(totalmem() / 2 ** 30)} GiB, Node ${process.versions.node}, in one run.`;

/** Prints a table, and puts it into its place in a file of docs/ when asked to. */
export function report(place: "table" | "load" | "calibration" | "cluster", text: string, file = "docs/performance.md"): void {
	process.stdout.write(`\n${text}`);
	if (!process.argv.includes("--write")) return;
	const before = readFileSync(file, "utf8");
	const [start, end] = [`<!-- ${place} -->`, `<!-- end of ${place} -->`];
	writeFileSync(file, `${before.slice(0, before.indexOf(start) + start.length)}\n\n${text}\n${before.slice(before.indexOf(end))}`);
}
