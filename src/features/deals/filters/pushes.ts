import { figure } from "./filter";

export const pushes = figure({ field: "pushes", label: "pushes", unit: "times", number: (row) => row.pushes });
