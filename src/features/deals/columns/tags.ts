import { column } from "./column";

export const tags = column({ key: "tags", label: "Tags", kind: "text", value: (row) => row.tags.join(", ") || null });
