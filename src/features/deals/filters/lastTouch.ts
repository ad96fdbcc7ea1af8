import { parseDay } from "@/core/time/day";
import { plural } from "@/core/words/grammar";
import { countFilter } from "./filter";

const dayOf = (iso: string) => parseDay(iso) ?? 0;

/** Calendar days since the last contact; a deal that nobody was ever spoken to about was last spoken about long ago. */
export const lastTouch = countFilter({
	field: "lastTouch",
	label: "last contact",
	ops: ["over", "within"],
	unit: "days",
	meets: (row, { op, value }, { seen }) => {
		const days = row.lastTouch ? dayOf(seen) - dayOf(row.lastTouch) : Number.POSITIVE_INFINITY;
		return op === "over" ? days > Number(value) : days <= Number(value);
	},
	describe: ({ op, value }) =>
		op === "over" ? `last contact over ${plural(Number(value), "day")} ago` : `last contact within ${plural(Number(value), "day")}`,
});
