import { step } from "../step";

/** It was taken off the books; it leaves at what it was worth before. */
export const removed = step({
	kind: "removed",
	way: "out",
	measure: "before",
	words: { name: "Removed", told: "removed", week: "removed", noun: ["removal", "removals"] },
	holds: (after) => !after.exists,
});
