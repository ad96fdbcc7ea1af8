import { column } from "./column";

export const coverage = column({ key: "coverage", words: "Coverage", kind: "count", order: "ascending", value: (row) => row.coverage });
