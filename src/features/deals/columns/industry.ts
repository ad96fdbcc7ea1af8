import { column } from "./column";

export const industry = column({ key: "industry", label: "Industry", kind: "text", value: (row) => row.industry, width: "6.6rem" });
