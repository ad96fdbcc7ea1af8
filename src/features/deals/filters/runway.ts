import { plural } from "@/core/words/grammar";
import { countFilter } from "./filter";

/** Working days to the close date; one that has passed isn't within any. */
export const runway = countFilter({
	field: "runway",
	label: "closing",
	ops: ["within", "over"],
	unit: "working days",
	meets: ({ runway: left }, { op, value }) => left !== null && (op === "within" ? left >= 0 && left <= Number(value) : left > Number(value)),
	describe: ({ op, value }) =>
		op === "within" ? `closing in the next ${plural(Number(value), "working day")}` : `closing later than in ${plural(Number(value), "working day")}`,
});
