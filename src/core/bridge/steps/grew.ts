import { step } from "../step";

/** Its amount rose, at the rates of the later moment. */
export const grew = step({
	kind: "grew",
	way: "up",
	measure: "gain",
	words: { name: "Grew", told: "grown", noun: ["increase", "increases"] },
	holds: (before, after) => after > before,
});
