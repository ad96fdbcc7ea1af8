import { step } from "../step";

/** It is still open and ours, and due before the period now. */
export const movedEarlier = step({
	kind: "moved-earlier",
	way: "out",
	words: { name: "Moved earlier", told: "moved earlier", week: "moved to an earlier period", noun: ["move", "moves"] },
	holds: (after) => after.kind === "open" && after.ours && after.close === "before",
});
