import { column } from "./column";

export const customer = column({ key: "customer", words: "Customer or prospect", kind: "text", value: (row) => row.customer, width: "6.4rem" });
