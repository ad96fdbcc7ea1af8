import { column } from "./column";

export const created = column({ key: "created", words: "Opened", kind: "day", value: (row) => row.created });
