import { choice } from "./filter";

export const stage = choice("stage", "stage", (row) => [row.stage]);
