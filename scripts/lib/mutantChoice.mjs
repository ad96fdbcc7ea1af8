// Stryker’s checker that lets through only what is to be tried: the mutants listed in a file, or one of every so many, always the same ones.
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { relative } from "node:path";
import { inRoot } from "./paths.mjs";

/** A mutant by its place and what it becomes, with lines and columns as Stryker’s report counts them. */
export const keyOf = (file, { mutatorName, replacement, location: { start, end } }) =>
	[file, mutatorName, replacement, start.line, start.column, end.line, end.column].join(" ");

/** The same of a mutant as a checker gets it, whose lines and columns count from 0. */
function keyOfChecked(mutant) {
	const move = ({ line, column }) => ({ line: line + 1, column: column + 1 });
	const location = { start: move(mutant.location.start), end: move(mutant.location.end) };
	return keyOf(relative(inRoot("."), mutant.fileName.replace(/.*\/var\/stryker\/[^/]+/, inRoot("."))), { ...mutant, location });
}

/** Whether a key is one of the sample, by its digest: no order of files or runs changes it. */
export const isSampled = (key, every) => createHash("sha256").update(key).digest().readUInt32BE() % every === 0;

class Choice {
	async init() {
		const { MUTANT_ONLY, MUTANT_EVERY } = process.env;
		this.only = MUTANT_ONLY ? new Set(JSON.parse(readFileSync(MUTANT_ONLY, "utf8"))) : null;
		this.every = Number(MUTANT_EVERY ?? 1);
	}

	async check(mutants) {
		const isTried = (key) => (this.only ? this.only.has(key) : isSampled(key, this.every));
		return Object.fromEntries(
			mutants.map((mutant) => [mutant.id, isTried(keyOfChecked(mutant)) ? { status: "passed" } : { status: "compileError", reason: "not tried" }]),
		);
	}
}

export const strykerPlugins = [{ kind: "Checker", name: "choice", injectableClass: Choice }];
