import { step } from "../step";

/** It was won or lost at the earlier moment, and is open again. */
export const reopened = step({
	kind: "reopened",
	way: "in",
	words: { name: "Reopened", told: "reopened", noun: ["return", "returns"] },
	holds: (before) => before.exists && before.kind !== "open",
});
