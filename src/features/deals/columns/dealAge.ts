import { column } from "./column";

/** working days since it was opened */
export const dealAge = column({ key: "dealAge", label: "Deal age", kind: "count", value: (row) => row.dealAge });
