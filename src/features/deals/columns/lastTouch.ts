import { column } from "./column";

/** the day of the last contact with the buyer */
export const lastTouch = column({ key: "lastTouch", label: "Last contact", kind: "day", value: (row) => row.lastTouch });
