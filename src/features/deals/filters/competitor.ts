import { choice } from "./filter";

export const competitor = choice("competitor", "competitor", (row) => [row.competitor]);
