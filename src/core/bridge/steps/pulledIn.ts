import { step } from "../step";

/** It was due after the period, or had no date. */
export const pulledIn = step({
	kind: "pulled-in",
	way: "in",
	words: { name: "Pulled in", told: "pulled in", noun: ["pull-in", "pull-ins"] },
	holds: (before) => before.kind === "open" && before.ours && (before.close === "after" || before.close === "none"),
});
