import { figure } from "./filter";

export const amount = figure({ field: "amount", words: "amount", unit: "amount", number: (row) => (row.amountBlank ? null : row.amount) });
