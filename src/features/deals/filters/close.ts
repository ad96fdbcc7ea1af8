import { dayField } from "./filter";

export const close = dayField("close", "close date", (row) => row.close);
