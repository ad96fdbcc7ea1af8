import { figure } from "./filter";

export const pushes = figure({ field: "pushes", words: "pushes", unit: "times", number: (row) => row.pushes });
