import { step } from "../step";

/** Its amount fell, at the rates of the later moment. */
export const shrank = step({
	kind: "shrank",
	way: "down",
	measure: "loss",
	words: { name: "Shrank", told: "cut", noun: ["cut", "cuts"] },
	holds: (before, after) => after < before,
});
