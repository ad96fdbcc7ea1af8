import { column } from "./column";

export const created = column({ key: "created", label: "Opened", kind: "day", value: (row) => row.created });
