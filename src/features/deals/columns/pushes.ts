import { column } from "./column";

export const pushes = column({ key: "pushes", words: "Pushes", kind: "count", value: (row) => row.pushes });
