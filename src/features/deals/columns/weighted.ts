import { column } from "./column";

/** the amount times the chance of its stage */
export const weighted = column({ key: "weighted", label: "Weighted", kind: "amount", value: (row) => row.weighted, width: "5.4rem" });
