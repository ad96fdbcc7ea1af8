import { figure } from "./filter";

export const dealAge = figure({ field: "dealAge", words: "deal age", unit: "working days", number: (row) => row.dealAge });
