import { figure } from "./filter";

export const stageAge = figure({ field: "stageAge", label: "time in stage", unit: "working days", number: (row) => row.stageAge });
