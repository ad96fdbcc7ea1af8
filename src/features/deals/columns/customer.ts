import { column } from "./column";

export const customer = column({ key: "customer", label: "Customer or prospect", kind: "text", value: (row) => row.customer, width: "6.4rem" });
