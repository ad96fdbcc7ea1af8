import { figure } from "./filter";

export const gaps = figure({ field: "gaps", label: "evidence gaps", unit: "times", number: (row) => row.gaps });
