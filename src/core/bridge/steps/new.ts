import { step } from "../step";

/** It wasn't there at the earlier moment. */
export const newDeal = step({
	kind: "new",
	way: "in",
	words: { name: "New", told: "new", noun: ["arrival", "arrivals"] },
	holds: (before) => !before.exists,
});
