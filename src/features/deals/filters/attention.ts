import { figure } from "./filter";

export const attention = figure({ field: "attention", words: "attention", unit: "points", number: (row) => row.score });
