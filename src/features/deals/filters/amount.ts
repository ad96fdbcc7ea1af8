import { figure } from "./filter";

export const amount = figure({ field: "amount", label: "amount", unit: "amount", number: (row) => (row.amountBlank ? null : row.amount) });
