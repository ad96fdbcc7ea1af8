import { column } from "./column";

/** the chance of being won, of its stage */
export const probability = column({ key: "probability", label: "Chance", kind: "percent", value: (row) => Math.round(row.probability * 100) });
