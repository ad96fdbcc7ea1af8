import { column } from "./column";

export const pushes = column({ key: "pushes", label: "Pushes", kind: "count", value: (row) => row.pushes });
