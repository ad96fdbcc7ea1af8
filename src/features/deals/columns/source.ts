import { column } from "./column";

export const source = column({ key: "source", label: "Source", kind: "text", value: (row) => row.source, width: "6.6rem" });
