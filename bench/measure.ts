/** Milliseconds of each run after some to warm up, sorted. */
export async function timed(work: () => unknown, runs = 15, warm = 4): Promise<number[]> {
	// What was left over from before isn't counted as ours.
	(globalThis as { gc?: () => void }).gc?.();
	for (let i = 0; i < warm; i++) await work();
	const times: number[] = [];
	for (let i = 0; i < runs; i++) {
		const start = performance.now();
		await work();
		times.push(performance.now() - start);
	}
	return times.sort((a, b) => a - b);
}

export const median = (sorted: readonly number[]): number => sorted[Math.floor(sorted.length / 2)] ?? Number.NaN;
export const medianOf = async (work: () => unknown, runs?: number, warm?: number): Promise<number> => median(await timed(work, runs, warm));

export const ms = (value: number) => `${value < 10 ? value.toFixed(1) : Math.round(value)} ms`;
export const times = (value: number) => `${value < 10 ? value.toFixed(1) : Math.round(value)} ×`;

/** One measured figure with the aim beside it. */
export interface Line {
	readonly what: string;
	readonly measured: string;
	readonly aim: string;
	/** null where there is no aim */
	readonly met: boolean | null;
}

/** Lines as a table of Markdown, which reads well on a terminal too. */
export function tableOf(head: readonly string[], rows: readonly (readonly string[])[]): string {
	const width = head.map((name, i) => Math.max(name.length, ...rows.map((row) => (row[i] ?? "").length)));
	const line = (cells: readonly string[]) => `| ${cells.map((cell, i) => cell.padEnd(width[i] ?? 0)).join(" | ")} |`;
	return [line(head), `|${width.map((n) => "-".repeat(n + 2)).join("|")}|`, ...rows.map(line)].join("\n");
}

export const linesTable = (lines: readonly Line[]): string =>
	tableOf(
		["what", "measured", "aim", ""],
		lines.map(({ what, measured, aim, met }) => [what, measured, aim, met === null ? "" : met ? "met" : "not met"]),
	);
