import { dealsThat } from "./dealChanges";
import { happening, NEVER } from "./happening";

/** A deal's attention reaches *act*. */
export const reachesAct = happening({
	kind: "act",
	label: "a deal reaches act",
	usual: NEVER,
	find: (scan) =>
		dealsThat(scan, (was, is) =>
			is.status === "open" && is.attention.level === "act" && was.attention.level !== "act"
				? { score: is.attention.score, reason: is.flags[0]?.reason ?? "" }
				: null,
		),
	say: ({ deal, score, reason }) => `${deal}: now at act (${score}): ${reason}`,
});
