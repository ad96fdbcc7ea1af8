import { figure } from "./filter";

export const gaps = figure({ field: "gaps", words: "evidence gaps", unit: "times", number: (row) => row.gaps });
