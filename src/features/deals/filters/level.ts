import { choice } from "./filter";

export const level = choice("level", "level", (row) => [row.level]);
