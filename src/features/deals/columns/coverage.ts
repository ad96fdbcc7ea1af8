import { column } from "./column";

export const coverage = column({ key: "coverage", label: "Coverage", means: "coverage", kind: "count", order: "ascending", value: (row) => row.coverage });
