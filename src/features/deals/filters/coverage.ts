import { figure } from "./filter";

export const coverage = figure({ field: "coverage", words: "coverage", unit: "points", ops: ["to", "from"], number: (row) => row.coverage });
