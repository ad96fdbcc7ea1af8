import { choice } from "./filter";

export const customer = choice("customer", "customer or prospect", (row) => [row.customer]);
