import { figure } from "./filter";

export const dealAge = figure({ field: "dealAge", label: "deal age", unit: "working days", number: (row) => row.dealAge });
