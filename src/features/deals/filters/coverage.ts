import { figure } from "./filter";

export const coverage = figure({ field: "coverage", label: "coverage", unit: "points", ops: ["to", "from"], number: (row) => row.coverage });
