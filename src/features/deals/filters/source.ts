import { choice } from "./filter";

export const source = choice("source", "source", (row) => [row.source]);
