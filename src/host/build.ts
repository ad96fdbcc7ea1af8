import { existsSync, readFileSync } from "node:fs";

const FILE = ".next/BUILD_ID";
let known: string | undefined;

/** Which build of the program this is, as its builder named it; empty where nothing is built. */
export function build(): string {
	known ??= existsSync(FILE) ? readFileSync(FILE, "utf8").trim() : "";
	return known;
}
