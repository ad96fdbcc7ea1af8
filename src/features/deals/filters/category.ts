import { choice } from "./filter";

export const category = choice("category", "category", (row) => [row.category?.replaceAll("_", " ") ?? null]);
