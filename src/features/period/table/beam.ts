/** The parts of the beam, end to end. */
export const PARTS = [
	{ key: "won", label: "Won", amountOf: (f: Beamed) => f.won },
	{ key: "commit", label: "Commit", amountOf: (f: Beamed) => f.categories.commit },
	{ key: "bestCase", label: "Best case", amountOf: (f: Beamed) => f.categories.best_case },
	{ key: "pipeline", label: "Pipeline", amountOf: (f: Beamed) => f.categories.pipeline },
] as const;

type Sum = { readonly count: number; readonly amount: number };
export type Beamed = {
	readonly won: Sum;
	readonly categories: Readonly<Record<"commit" | "best_case" | "pipeline" | "left_out", Sum>>;
	readonly target: number | null;
};

/** How far a beam reaches: all its parts, or the target where that lies farther. */
export const reachOfBeam = (figures: Beamed): number =>
	Math.max(
		figures.target ?? 0,
		PARTS.reduce((sum, part) => sum + part.amountOf(figures).amount, 0),
	);
