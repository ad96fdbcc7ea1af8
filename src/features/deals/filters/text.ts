import type { FilterField } from "./filter";

/** Words in notes and activities, which the server looks up. */
export const text: FilterField = {
	field: "text",
	label: "text in notes and activities",
	ops: ["has"],
	unit: "text",
	reads: () => true,
	meets: (row, { value }, { found }) => found.get(value)?.has(row.id) ?? true,
	describe: ({ value }) => `“${value}” in notes or activities`,
};
