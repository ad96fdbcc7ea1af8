import { column } from "./column";

/** working days in the current stage */
export const stageAge = column({ key: "stageAge", label: "Days in stage", kind: "count", value: (row) => row.stageAge });
