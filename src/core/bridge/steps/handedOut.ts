import { step } from "../step";

/** It is open, and somebody else's now. */
export const handedOut = step({
	kind: "handed-out",
	way: "out",
	words: { name: "Handed out", told: "handed out", noun: ["hand-over", "hand-overs"] },
	holds: (after) => after.kind === "open" && !after.ours,
});
