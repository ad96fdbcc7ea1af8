import { column } from "./column";

/** questions that are due and were not heard from the buyer */
export const gaps = column({ key: "gaps", label: "Gaps", kind: "count", value: (row) => row.gaps });
