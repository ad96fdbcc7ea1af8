import { choice } from "./filter";

export const product = choice("product", "product", (row) => row.products);
