import { step } from "../step";

/** It is still open and ours, and due after the period now, or without a date. */
export const pushedOut = step({
	kind: "pushed-out",
	way: "out",
	words: { name: "Pushed out", told: "pushed out", noun: ["push", "pushes"] },
	holds: (after) => after.kind === "open" && after.ours && (after.close === "after" || after.close === "none"),
});
