import { figure } from "./filter";

export const attention = figure({ field: "attention", label: "attention", unit: "points", number: (row) => row.score });
