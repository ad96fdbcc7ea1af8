import { column } from "./column";

export const competitor = column({ key: "competitor", words: "Competitor", kind: "text", value: (row) => row.competitor, width: "7.5rem" });
