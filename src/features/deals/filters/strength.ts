import { figure } from "./filter";

export const strength = figure({ field: "strength", label: "strength", unit: "points", ops: ["to", "from"], number: (row) => row.strength });
