import { column } from "./column";

export const nextStepDate = column({ key: "nextStepDate", label: "Next step’s day", kind: "day", value: (row) => row.nextStepDate, width: "5.6rem" });
