import { column } from "./column";

/** working days from the seen day to the close date */
export const runway = column({ key: "runway", label: "Runway", means: "runway", kind: "count", order: "ascending", value: (row) => row.runway });
