import { figure } from "./filter";

export const probability = figure({ field: "probability", label: "chance", unit: "percent", number: (row) => Math.round(row.probability * 100) });
