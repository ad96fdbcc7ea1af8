import { choice } from "./filter";

export const industry = choice("industry", "industry", (row) => [row.industry]);
