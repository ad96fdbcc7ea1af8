import { step } from "../step";

/** It was lost. */
export const lost = step({
	kind: "lost",
	way: "out",
	words: { name: "Lost", told: "lost", noun: ["loss", "losses"] },
	holds: (after) => after.kind === "lost",
});
