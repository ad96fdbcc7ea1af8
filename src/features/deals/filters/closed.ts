import { dayField } from "./filter";

export const closed = dayField("closed", "closed", (row) => row.closedOn);
