import { column } from "./column";

export const competitor = column({ key: "competitor", label: "Competitor", kind: "text", value: (row) => row.competitor, width: "7.5rem" });
