import { column } from "./column";

export const strength = column({ key: "strength", label: "Strength", means: "strength", kind: "count", order: "ascending", value: (row) => row.strength });
