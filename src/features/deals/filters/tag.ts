import { choice } from "./filter";

export const tag = choice("tag", "tag", (row) => row.tags);
