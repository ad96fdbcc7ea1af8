import { choice } from "./filter";

export const owner = choice("owner", "rep", (row) => [row.owner]);
