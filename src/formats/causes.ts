import type { Problem } from "./bundle/model";

/** One thing that is wrong, however many rows have it. */
export interface Cause {
	readonly file: string;
	readonly column: string | null;
	readonly reason: string;
	/** rows that have it */
	readonly count: number;
	/** the first lines that have it, and some of the values there */
	readonly lines: readonly number[];
	readonly values: readonly string[];
	/** rows elsewhere that rest on those */
	readonly rests: number;
}

const LINES_NAMED = 5;
const VALUES_NAMED = 3;

/**
 * Problems by what they have in common: one cause, one entry, those with the most resting on them first, then those
 * with the most rows. A problem that rests on another row's counts with the cause of that row.
 */
export function causesOf(problems: readonly Problem[]): Cause[] {
	const causes = new Map<string, { problem: Problem; lines: Set<number>; values: Set<string>; count: number; rests: number }>();
	const ofRow = new Map<string, string>();
	for (const problem of problems) {
		if (problem.restsOn) continue;
		const key = JSON.stringify([problem.file, problem.column, problem.reason]);
		const cause = causes.get(key) ?? { problem, lines: new Set<number>(), values: new Set<string>(), count: 0, rests: 0 };
		causes.set(key, cause);
		cause.count++;
		if (problem.line !== null && cause.lines.size < LINES_NAMED) cause.lines.add(problem.line);
		if (problem.value && cause.values.size < VALUES_NAMED) cause.values.add(problem.value);
		if (problem.line !== null && !ofRow.has(`${problem.file} ${problem.line}`)) ofRow.set(`${problem.file} ${problem.line}`, key);
	}
	const above = new Map<string, string>();
	for (const { file, line, restsOn } of problems) if (restsOn && !above.has(`${file} ${line}`)) above.set(`${file} ${line}`, restsOn);
	/** the cause at the end of what a row rests on */
	const rootOf = (row: string): string | undefined => {
		const met = new Set<string>();
		let at: string | undefined = row;
		while (at && !ofRow.has(at) && !met.has(at)) {
			met.add(at);
			at = above.get(at);
		}
		return at && ofRow.get(at);
	};
	const resting = new Set<string>();
	for (const { file, line, restsOn } of problems) {
		if (!restsOn || resting.has(`${file} ${line}`)) continue;
		resting.add(`${file} ${line}`);
		const cause = causes.get(rootOf(restsOn) ?? "");
		if (cause) cause.rests++;
	}
	return [...causes.values()]
		.map(({ problem, lines, values, count, rests }) => ({
			file: problem.file,
			column: problem.column,
			reason: problem.reason,
			count,
			lines: [...lines],
			values: [...values],
			rests,
		}))
		.sort((a, b) => b.rests - a.rests || b.count - a.count);
}
