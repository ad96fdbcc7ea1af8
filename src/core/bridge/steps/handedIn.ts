import { step } from "../step";

/** It was open, and somebody else's. */
export const handedIn = step({
	kind: "handed-in",
	way: "in",
	words: { name: "Handed in", told: "handed in", noun: ["hand-over", "hand-overs"] },
	holds: (before) => before.kind === "open" && !before.ours,
});
