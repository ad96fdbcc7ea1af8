import { column } from "./column";

export const strength = column({ key: "strength", words: "Strength", means: "strength", kind: "count", order: "ascending", value: (row) => row.strength });
