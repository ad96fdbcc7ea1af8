import { step } from "../step";

/** It was won. */
export const won = step({
	kind: "won",
	way: "out",
	words: { name: "Won", told: "won", noun: ["win", "wins"] },
	holds: (after) => after.kind === "won",
});
