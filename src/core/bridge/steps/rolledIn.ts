import { step } from "../step";

/** It was due before the period, and its date was moved into it. */
export const rolledIn = step({
	kind: "rolled-in",
	way: "in",
	words: { name: "Rolled in", told: "rolled in", noun: ["roll-in", "roll-ins"] },
	holds: (before) => before.kind === "open" && before.ours && before.close === "before",
});
