import { choice } from "./filter";

export const territory = choice("territory", "territory", (row) => [row.territory]);
