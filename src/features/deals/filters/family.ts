import { choice } from "./filter";

export const family = choice("family", "product family", (row) => row.families);
