import { figure } from "./filter";

export const strength = figure({ field: "strength", words: "strength", unit: "points", ops: ["to", "from"], number: (row) => row.strength });
